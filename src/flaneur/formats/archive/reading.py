"""A job file from its bytes."""

import json
from typing import Any

from pydantic import ValidationError

from flaneur.formats.archive.models import FIRST_FORMAT, FORMAT, Archive, ArchiveError
from flaneur.formats.archive.packing import is_packed, unpack


def read_archive(content: bytes) -> Archive:
    """Read a job file, as JSON or as a zip, of this format or the one before it. Raises
    ArchiveError naming the place that does not fit.
    """
    if is_packed(content):
        content = unpack(content)
    try:
        found = json.loads(content)
    except (ValueError, RecursionError) as error:
        raise _refused(f"{type(error).__name__}: {str(error)[:80]}") from error
    if not isinstance(found, dict) or found.get("format") not in (FORMAT, FIRST_FORMAT):
        read = str(found.get("format"))[:60] if isinstance(found, dict) else type(found).__name__
        raise _refused(read)
    try:
        return Archive.model_validate_json(
            json.dumps(_brought_up(found)) if found["format"] == FIRST_FORMAT else content
        )
    except ValidationError as error:
        fault = error.errors(include_url=False, include_input=False)[0]
        where = ".".join(str(part) for part in fault["loc"])
        raise ArchiveError(
            "The job file is damaged, or not written by Flaneur.",
            read=f"{where}: {fault['msg']}"[:200],
            expected=FORMAT,
            advice="Nothing was taken in. Take the file again from the depot it came from.",
        ) from error
    except RecursionError as error:
        raise _refused("a file nested too deep") from error


def _refused(read: str) -> ArchiveError:
    return ArchiveError(
        "This is not a job file.", read=read, expected="a zip, or a JSON file, exported by Flaneur"
    )


def _brought_up(found: dict[str, Any]) -> dict[str, Any]:
    """A file of the first format in the shape of this one; it carries no chain and no seal."""
    known = set(Archive.model_fields) - {"seal", "wrapper"}
    entries = found.get("journal")
    journal = [
        {
            **{k: v for k, v in entry.items() if k not in ("previous", "hash")},
            "version": number,
            "reverses": None,
        }
        for number, entry in enumerate(entries if isinstance(entries, list) else [], 2)
        if isinstance(entry, dict)
    ]
    return {**{k: v for k, v in found.items() if k in known}, "journal": journal}
