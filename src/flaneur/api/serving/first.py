"""For what answers verdicts: books are compiled before the socket is there, so that nobody waits
for them afterwards.
"""

from typing import Any

from flaneur.jobs.warming import warm


def on_starting(server: Any) -> None:
    """Compile the depot's books."""
    settings = server.app.wsgi().config["SETTINGS"]
    if settings.compile_ahead:
        warm(settings.database_url)
