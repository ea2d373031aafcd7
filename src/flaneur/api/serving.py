"""What the web server does besides serving; gunicorn reads this as its configuration."""

from typing import Any

from flaneur.jobs.warming import warm


def on_starting(server: Any) -> None:
    """Compile the depot's books before the socket is there: until then another process answers,
    and the workers begin with what was worked out.
    """
    warm(server.app.wsgi().config["ENGINE"])
