"""What the web server does besides serving; gunicorn reads this as its configuration."""

from typing import Any

from flaneur.jobs.warming import warm_in_background


def post_worker_init(worker: Any) -> None:
    """Compile the depot's books while the first person signs in."""
    warm_in_background(worker.app.callable.config["ENGINE"])
