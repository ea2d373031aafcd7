"""Plain tables of numbers as CSV: remarks, one row of heads, then a number in every cell."""

import csv
import io
from dataclasses import dataclass

import numpy as np
import pyarrow as pa
import pyarrow.csv as pacsv

from flaneur.core.errors import CaptureError


@dataclass(frozen=True)
class Table:
    """``remarks`` without their #, ``heads`` in lower case, ``values`` as (rows, heads)."""

    remarks: list[str]
    heads: list[str]
    values: np.ndarray


def read_table(content: bytes | str, source: str, what: str, most_rows: int) -> Table:
    """Read a table, separator and decimal sign as they come. ``what`` it is, such as “log”. Raises
    CaptureError naming row and column.
    """
    text = _text(content, source, what)
    lines = [line for line in text.splitlines() if line.strip()]
    remarks = [line.lstrip("# ").strip() for line in lines if line.lstrip().startswith("#")]
    rows = [line for line in lines if not line.lstrip().startswith("#")]
    if len(rows) < 2:
        raise CaptureError(
            f"The {what} has no rows.",
            read=f"{source}, {len(rows)} lines",
            expected="a header and rows",
        )
    if len(rows) > most_rows:
        raise CaptureError(
            f"The {what} is too long.",
            read=f"{len(rows):,} rows",
            expected=f"at most {most_rows:,}",
        )
    separator = max((";", "\t", ","), key=rows[0].count)
    try:
        heads = [h.strip().lower() for h in next(csv.reader(rows[:1], delimiter=separator))]
    except csv.Error as error:
        raise CaptureError(
            f"A row of the {what} cannot be read.",
            read=f"{source}: {error}",
            expected=f"a CSV {what}",
        ) from error
    return Table(remarks, heads, _numbers(rows[1:], heads, separator, what))


def _text(content: bytes | str, source: str, what: str) -> str:
    if isinstance(content, str):
        return content
    if b"\x00" in content:
        raise CaptureError(
            "This is not a text file.", read=f"{source}, binary bytes", expected=f"a CSV {what}"
        )
    try:
        return content.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise CaptureError(
            "This is not a text file.",
            read=f"{source}, byte {content[error.start]:#x}",
            expected="UTF-8 CSV",
        ) from error


def _numbers(rows: list[str], heads: list[str], separator: str, what: str) -> np.ndarray:
    """Rows as numbers, (rows, heads). Raises CaptureError naming the first cell that is none."""
    decimal = "," if separator != "," else "."
    names = [str(i) for i in range(len(heads))]
    try:
        table = pacsv.read_csv(
            io.BytesIO("\n".join(rows).encode()),
            read_options=pacsv.ReadOptions(column_names=names),
            parse_options=pacsv.ParseOptions(delimiter=separator),
            convert_options=pacsv.ConvertOptions(
                column_types=dict.fromkeys(names, pa.float64()),
                decimal_point=decimal,
                null_values=[],
            ),
        )
    except pa.ArrowException as error:
        raise _fault_in(rows, heads, separator, decimal, what) from error
    return np.column_stack([c.to_numpy() for c in table.columns])


def _fault_in(
    rows: list[str], heads: list[str], separator: str, decimal: str, what: str
) -> CaptureError:
    """The first cell that is no number, by row and column."""
    for i, row in enumerate(csv.reader(rows, delimiter=separator), start=2):
        if len(row) != len(heads):
            return CaptureError(
                f"A row of the {what} is {'short' if len(row) < len(heads) else 'long'}.",
                read=f"row {i}: {len(row)} cells",
                expected=f"{len(heads)} cells",
            )
        for cell, head in zip(row, heads, strict=True):
            try:
                float(cell.replace(",", ".") if decimal == "," else cell)
            except ValueError:
                return CaptureError(
                    f"The {what} holds something that is not a number.",
                    read=f"“{cell[:40]}” in row {i}, {head}",
                    expected="a number",
                )
    return CaptureError(
        f"A row of the {what} cannot be read.", read=rows[0][:80], expected="numbers in every cell"
    )
