"""Room on the disk. A database that runs out of it stops; so changes are refused while there is
still a reserve, and taken again as soon as there is room.
"""

from flask import Flask, request

from flaneur.api.errors import NoRoom
from flaneur.api.settings import Settings
from flaneur.jobs.room import missing_bytes

SAFE = frozenset({"GET", "HEAD", "OPTIONS"})
# What makes nothing that stays, or ends something.
FREE = frozenset({"session.sign_in", "session.sign_out", "live.disconnect"})


def keep_a_reserve(app: Flask, settings: Settings) -> None:
    """Refuse changes that would go into the reserve of the disk the data lies on."""
    if not settings.data:
        return

    @app.before_request
    def room_left() -> None:
        if request.method in SAFE or request.endpoint in FREE:
            return
        wanted = 2 * (request.content_length or 0)  # once as it comes, once as it is kept
        missing = missing_bytes(settings.data, settings.disk_reserve_bytes, wanted)
        if missing:
            raise NoRoom(
                "The server's disk is nearly full.",
                read=f"{missing / 1e6:,.0f} MB too little",
                expected=f"a reserve of {settings.disk_reserve_bytes / 1e6:,.0f} MB, so that the "
                "record stays whole",
                advice="Nothing was saved; what you typed stays on the page. Tell the lead: room "
                "must be made on the server's disk.",
            )
