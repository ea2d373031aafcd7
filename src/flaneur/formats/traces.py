"""Torque–angle traces as CSV, in and out (docs/formats/torque.md)."""

import csv
import io
import re

import numpy as np

from flaneur.core.book.units import parse_quantity
from flaneur.core.errors import CaptureError, ReadingError
from flaneur.core.fasteners.trace import Trace
from flaneur.formats.tables import Table, read_table

FORMAT = "flaneur-trace/1"
MOST_ROWS = 200_000
HEADS = {
    "time": ("time", "t", "time_s", "time_ms"),
    "angle": ("angle", "angle_deg", "rotation"),
    "torque": ("torque", "torque_nm", "moment"),
}
_UNIT = re.compile(r"[\[(]([^\])]*)[\])]\s*$")
_USUAL = {"time": "s", "angle": "deg", "torque": "Nm"}


def write_trace(trace: Trace) -> str:
    """One row a sample: seconds, degrees turned on, newton metres."""
    out = io.StringIO()
    out.write(f"# {FORMAT}\n")
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(["time (s)", "angle (deg)", "torque (Nm)"])
    for row in zip(trace.time_s, trace.angle_deg, trace.torque_nm, strict=True):
        writer.writerow([f"{v:.6g}" for v in row])
    return out.getvalue()


def read_trace(content: bytes | str, source: str) -> Trace:
    """Read a trace: columns in any order, units in brackets (s or ms, deg, Nm, lbf·ft or lbf·in).
    Raises CaptureError naming the column or row, ReadingError for what cannot be judged.
    """
    table = read_table(content, source, "trace", MOST_ROWS)
    columns = {what: _column(table, what) for what in HEADS}
    return Trace.of(source, columns["time"], columns["angle"], columns["torque"])


def _column(table: Table, what: str) -> np.ndarray:
    for i, head in enumerate(table.heads):
        unit = _UNIT.search(head)
        plain = re.sub(r"\s+", "_", _UNIT.sub("", head).strip())
        if plain in HEADS[what]:
            written = unit[1].strip() if unit else ("ms" if plain.endswith("_ms") else "")
            return table.values[:, i] * _factor(what, written or _USUAL[what])
    raise CaptureError(
        f"The trace has no column of its {what}.",
        read=f"columns {', '.join(table.heads)}"[:160],
        expected="columns time (s), angle (deg) and torque (Nm)",
    )


def _factor(what: str, unit: str) -> float:
    if what == "time" and unit == "ms":
        return 1e-3
    try:
        return parse_quantity(f"1 {unit}", what).value
    except ReadingError as error:
        raise CaptureError(
            f"The unit of its {what} is not known.",
            read=unit,
            expected={"time": "s or ms", "angle": "deg", "torque": "Nm, lbf·ft or lbf·in"}[what],
        ) from error
