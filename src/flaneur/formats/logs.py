"""Vehicle logs as CSV, in and out (docs/formats/drive-log.md)."""

import csv
import io
import re

import numpy as np

from flaneur.core.book.schema import EngineBook
from flaneur.core.errors import CaptureError
from flaneur.core.phasers.drivelog import DriveLog, FaultCode
from flaneur.formats.tables import read_table

FORMAT = "flaneur-log/1"
MOST_ROWS = 400_000
_BASE = {
    "time": ("time", "time_s", "t"),
    "rpm": ("rpm", "speed"),
    "oil_c": ("oil_c", "oil_temperature"),
    "oil_kpa": ("oil_kpa", "oil_pressure"),
}


def write_log(log: DriveLog) -> str:
    """Codes and what is known of the base as remarks, then one row a sample: seconds, rpm, °C, kPa,
    crank degrees.
    """
    out = io.StringIO()
    out.write(f"# {FORMAT}\n# source: {log.source}\n")
    out.write(
        "# base relearned: "
        f"{'unknown' if log.relearned is None else 'yes' if log.relearned else 'no'}\n"
    )
    if not log.oil_known:
        out.write("# oil: not logged\n")
    for code in log.codes:
        out.write(f"# code {code.number}: {code.words}\n")
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(
        [
            "time (s)",
            "rpm",
            "oil_c",
            "oil_kpa",
            *(f"{k} command (deg)" for k in log.command_deg),
            *(f"{k} actual (deg)" for k in log.actual_deg),
        ]
    )
    columns = [
        log.times_s,
        log.rpm,
        log.oil_c,
        log.oil_kpa,
        *log.command_deg.values(),
        *log.actual_deg.values(),
    ]
    for row in zip(*columns, strict=True):
        writer.writerow([f"{v:g}" for v in row])
    return out.getvalue()


def read_log(content: bytes | str, book: EngineBook, source: str = "log") -> DriveLog:
    """Read a log: separator and decimal sign as they come, columns in any order, a phaser's by its
    id and command or actual.

    Angles headed “cam deg” are doubled to crank degrees. Raises CaptureError naming row and column.
    """
    table = read_table(content, source, "log", MOST_ROWS)
    remarks, heads, values = table.remarks, table.heads, table.values
    columns = {name: _column(heads, values, words) for name, words in _BASE.items()}
    if columns["time"] is None:
        raise CaptureError(
            "The log has no time column.", read=", ".join(heads)[:160], expected="a column time (s)"
        )
    command, actual = (
        _phasers(heads, values, book, "command"),
        _phasers(heads, values, book, "actual"),
    )
    if not command and not actual:
        wanted = (
            ", ".join(f"{k} command (deg), {k} actual (deg)" for k in book.phasers)
            or "none: this engine has no phasers"
        )
        raise CaptureError(
            "The log holds no phaser of this engine.", read=", ".join(heads)[:160], expected=wanted
        )
    unknown = np.zeros(len(values))
    relearned = next(
        (r.partition(":")[2].strip() for r in remarks if r.lower().startswith("base relearned")),
        "unknown",
    )
    codes = tuple(
        FaultCode(m[1], m[2])
        for r in remarks
        if (m := re.fullmatch(r"code (\w{1,8}): (.{1,200})", r))
    )
    time = columns["time"]
    return DriveLog(
        time,
        columns["rpm"] if columns["rpm"] is not None else unknown,
        columns["oil_c"] if columns["oil_c"] is not None else unknown,
        columns["oil_kpa"] if columns["oil_kpa"] is not None else unknown,
        command,
        actual,
        codes,
        {"yes": True, "no": False}.get(relearned),
        source,
        columns["oil_c"] is not None
        and columns["oil_kpa"] is not None
        and "oil: not logged" not in remarks,
    )


def _column(heads: list[str], values: np.ndarray, words: tuple[str, ...]) -> np.ndarray | None:
    for j, head in enumerate(heads):
        plain = re.sub(r"\s*[\[(].*", "", head).strip().replace(" ", "_")
        if plain in words:
            return values[:, j] * (1e-3 if "(ms)" in head else 1.0)
    return None


def _phasers(
    heads: list[str], values: np.ndarray, book: EngineBook, which: str
) -> dict[str, np.ndarray]:
    found: dict[str, np.ndarray] = {}
    for key in book.phasers:
        for j, head in enumerate(heads):
            if head.startswith(key) and which in head:
                found[key] = values[:, j] * (2.0 if "cam deg" in head else 1.0)
    return found
