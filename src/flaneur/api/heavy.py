"""Questions that take the machine a while: two are worked out at a time, however many are asked, so
that everything else in the same process goes on.
"""

import threading
from collections.abc import Callable
from functools import wraps
from typing import Any

AT_A_TIME = 2

_turns = threading.BoundedSemaphore(AT_A_TIME)


def takes_a_while(view: Callable[..., Any]) -> Callable[..., Any]:
    """Work a view out when its turn comes."""

    @wraps(view)
    def in_turn(*arguments: Any, **named: Any) -> Any:
        with _turns:
            return view(*arguments, **named)

    return in_turn
