"""Captures in and out: CSV (see docs/formats/capture-csv.md) and a compact Parquet form for keeping."""

import csv
import io
import re
import warnings
from pathlib import Path

import numpy as np
import pyarrow as pa
import pyarrow.csv as pacsv
import pyarrow.parquet as pq

from flaneur.core.errors import CaptureError
from flaneur.core.signals.capture import Capture

TIME_NAMES = ("time", "t", "time_s", "zeit", "temps")
_UNIT = re.compile(r"[\[(]([^\])]*)[\])]\s*$")
_TIME_FACTORS = {"": 1.0, "s": 1.0, "ms": 1e-3, "us": 1e-6, "µs": 1e-6}
MOST_CHANNELS = 16


def read_csv(path: Path, source: str | None = None) -> Capture:
    """Read a capture from CSV: a time column and one column per sensor, any order and separator, decimal comma too.

    Raises CaptureError for an empty or binary file, a missing time column, uneven time, or a value that is not a
    number, naming the row.
    """
    with path.open("rb") as file:
        head = file.read(65536)
    if not head.strip():
        raise CaptureError("The file is empty.", read=f"{source or path.name}, {path.stat().st_size} bytes", expected="a CSV capture")
    text = _decode(head, source or path.name)
    header_line = text.splitlines()[0]
    separator = _separator(header_line)
    names = [n.strip().strip('"') for n in next(csv.reader([header_line], delimiter=separator))]
    if len(names) > MOST_CHANNELS + 1:
        raise CaptureError("The capture has too many columns.", read=str(len(names)), expected=f"at most {MOST_CHANNELS + 1}")
    time_index, factor = _time_column(names)
    rows = text.splitlines()[1:3]
    decimal = "," if separator != "," and any("," in r for r in rows) else "."
    table = _read_table(path, separator, decimal, names)
    columns = {n: table.column(i).to_numpy() for i, n in enumerate(names)}
    time = columns.pop(names[time_index]).astype(float) * factor
    if len(time) < 2:
        raise CaptureError("The capture has no samples.", read=f"{len(time)} rows", expected="thousands of rows")
    for name, values in columns.items():
        bad = np.flatnonzero(~np.isfinite(values))
        if bad.size:
            raise CaptureError(
                f"Column {name} holds something that is not a number.",
                read=f"row {bad[0] + 2}",
                expected="a number in every row",
                advice="Mend or leave out that row.",
            )
    rate = _rate(time)
    channels = {_plain(n): np.ascontiguousarray(v, dtype=np.float32) for n, v in columns.items()}
    return Capture(rate, channels, source=source or path.name)


def _decode(head: bytes, name: str) -> str:
    if b"\x00" in head:
        raise CaptureError("This is not a text file.", read=f"{name}, binary bytes", expected="a CSV capture")
    try:
        return head.decode("utf-8-sig", errors="strict" if len(head) < 65536 else "ignore")
    except UnicodeDecodeError as error:
        raise CaptureError("This is not a text file.", read=f"{name}, byte {head[error.start]:#x}", expected="UTF-8 CSV") from error


def _separator(header: str) -> str:
    counts = {s: header.count(s) for s in (";", "\t", ",", "|")}
    best = max(counts, key=lambda s: counts[s])
    if counts[best] == 0:
        raise CaptureError(
            "The first line does not name columns.", read=f"“{header[:60]}”", expected="time and sensor names, separated by , ; or tab"
        )
    return best


def _plain(name: str) -> str:
    return re.sub(r"\s+", "_", _UNIT.sub("", name).strip().lower())


def _time_column(names: list[str]) -> tuple[int, float]:
    for i, name in enumerate(names):
        if _plain(name) in TIME_NAMES:
            unit = _UNIT.search(name)
            written = unit[1].strip() if unit else ""
            if written not in _TIME_FACTORS:
                raise CaptureError("The time unit is not known.", read=written, expected="s, ms or us")
            return i, _TIME_FACTORS[written]
    raise CaptureError(
        "The capture has no time column.",
        read=f"columns {', '.join(names)}",
        expected="one column named time",
        advice="Name the time column “time (s)”.",
    )


def _read_table(path: Path, separator: str, decimal: str, names: list[str]) -> pa.Table:
    try:
        return pacsv.read_csv(
            path,
            read_options=pacsv.ReadOptions(column_names=names, skip_rows=1),
            parse_options=pacsv.ParseOptions(delimiter=separator),
            convert_options=pacsv.ConvertOptions(
                column_types={n: pa.float64() for n in names},
                decimal_point=decimal,
                null_values=["", "nan", "NaN", "NA", "null"],
            ),
        )
    except (pa.ArrowInvalid, pa.ArrowKeyError) as error:
        what = str(error).splitlines()[0]
        raise CaptureError("A row cannot be read.", read=what[:160], expected=f"{len(names)} numbers in every row") from error


def _rate(time: np.ndarray) -> float:
    step = np.diff(time)
    usual = float(np.median(step))
    if usual <= 0 or not np.isfinite(usual):
        raise CaptureError("Time does not run forwards.", read=f"steps of {usual:g} s", expected="rising time stamps")
    worst = float(np.max(np.abs(step - usual)))
    if worst > 0.5 * usual:
        row = int(np.argmax(np.abs(step - usual)))
        raise CaptureError(
            "The samples are not evenly spaced.",
            read=f"a step of {step[row]:g} s at row {row + 2}",
            expected=f"{usual:g} s",
            advice="Leave out the stretch with the hole.",
        )
    return (len(time) - 1) / float(time[-1] - time[0])


def write_csv(capture: Capture, path: Path, separator: str = ",", decimal: str = ".") -> None:
    """Write a capture as CSV with its time in seconds."""
    time = np.arange(capture.samples) / capture.rate_hz
    table = pa.table({"time (s)": time, **{n: x.astype(np.float64).round(5) for n, x in capture.channels.items()}})
    if separator == "," and decimal == ".":
        pacsv.write_csv(table, path, pacsv.WriteOptions(quoting_style="none"))
        return
    buffer = io.StringIO()
    buffer.write(separator.join(table.column_names) + "\n")
    np.savetxt(buffer, np.column_stack([c.to_numpy() for c in table.columns]), delimiter=separator, fmt="%.7g")
    path.write_text(buffer.getvalue().replace(".", decimal) if decimal != "." else buffer.getvalue(), encoding="utf-8")


def to_parquet(capture: Capture) -> bytes:
    """Channels as float32 in one Parquet file, zstd, sample rate in its metadata: how captures are kept."""
    table = pa.table({n: pa.array(x, pa.float32()) for n, x in capture.channels.items()})
    table = table.replace_schema_metadata({"rate_hz": repr(capture.rate_hz), "source": capture.source})
    out = io.BytesIO()
    pq.write_table(table, out, compression="zstd", use_dictionary=False, column_encoding="BYTE_STREAM_SPLIT")
    return out.getvalue()


def from_parquet(content: bytes) -> Capture:
    """Read what ``to_parquet`` wrote. Raises CaptureError when it is something else."""
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            table = pq.read_table(io.BytesIO(content))
        metadata = table.schema.metadata or {}
        rate = float(metadata[b"rate_hz"])
    except (pa.ArrowInvalid, KeyError, ValueError, OSError) as error:
        raise CaptureError("This is not a kept capture.", read=f"{len(content)} bytes", expected="a Parquet capture") from error
    return Capture(rate, {n: table.column(n).to_numpy() for n in table.column_names}, metadata[b"source"].decode())
