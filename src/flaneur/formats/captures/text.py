"""CSV and TSV captures (docs/formats/capture-csv.md): a time column or a stated rate, and one
column per sensor.
"""

import csv
import io
import re
import tempfile
from dataclasses import replace
from pathlib import Path

import numpy as np
import pyarrow as pa
import pyarrow.csv as pacsv

from flaneur.core.errors import CaptureError
from flaneur.core.signals.capture import Capture
from flaneur.formats.captures.layout import (
    HEAD,
    TIME_FACTORS,
    UNIT,
    VOLT_FACTORS,
    Layout,
    in_utf8,
    layout_of,
)
from flaneur.formats.cells import safe_cell

TIME_NAMES = ("time", "t", "time_s", "zeit", "temps", "seconds")
IN_SECONDS = ("time_s", "seconds")  # names that say their unit


def read_csv(path: Path, source: str | None = None) -> Capture:
    """Read a capture from text: columns in any order and separator, decimal comma too, units in the
    header or a row below it.

    Lines that begin with # come first; one may state the sample rate where there is no time column.
    Raises CaptureError for an empty or binary file, uneven time, or a value that is not a number,
    naming the row.
    """
    name = source or path.name
    if not path.stat().st_size or not _has_text(path):
        raise CaptureError(
            "The file is empty.",
            read=f"{name}, {path.stat().st_size} bytes",
            expected="a CSV capture",
        )
    with tempfile.TemporaryDirectory() as folder:
        plain = in_utf8(path, Path(folder) / "plain")
        found = layout_of(plain, name)
        table = _read_table(plain, found)
    columns = {n: table.column(i).to_numpy() for i, n in enumerate(found.names)}
    capture = capture_from_columns(columns, name, found.rate_hz, first_row=found.body + 1)
    return replace(capture, notes=(*capture.notes, *found.notes))


def _has_text(path: Path) -> bool:
    with path.open("rb") as file:
        return bool(file.read(HEAD).strip())


def capture_from_columns(
    columns: dict[str, np.ndarray], source: str, rate_hz: float | None = None, first_row: int = 1
) -> Capture:
    """A capture from named columns, one of them time unless the rate is stated. Raises CaptureError
    naming a bad row.
    """
    time_name, factor = _time_column(list(columns), needed=rate_hz is None)
    is_open = time_name is not None and _names_no_unit(time_name)
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
    rate, notes = float(rate_hz or 0), ()
    if time_name is not None:
        rate, notes = even_rate(columns[time_name].astype(np.float64) * factor, first_row)
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
    return Capture(rate, channels, source=source, notes=notes, unit_open=is_open)


def plain_name(name: str) -> str:
    """A column's name without its unit, in lower case, blanks as underscores."""
    return re.sub(r"\s+", "_", UNIT.sub("", name).strip().lower()) or "unnamed"


def _volt_factor(name: str) -> float:
    unit = UNIT.search(name)
    written = unit[1].strip() if unit else ""
    if written.lower() not in VOLT_FACTORS:
        return 1.0  # not a voltage: a current clamp or a pressure; the shape is what counts
    return VOLT_FACTORS[written.lower()]


def _names_no_unit(name: str) -> bool:
    return UNIT.search(name) is None and plain_name(name) not in IN_SECONDS


def _time_column(names: list[str], needed: bool) -> tuple[str | None, float]:
    for name in names:
        if plain_name(name) in TIME_NAMES:
            unit = UNIT.search(name)
            written = unit[1].strip() if unit else ""
            if written not in TIME_FACTORS:
                raise CaptureError(
                    "The time unit is not known.", read=written, expected="s, ms, us or ns"
                )
            return name, TIME_FACTORS[written]
    if not needed:
        return None, 1.0
    raise CaptureError(
        "The capture has no time column.",
        read=f"columns {', '.join(names)}",
        expected="one column named time",
        advice="Name the time column “time (s)”, or state the rate in a first line “# rate_hz: "
        "50000”.",
    )


def _read_table(path: Path, found: Layout) -> pa.Table:
    names = found.names
    types = {n: pa.float64() if plain_name(n) in TIME_NAMES else pa.float32() for n in names}
    try:
        with pa.memory_map(str(path)) as whole:
            return pacsv.read_csv(
                pa.BufferReader(whole.read_buffer(found.end)),
                read_options=pacsv.ReadOptions(
                    column_names=names, skip_rows=found.body, block_size=8 << 20
                ),
                parse_options=pacsv.ParseOptions(delimiter=found.separator),
                convert_options=pacsv.ConvertOptions(
                    column_types=types,
                    include_columns=names,
                    decimal_point=found.decimal,
                    null_values=["", "nan", "NaN", "NA", "null"],
                ),
            )
    except (pa.ArrowException, UnicodeDecodeError) as error:
        what = str(error).splitlines()[0]
        raise CaptureError(
            "A row cannot be read.", read=what[:160], expected=f"{len(names)} numbers in every row"
        ) from error


def even_rate(time: np.ndarray, first_row: int = 1) -> tuple[float, tuple[str, ...]]:
    """Samples per second of even time stamps, and what was allowed for: times may be rounded to
    more than a sample. Raises CaptureError naming the row of the first hole.
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
    furthest = float(np.max(np.abs(time - line)))
    if furthest <= 0.5 * usual:
        return 1.0 / usual, ()
    step = np.diff(time)
    coarse = float(np.min(step[step > 0])) if np.any(step > 0) else 0.0
    if step.min() >= 0 and coarse > 1.5 * usual and furthest <= 1.05 * coarse:
        said = f"Time is written in steps of {coarse:g} s; the samples' own clock was rebuilt."
        return 1.0 / float(np.polyfit(np.arange(len(time)), time, 1)[0]), (said,)
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
    return (len(time) - 1) / float(time[-1] - time[0]), ()


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
