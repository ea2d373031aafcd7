"""For what takes the machine a while: it starts like the others, and gives way to them from then
on.
"""

from typing import Any

from flaneur.api.serving.beside import SERVES_AT, begin_to_serve, on_starting

__all__ = ["on_starting", "post_worker_init"]
GIVES_WAY = 2  # more than what serves pages


def post_worker_init(worker: Any) -> None:
    """Give way to what starts and to what serves pages."""
    begin_to_serve(worker, SERVES_AT + GIVES_WAY)
