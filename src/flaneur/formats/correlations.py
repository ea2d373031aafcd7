"""The correlation table of a capture as CSV and as JSON (docs/formats/correlation.md)."""

import csv
import io
import json
from typing import Any

from flaneur.core.book.schema import EngineBook
from flaneur.formats.cells import safe_cell

FORMAT = "flaneur-correlation/1"
COLUMNS = [
    "cam",
    "name",
    "deviation_deg",
    "stderr_deg",
    "scatter_deg",
    "cycles",
    "settling_deg",
    "settling_s",
    "deg_per_krpm",
    "half_order_deg",
]


def correlation_table(book: EngineBook, correlation: dict[str, Any]) -> list[dict[str, Any]]:
    """One row a cam, in book order; crank degrees, late positive; empty where nothing was found."""
    rows: list[dict[str, Any]] = []
    for cam in correlation["cams"]:
        settling, speed, half = cam.get("settling"), cam.get("speed"), cam.get("half_order")
        rows.append(
            {
                "cam": cam["cam"],
                "name": book.shafts[cam["cam"]].name,
                "deviation_deg": round(cam["deviation_deg"], 4),
                "stderr_deg": round(cam["stderr_deg"], 5),
                "scatter_deg": round(cam["scatter_deg"], 4),
                "cycles": cam["cycles"],
                "settling_deg": round(settling["amplitude_deg"], 3) if settling else None,
                "settling_s": round(settling["decay_s"], 3) if settling else None,
                "deg_per_krpm": round(speed["deg_per_krpm"], 4) if speed else None,
                "half_order_deg": round(half["amplitude_deg"], 4) if half else None,
            }
        )
    return rows


def correlation_csv(book: EngineBook, correlation: dict[str, Any]) -> str:
    """The table as CSV, one row a cam."""
    out = io.StringIO()
    writer = csv.DictWriter(out, COLUMNS, lineterminator="\n")
    writer.writeheader()
    for row in correlation_table(book, correlation):
        writer.writerow({k: safe_cell(v) if isinstance(v, str) else v for k, v in row.items()})
    return out.getvalue()


def correlation_json(book: EngineBook, correlation: dict[str, Any], head: dict[str, Any]) -> str:
    """The table, every cycle of every cam, the edges' own deviations, and the crank wheel's
    fingerprint.
    """
    return json.dumps(
        {
            "format": FORMAT,
            "engine": book.name,
            **head,
            "table": correlation_table(book, correlation),
            **correlation,
        },
        ensure_ascii=False,
        indent=1,
    )
