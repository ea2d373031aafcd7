"""What crosses the network here: one model a message."""

from datetime import datetime

from flaneur.api.models import In, Line, Out, Text, Version


class SignInput(In):
    version: Version
    left_over: Text = ""
    password: Line


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
