"""What crosses the network here: one model a message."""

from datetime import datetime

from pydantic import Field

from flaneur.api.models import In, Line, Out, SmallId, Text, Version
from flaneur.jobs.telling import MOST_PHOTOS


class SignInput(In):
    version: Version
    left_over: Text = ""
    password: Line
    photos: list[SmallId] | None = Field(
        default=None, max_length=MOST_PHOTOS, description="Shown in the report; None: the first."
    )


class PhotoChoice(Out):
    """A photograph of the job; ``is_shown``: the report shows it unless others are chosen."""

    id: int
    caption: str
    taken_by: str
    is_shown: bool


class HandoverOut(Out):
    is_released: bool
    is_signed: bool
    signed_by: str | None
    signed_at: datetime | None
    signed_at_depot: str | None
    sha256: str | None
    head: str | None
    signing_key: str | None
    left_over: str
    summary: list[str]
    photos: list[PhotoChoice]
