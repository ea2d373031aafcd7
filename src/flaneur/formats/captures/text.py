"""CSV and TSV captures (docs/formats/capture-csv.md): a time column or a stated rate, and one
column per sensor.
"""

import csv
import io
import re
from pathlib import Path

import numpy as np
import pyarrow as pa
import pyarrow.csv as pacsv

from flaneur.core.errors import CaptureError
from flaneur.core.signals.capture import Capture
from flaneur.formats.cells import plain_cell, safe_cell

TIME_NAMES = ("time", "t", "time_s", "zeit", "temps", "seconds")
MOST_CHANNELS = 16
_UNIT = re.compile(r"[\[(]([^\])]*)[\])]\s*$")
_TIME_FACTORS = {"": 1.0, "s": 1.0, "ms": 1e-3, "us": 1e-6, "µs": 1e-6, "μs": 1e-6, "ns": 1e-9}
_VOLT_FACTORS = {"": 1.0, "v": 1.0, "mv": 1e-3, "uv": 1e-6, "µv": 1e-6}
_RATE = re.compile(r"rate(?:_hz)?\s*[:=]?\s*([0-9.]+(?:e[+-]?\d+)?)", re.IGNORECASE)


def read_csv(path: Path, source: str | None = None) -> Capture:
    """Read a capture from text: columns in any order and separator, decimal comma too, units in the
    header or a row below it.

    Lines that begin with # come first; one may state the sample rate where there is no time column.
    Raises CaptureError for an empty or binary file, uneven time, or a value that is not a number,
    naming the row.
    """
    name = source or path.name
    with path.open("rb") as file:
        head = file.read(65536)
    if not head.strip():
        raise CaptureError(
            "The file is empty.",
            read=f"{name}, {path.stat().st_size} bytes",
            expected="a CSV capture",
        )
    lines = _decode(head, name).splitlines()
    skipped = next(
        (i for i, line in enumerate(lines) if line.strip() and not line.lstrip().startswith("#")),
        None,
    )
    if skipped is None:
        raise CaptureError(
            "The file names no columns.",
            read=f"{name}, only remarks",
            expected="a line of column names",
        )
    rate = next((float(m[1]) for line in lines[:skipped] if (m := _RATE.search(line))), None)
    separator = _separator(lines[skipped])
    names = [
        plain_cell(n.strip().strip('"'))
        for n in next(csv.reader([lines[skipped]], delimiter=separator))
    ]
    names = [n or f"column {i + 1}" for i, n in enumerate(names)]
    while (
        len(names) > 1
        and lines[skipped].rstrip().endswith(separator)
        and names[-1].startswith("column ")
    ):
        names.pop()
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
    body = skipped + 1
    units = _units_row(lines[body], separator, len(names)) if body < len(lines) else None
    if units is not None:
        names = [
            n if _UNIT.search(n) or not u else f"{n} ({u})"
            for n, u in zip(names, units, strict=True)
        ]
        body += 1
    rows = lines[body : body + 2000]
    decimal = "," if separator != "," and any("," in r for r in rows) else "."
    table = _read_table(path, separator, decimal, names, body)
    columns = {n: table.column(i).to_numpy() for i, n in enumerate(names)}
    return capture_from_columns(columns, name, rate, first_row=body + 1)


def capture_from_columns(
    columns: dict[str, np.ndarray], source: str, rate_hz: float | None = None, first_row: int = 1
) -> Capture:
    """A capture from named columns, one of them time unless the rate is stated. Raises CaptureError
    naming a bad row.
    """
    time_name, factor = _time_column(list(columns), needed=rate_hz is None)
    rest = {n: v for n, v in columns.items() if n != time_name}
    if not rest:
        raise CaptureError(
            "The capture has no channels.",
            read=f"columns {', '.join(columns)}",
            expected="a column per sensor beside time",
        )
    length = len(next(iter(columns.values())))
    if length < 2:
        raise CaptureError(
            "The capture has no samples.", read=f"{length} rows", expected="thousands of rows"
        )
    for name, values in columns.items():
        if not np.isfinite(values.sum()):
            bad = np.flatnonzero(~np.isfinite(values))
            row = int(bad[0]) if bad.size else int(np.argmax(np.abs(values)))
            raise CaptureError(
                f"Column {name} holds something that is not a number.",
                read=f"row {row + first_row}",
                expected="a number in every row",
                advice="Mend or leave out that row.",
            )
    rate = (
        even_rate(columns[time_name].astype(np.float64) * factor, first_row)
        if time_name is not None
        else float(rate_hz or 0)
    )
    channels: dict[str, np.ndarray] = {}
    for name, values in rest.items():
        scale = _volt_factor(name)
        x = np.ascontiguousarray(values, dtype=np.float32)
        channels[plain_name(name)] = x if scale == 1.0 else x * np.float32(scale)
    if len(channels) < len(rest):
        raise CaptureError(
            "Two columns have one name.",
            read=", ".join(rest),
            expected="a name of its own for each",
        )
    return Capture(rate, channels, source=source)


def _decode(head: bytes, name: str) -> str:
    if b"\x00" in head:
        raise CaptureError(
            "This is not a text file.",
            read=f"{name}, binary bytes",
            expected="a CSV, WAV, MDF4 or Parquet capture",
        )
    try:
        return head.decode("utf-8-sig", errors="strict" if len(head) < 65536 else "ignore")
    except UnicodeDecodeError as error:
        raise CaptureError(
            "This is not a text file.",
            read=f"{name}, byte {head[error.start]:#x}",
            expected="UTF-8 CSV",
        ) from error


def _separator(header: str) -> str:
    counts = {s: header.count(s) for s in (";", "\t", ",", "|")}
    best = max(counts, key=lambda s: counts[s])
    if counts[best] == 0:
        raise CaptureError(
            "The first line does not name columns.",
            read=f"“{header[:60]}”",
            expected="time and sensor names, separated by , ; or tab",
        )
    return best


def plain_name(name: str) -> str:
    """A column's name without its unit, in lower case, blanks as underscores."""
    return re.sub(r"\s+", "_", _UNIT.sub("", name).strip().lower()) or "unnamed"


def _units_row(line: str, separator: str, count: int) -> list[str] | None:
    """Units from the row under the header, where there is one: a row without a single digit."""
    cells = [c.strip().strip('"').strip("()[]") for c in line.split(separator)]
    if len(cells) < count or any(ch.isdigit() for ch in line) or not any(cells):
        return None
    known = {**_TIME_FACTORS, **_VOLT_FACTORS}
    return cells[:count] if all(c.lower() in known for c in cells[:count]) else None


def _volt_factor(name: str) -> float:
    unit = _UNIT.search(name)
    written = unit[1].strip() if unit else ""
    if written.lower() not in _VOLT_FACTORS:
        return 1.0  # not a voltage: a current clamp or a pressure; the shape is what counts
    return _VOLT_FACTORS[written.lower()]


def _time_column(names: list[str], needed: bool) -> tuple[str | None, float]:
    for name in names:
        if plain_name(name) in TIME_NAMES:
            unit = _UNIT.search(name)
            written = unit[1].strip() if unit else ""
            if written not in _TIME_FACTORS:
                raise CaptureError(
                    "The time unit is not known.", read=written, expected="s, ms, us or ns"
                )
            return name, _TIME_FACTORS[written]
    if not needed:
        return None, 1.0
    raise CaptureError(
        "The capture has no time column.",
        read=f"columns {', '.join(names)}",
        expected="one column named time",
        advice="Name the time column “time (s)”, or state the rate in a first line “# rate_hz: "
        "50000”.",
    )


def _read_table(path: Path, separator: str, decimal: str, names: list[str], skip: int) -> pa.Table:
    types = {n: pa.float64() if plain_name(n) in TIME_NAMES else pa.float32() for n in names}
    try:
        return pacsv.read_csv(
            path,
            read_options=pacsv.ReadOptions(column_names=names, skip_rows=skip, block_size=8 << 20),
            parse_options=pacsv.ParseOptions(delimiter=separator),
            convert_options=pacsv.ConvertOptions(
                column_types=types,
                include_columns=names,
                decimal_point=decimal,
                null_values=["", "nan", "NaN", "NA", "null"],
            ),
        )
    except (pa.ArrowException, UnicodeDecodeError) as error:
        what = str(error).splitlines()[0]
        raise CaptureError(
            "A row cannot be read.", read=what[:160], expected=f"{len(names)} numbers in every row"
        ) from error


def even_rate(time: np.ndarray, first_row: int = 1) -> float:
    """Samples per second of even time stamps. Raises CaptureError naming the row of the first
    hole.
    """
    if len(time) < 2:
        raise CaptureError(
            "The capture has no samples.", read=f"{len(time)} rows", expected="thousands of rows"
        )
    usual = float((time[-1] - time[0]) / (len(time) - 1))
    if not np.isfinite(usual) or usual <= 0:
        raise CaptureError(
            "Time does not run forwards.",
            read=f"steps of {usual:g} s",
            expected="rising time stamps",
        )
    # A hole shows as a departure from the straight line; only then are single steps looked at.
    line = time[0] + usual * np.arange(len(time))
    if float(np.max(np.abs(time - line))) <= 0.5 * usual:
        return 1.0 / usual
    step = np.diff(time)
    usual = float(np.median(step))
    if usual <= 0:
        raise CaptureError(
            "Time does not run forwards.",
            read=f"steps of {usual:g} s",
            expected="rising time stamps",
        )
    if float(np.max(np.abs(step - usual))) > 0.5 * usual:
        row = int(np.argmax(np.abs(step - usual)))
        raise CaptureError(
            "The samples are not evenly spaced.",
            read=f"a step of {step[row]:g} s at row {row + 1 + first_row}",
            expected=f"{usual:g} s",
            advice="Leave out the stretch with the hole.",
        )
    return (len(time) - 1) / float(time[-1] - time[0])


def write_csv(capture: Capture, path: Path, separator: str = ",", decimal: str = ".") -> None:
    """Write a capture as CSV with its time in seconds. A sensor's name is a cell like any other:
    quoted where it must be.
    """
    time = np.arange(capture.samples) / capture.rate_hz
    table = pa.table(
        {
            "time (s)": time,
            **{f"{n} (V)": x.astype(np.float64).round(5) for n, x in capture.channels.items()},
        }
    )
    buffer = io.StringIO()
    csv.writer(buffer, delimiter=separator, lineterminator="\n").writerow(
        [safe_cell(n) for n in table.column_names]
    )
    if separator == "," and decimal == ".":
        with path.open("wb") as file:
            file.write(buffer.getvalue().encode())
            pacsv.write_csv(table, file, pacsv.WriteOptions(include_header=False))
        return
    np.savetxt(
        buffer,
        np.column_stack([c.to_numpy() for c in table.columns]),
        delimiter=separator,
        fmt="%.9g",
    )
    path.write_text(
        buffer.getvalue().replace(".", decimal) if decimal != "." else buffer.getvalue(),
        encoding="utf-8",
    )
