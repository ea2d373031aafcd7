"""What the web server does besides serving; gunicorn reads this as its configuration."""

from typing import Any

from flaneur.jobs.warming import warm


def when_ready(server: Any) -> None:
    """Compile the depot's books before there are workers: they begin with what was worked out."""
    warm(server.app.wsgi().config["ENGINE"])
