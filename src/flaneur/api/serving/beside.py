"""What a web process does besides serving: books are compiled beside the first requests, so that a
process that was killed is back at once.
"""

import threading
from typing import Any

from flaneur.jobs.warming import warm


def post_worker_init(worker: Any) -> None:
    """Compile the depot's books in the background."""
    settings = worker.app.wsgi().config["SETTINGS"]
    if settings.compile_ahead:
        threading.Thread(target=warm, args=(settings.database_url,), daemon=True).start()
