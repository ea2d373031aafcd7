"""How large a request may be, by endpoint: one table for the application and for what stands before
it. What is not in it takes words and figures, no files.
"""

from flask import Flask, request

from flaneur.api.errors import TooLarge
from flaneur.api.settings import Settings

WORDS_BYTES = 3_000_000  # the text of an engine book is the largest of these
FORM_BYTES = 100_000  # what a form puts round its file

LARGE = {
    "captures.capture_from_file": "upload_limit_bytes",
    "logs.log_from_file": "upload_limit_bytes",
    "archives.import_archive": "archive_limit_bytes",
    "readings.add_photo": "photo_limit_bytes",
    "hands.add_photo": "photo_limit_bytes",
}


def largest_bytes(settings: Settings, endpoint: str | None) -> int:
    """The most bytes a request to this endpoint may have."""
    limit = LARGE.get(endpoint or "")
    return int(getattr(settings, limit)) + FORM_BYTES if limit else WORDS_BYTES


def limit_sizes(app: Flask, settings: Settings) -> None:
    """Refuse what is larger before anything of it is read."""
    app.config["MAX_CONTENT_LENGTH"] = max(largest_bytes(settings, e) for e in LARGE)
    app.config["MAX_FORM_MEMORY_SIZE"] = 2_000_000

    @app.before_request
    def of_this_endpoint() -> None:
        request.max_content_length = largest_bytes(settings, request.endpoint)
        if (request.content_length or 0) > request.max_content_length:
            limit = request.max_content_length - (FORM_BYTES if request.endpoint in LARGE else 0)
            raise TooLarge(
                "This is too large.",
                read=f"{request.content_length:,} bytes",
                expected=f"at most {limit:,} bytes",
            )
