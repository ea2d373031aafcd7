"""For what answers pages: books are compiled beside the first requests, and it is back at once."""

import threading
from typing import Any

from flaneur.jobs.warming import warm


def post_worker_init(worker: Any) -> None:
    """Compile the depot's books in the background."""
    url = worker.app.wsgi().config["SETTINGS"].database_url
    threading.Thread(target=warm, args=(url,), daemon=True).start()
