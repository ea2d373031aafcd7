"""For what takes the machine a while: it starts like the others, and gives way to them from then
on.
"""

import os
from typing import Any

from flaneur.api.serving import beside


def post_worker_init(worker: Any) -> None:
    """Compile the books as the others do, and be nice."""
    os.nice(5)
    beside.post_worker_init(worker)
