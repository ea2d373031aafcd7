"""One spelling for one content, so that the same content has the same hash wherever it is
computed.
"""

import hashlib
import json
import math
from collections.abc import Mapping, Sequence
from datetime import UTC, datetime
from typing import Any, cast

from flaneur.core.errors import RecordError


def canonical(content: object) -> str:
    """JSON with sorted keys, no blanks, times in UTC to the microsecond, and whole numbers without
    a point.

    A database may write 100.0 as 100 and 1e20 as its digits: both come out the same here. Raises
    RecordError for what JSON cannot hold (not a number, infinity, bytes).
    """
    return json.dumps(
        _plain(content), sort_keys=True, separators=(",", ":"), ensure_ascii=False, allow_nan=False
    )


def digest(content: object) -> str:
    """SHA-256 of the canonical spelling, 64 hexadecimal digits."""
    return hashlib.sha256(canonical(content).encode()).hexdigest()


def digest_of_text(text: str) -> str:
    """SHA-256 of a text as UTF-8, 64 hexadecimal digits."""
    return hashlib.sha256(text.encode()).hexdigest()


def utc(when: datetime) -> str:
    """A time as the record spells it."""
    return when.astimezone(UTC).isoformat(timespec="microseconds")


def _plain(content: object) -> Any:
    if content is None or isinstance(content, bool | str | int):
        return content
    if isinstance(content, float):
        if not math.isfinite(content):
            raise RecordError(
                "A record cannot hold this number.", read=str(content), expected="a finite number"
            )
        return int(content) if content.is_integer() else content
    if isinstance(content, datetime):
        return utc(content)
    if isinstance(content, Mapping):
        return {
            str(key): _plain(value) for key, value in cast(Mapping[object, object], content).items()
        }
    if isinstance(content, Sequence) and not isinstance(content, bytes | bytearray):
        return [_plain(value) for value in cast(Sequence[object], content)]
    raise RecordError(
        "A record cannot hold this.",
        read=type(content).__name__,
        expected="text, numbers, times, lists and maps",
    )
