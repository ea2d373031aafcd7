"""For what takes the machine a while: it starts like the others, and gives way to them from then
on.
"""

import os
from typing import Any

from flaneur.api.serving import beside
from flaneur.jobs.warming import warm_at_work

AHEAD_S = 1.0  # what whoever asks first would wait for, and not much more


def post_worker_init(worker: Any) -> None:
    """Compile the book at work before the first request, the others beside, and be nice."""
    settings = worker.app.wsgi().config["SETTINGS"]
    if settings.compile_ahead:
        warm_at_work(settings.database_url, AHEAD_S)
    os.nice(5)
    beside.post_worker_init(worker)
