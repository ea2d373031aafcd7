"""For what answers pages: books are compiled beside the first requests, and it is back at once."""

import threading
from typing import Any

from flaneur.jobs.warming import warm


def post_worker_init(worker: Any) -> None:
    """Compile the depot's books in the background."""
    settings = worker.app.wsgi().config["SETTINGS"]
    if settings.compile_ahead:
        threading.Thread(target=warm, args=(settings.database_url,), daemon=True).start()
