"""For the live looks: nothing is compiled ahead."""

import os
from typing import Any

from flaneur.api.serving.beside import SERVES_AT


def post_worker_init(worker: Any) -> None:
    """Give way to what starts."""
    del worker
    os.nice(SERVES_AT)
