"""How a text capture is laid out: its letters, separator, header, units, and where samples begin
and end.
"""

import csv
import re
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path

from flaneur.core.errors import CaptureError
from flaneur.formats.cells import plain_cell

HEAD, TAIL, PIECE = 65_536, 65_536, 1 << 20
MOST_CHANNELS, MOST_NOTES = 16, 200
SEPARATORS = (";", "\t", ",", "|")
UNIT = re.compile(r"[\[(]([^\])]*)[\])]\s*$")
TIME_FACTORS = {"": 1.0, "s": 1.0, "ms": 1e-3, "us": 1e-6, "µs": 1e-6, "μs": 1e-6, "ns": 1e-9}
VOLT_FACTORS = {"": 1.0, "v": 1.0, "mv": 1e-3, "uv": 1e-6, "µv": 1e-6}
_RATE = re.compile(r"rate(?:_hz)?\s*[:=]?\s*([0-9][0-9.,]*(?:e[+-]?\d+)?)", re.IGNORECASE)
_NUMBER = re.compile(r"[+-]?(\d+([.,]\d*)?|[.,]\d+)(e[+-]?\d+)?|nan", re.IGNORECASE)
_MARKS = {b"\xff\xfe": "utf-16", b"\xfe\xff": "utf-16"}


@dataclass(frozen=True)
class Layout:
    """``names`` of the columns with their units, ``body``: lines before the first sample, ``end``:
    bytes up to the end of the last one, ``rate_hz`` as a remark states it; ``notes``: what was
    passed over.
    """

    names: list[str]
    separator: str
    decimal: str
    body: int
    end: int
    rate_hz: float | None
    notes: tuple[str, ...]


def in_utf8(path: Path, plain: Path) -> Path:
    """The file in UTF-8: itself, or where it is in another alphabet written to ``plain``."""
    with path.open("rb") as file:
        head = file.read(HEAD)
    letters = _MARKS.get(head[:2]) or _unmarked(head)
    if letters is None:
        return path
    try:
        with (
            path.open(encoding=letters, newline="") as text,
            plain.open("w", encoding="utf-8", newline="") as out,
        ):
            while piece := text.read(PIECE):
                out.write(piece)
    except UnicodeError as error:
        raise CaptureError(
            "This is not a text file.", read=f"{letters}: {error}"[:160], expected="UTF-8 CSV"
        ) from error
    return plain


def _unmarked(head: bytes) -> str | None:
    """UTF-16 without its mark: every other byte of plain figures is nought."""
    pairs = len(head) // 2
    if pairs < 8:
        return None
    if head[1 : 2 * pairs : 2].count(0) > 0.9 * pairs:
        return "utf-16-le"
    if head[0 : 2 * pairs : 2].count(0) > 0.9 * pairs:
        return "utf-16-be"
    return None


def layout_of(path: Path, name: str) -> Layout:
    """Look at a file's first and last lines. Raises CaptureError for one that is no text, or names
    no columns.
    """
    with path.open("rb") as file:
        head = file.read(HEAD)
    lines = _decoded(head, name).splitlines()
    if len(head) == HEAD and lines:
        lines.pop()  # cut in the middle
    given = None
    if lines and (match := re.fullmatch(r"sep=(.)", lines[0].strip().strip('"'))):
        given, lines[0] = match[1], "# " + lines[0]
    told = [i for i, line in enumerate(lines) if line.strip() and not _is_remark(line)]
    if not told:
        raise CaptureError(
            "The file names no columns.",
            read=f"{name}, only remarks",
            expected="a line of column names",
        )
    separator, first = _first_sample(lines, told, given)
    header = _header(lines, told, separator, first)
    names = [plain_cell(n.strip().strip('"')) for n in _cells(lines[header], separator)]
    names = [n or f"column {i + 1}" for i, n in enumerate(names)]
    while len(names) > 1 and _ends_open(lines[header], separator, names):
        names.pop()
    _check(names)
    body = header + 1
    units = _units_row(lines[body], separator, len(names)) if body < len(lines) else None
    if units is not None:
        names = [
            n if UNIT.search(n) or not u else f"{n} ({u})"
            for n, u in zip(names, units, strict=True)
        ]
        body += 1
    rows = lines[body : body + 2000]
    end, dropped = _end(path, separator, len(names))
    return Layout(
        names=names,
        separator=separator,
        decimal="," if separator != "," and any("," in r for r in rows) else ".",
        body=body,
        end=end,
        rate_hz=_rate(lines[:header]),
        notes=(f"{dropped} lines after the last sample are no samples.",) if dropped else (),
    )


def _decoded(head: bytes, name: str) -> str:
    if b"\x00" in head:
        raise CaptureError(
            "This is not a text file.",
            read=f"{name}, binary bytes",
            expected="a CSV, WAV, MDF4 or Parquet capture",
        )
    try:
        return head.decode("utf-8-sig", errors="strict" if len(head) < HEAD else "ignore")
    except UnicodeDecodeError as error:
        text = head.decode("cp1252", errors="replace")
        strange = sum(not (c.isprintable() or c in "\r\n\t") for c in text)
        if strange > len(text) // 50:
            raise CaptureError(
                "This is not a text file.",
                read=f"{name}, byte {head[error.start]:#x}",
                expected="UTF-8 CSV",
            ) from error
        return text


def _is_remark(line: str) -> bool:
    return line.lstrip().startswith("#")


def _cells(line: str, separator: str) -> list[str]:
    return next(csv.reader([line], delimiter=separator), [])


def _numbers(line: str, separator: str) -> int:
    """How many figures a line is of; nought when it holds anything else."""
    cells = [c.strip() for c in _cells(line, separator)]
    while cells and not cells[-1]:
        cells.pop()
    return len(cells) if all(_NUMBER.fullmatch(c) for c in cells) else 0


def _first_sample(lines: list[str], told: list[int], given: str | None) -> tuple[str, int | None]:
    """The separator, and the first line of two figures or more that is followed by another."""
    best: tuple[int, int, str] | None = None
    for separator in (given,) if given else SEPARATORS:
        for place, i in enumerate(told):
            size = _numbers(lines[i], separator)
            after = told[place + 1] if place + 1 < len(told) else i
            if size > 1 and _numbers(lines[after], separator) == size:
                if best is None or (i, -size) < best[:2]:
                    best = (i, -size, separator)
                break
    if best is not None:
        return best[2], best[0]
    header = lines[told[0]]
    found = given or max(SEPARATORS, key=header.count)
    if header.count(found) == 0:
        raise CaptureError(
            "The first line does not name columns.",
            read=f"“{header[:60]}”",
            expected="time and sensor names, separated by , ; or tab",
        )
    return found, None


def _header(lines: list[str], told: list[int], separator: str, first: int | None) -> int:
    """The line that names the columns: the first of as many cells as a sample has that holds no
    figure, above the first sample.
    """
    if first is None:
        return told[0]
    size = _numbers(lines[first], separator)
    for i in told:
        if i >= first:
            break
        cells = [c.strip() for c in _cells(lines[i], separator)]
        full = [c for c in cells if c]
        if len(cells) in (size, size + 1) and full and not any(map(_NUMBER.fullmatch, full)):
            return i
    raise CaptureError(
        "The file names no columns.",
        read=f"figures from line {first + 1} on, and no names above them",
        expected="a line of column names, such as time (s), crank, cam",
        advice="Put such a line above the figures.",
    )


def _ends_open(line: str, separator: str, names: Sequence[str]) -> bool:
    return line.rstrip().endswith(separator) and names[-1].startswith("column ")


def _check(names: list[str]) -> None:
    if len(names) > MOST_CHANNELS + 1:
        raise CaptureError(
            "The capture has too many columns.",
            read=str(len(names)),
            expected=f"at most {MOST_CHANNELS + 1}",
        )
    if len(set(names)) < len(names):
        raise CaptureError(
            "Two columns have one name.",
            read=", ".join(names),
            expected="a name of its own for each",
        )


def _units_row(line: str, separator: str, count: int) -> list[str] | None:
    """Units from the row under the header, where there is one: a row without a single digit."""
    cells = [c.strip().strip('"').strip("()[]") for c in line.split(separator)]
    if len(cells) < count or any(ch.isdigit() for ch in line) or not any(cells):
        return None
    known = {**TIME_FACTORS, **VOLT_FACTORS}
    return cells[:count] if all(c.lower() in known for c in cells[:count]) else None


def _rate(remarks: list[str]) -> float | None:
    """The sample rate as a remark states it. Raises CaptureError for one that is no number."""
    for line in remarks:
        match = _RATE.search(line)
        if match is None:
            continue
        try:
            return float(match[1])
        except ValueError as error:
            raise CaptureError(
                "The sample rate is no number.",
                read=match[1][:40],
                expected="samples a second, such as rate_hz: 50000",
            ) from error
    return None


def _end(path: Path, separator: str, count: int) -> tuple[int, int]:
    """Where the last sample ends, bytes, and how many lines of other things come after it. A line
    with figures in as many columns is a sample, whatever else is in it.
    """
    size = path.stat().st_size
    with path.open("rb") as file:
        file.seek(max(0, size - TAIL))
        tail = file.read()
    pieces = tail.splitlines(keepends=True)
    at, dropped = size, 0
    for piece in reversed(pieces[1:] if len(tail) < size else pieces):
        text = piece.decode("cp1252", errors="replace").strip()
        cells = [c.strip() for c in _cells(text, separator)] if text else []
        if len(cells) >= count and any(map(_NUMBER.fullmatch, cells)):
            return at, dropped
        if dropped >= MOST_NOTES:
            break
        at -= len(piece)
        dropped += bool(text)
    return size, 0
