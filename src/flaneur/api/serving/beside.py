"""What a web process does besides serving.

Books at work are compiled before it listens, so that nobody is sent to one that is not ready: the
proxy asks another meanwhile. It has the machine's time before others until then; from then on it
gives way to whatever starts.
"""

import os
import threading
from typing import Any

from flaneur.jobs.warming import warm, warm_at_work

AHEAD_S = 2.0  # what whoever asks first would wait for, and not much more
SERVES_AT = 5  # niceness; what starts is at nought


def on_starting(server: Any) -> None:
    """Compile the books at work, before the master listens and its worker is forked from it."""
    settings = server.app.wsgi().config["SETTINGS"]
    if settings.compile_ahead:
        warm_at_work(settings.database_url, AHEAD_S)


def post_worker_init(worker: Any) -> None:
    """Give way to what starts, and compile the depot's other books beside requests."""
    begin_to_serve(worker, SERVES_AT)


def begin_to_serve(worker: Any, niceness: int) -> None:
    """Be as nice as that, with every book compiled after a while."""
    os.nice(niceness)
    settings = worker.app.wsgi().config["SETTINGS"]
    if settings.compile_ahead:
        threading.Thread(target=warm, args=(settings.database_url,), daemon=True).start()
