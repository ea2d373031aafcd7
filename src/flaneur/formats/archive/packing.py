"""A job file as a zip: the rows as JSON, and beside them, each in a format that other programs
read, what they refer to: samples as Parquet, photographs as WebP, the report as HTML and PDF.

Taken apart and put together again it is the same job file to the last byte of every content, so
that seal and wrapper hold.
"""

import base64
import io
import json
import zipfile
import zlib
from collections.abc import Iterator
from typing import Any, cast

from flaneur.formats.archive.models import Archive, ArchiveError

ROWS = "job.json"
MAGIC = b"PK\x03\x04"
MOST_MEMBERS, MOST_BYTES = 5000, 1_500_000_000
WRITTEN_AT = (1980, 1, 1, 0, 0, 0)  # the same job is the same file
BESIDE = (("captures", "captures/C", "parquet"), ("photos", "photos/P", "webp"))
Place = tuple[dict[str, Any], str]
# A member under a password, or packed in a way nobody here reads, is a RuntimeError of the library.
UNREADABLE = (zipfile.BadZipFile, zlib.error, ValueError, RuntimeError, EOFError)


def is_packed(content: bytes) -> bool:
    """Whether a file is a zip."""
    return content.startswith(MAGIC)


def pack(archive: Archive) -> bytes:
    """A job file as a zip."""
    rows = json.loads(archive.model_dump_json())
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as file:
        for name, (row, key) in _members(rows):
            text = str(row[key])
            file.writestr(_named(name), text.encode() if key == "html" else base64.b64decode(text))
            row[key] = ""
        file.writestr(_named(ROWS), json.dumps(rows, ensure_ascii=False).encode())
    return out.getvalue()


def unpack(content: bytes) -> bytes:
    """The JSON of a job file from its zip. Raises ArchiveError for one that is damaged, or holds
    anything but what its rows refer to.
    """
    try:
        with zipfile.ZipFile(io.BytesIO(content)) as file:
            return _joined(file)
    except UNREADABLE as error:
        raise _refused(f"{type(error).__name__}: {str(error)[:80]}") from error


def _joined(file: zipfile.ZipFile) -> bytes:
    there = {info.filename: info for info in file.infolist()}
    size = sum(info.file_size for info in there.values())
    if len(there) > MOST_MEMBERS or size > MOST_BYTES:
        raise _refused(f"{len(there)} members, {size:,} bytes unpacked")
    if ROWS not in there:
        raise _refused(f"a zip without {ROWS}")
    rows = json.loads(file.read(ROWS))
    if not isinstance(rows, dict):
        raise _refused(type(rows).__name__)
    expected = {ROWS}
    for name, (row, key) in _members(cast(dict[str, Any], rows)):
        if name not in there:
            raise _refused(f"a zip without {name}")
        found = file.read(name)
        row[key] = found.decode() if key == "html" else base64.b64encode(found).decode()
        expected.add(name)
    if strange := sorted(set(there) - expected):
        raise _refused(f"{strange[0][:60]}, which no row refers to")
    return json.dumps(rows, ensure_ascii=False).encode()


def _members(rows: dict[str, Any]) -> Iterator[tuple[str, Place]]:
    """Every member beside the rows: its name, and where in them its content belongs."""
    for key, folder, ending in BESIDE:
        listed = rows.get(key)
        for number, row in enumerate(listed if isinstance(listed, list) else [], 1):
            if isinstance(row, dict) and "content" in row:
                yield f"{folder}{number}.{ending}", (cast(dict[str, Any], row), "content")
    report = rows.get("report")
    if isinstance(report, dict):
        for key in ("html", "pdf"):
            if key in report:
                yield f"report.{key}", (cast(dict[str, Any], report), key)


def _named(name: str) -> zipfile.ZipInfo:
    info = zipfile.ZipInfo(name, WRITTEN_AT)
    info.compress_type = zipfile.ZIP_DEFLATED
    return info


def _refused(read: str) -> ArchiveError:
    return ArchiveError(
        "This is not a job file.",
        read=read,
        expected="a zip, or a JSON file, exported by Flaneur",
        advice="Nothing was taken in. Take the file again from the depot it came from.",
    )
