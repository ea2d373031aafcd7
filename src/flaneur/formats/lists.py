"""Plain lists as CSV: lines of cells with a comma, a semicolon or a tab between them, the first of
them naming the columns (docs/formats/lists.md).
"""

import csv
import io
from collections.abc import Collection, Iterable, Mapping, Sequence
from typing import Any, TypeVar

from pydantic import ValidationError

from flaneur.core.errors import ErrorCode, FlaneurError
from flaneur.core.stores.lists import ONCE, ListKind, ListLine
from flaneur.formats.cells import plain_cell, safe_cell

MOST_LINES = 5000
ADVICE = "Take the list out first and change that."
Line = TypeVar("Line", bound=ListLine)


class ListRefused(FlaneurError):
    """A text is no list, or a line of one cannot be kept."""

    code = ErrorCode.LIST_REFUSED


def cells_of(
    text: str, columns: Sequence[str], needed: Collection[str], what: str
) -> list[tuple[int, dict[str, str]]]:
    """Lines that are not empty, each with its number in the file and its cells by column. Raises
    ListRefused for a text that is no list of ``what``.
    """
    try:
        return _cells(
            io.StringIO(text.removeprefix("\ufeff"), newline=None).read(), columns, needed, what
        )
    except csv.Error as error:
        raise ListRefused(
            f"This is no list of {what}.",
            read=f"a text that is not comma-separated: {error}",
            expected="lines of cells with a comma, a semicolon or a tab between them",
            advice=ADVICE,
        ) from error


def _cells(
    text: str, columns: Sequence[str], needed: Collection[str], what: str
) -> list[tuple[int, dict[str, str]]]:
    head = text.split("\n", 1)[0]
    separator = max(",;\t", key=head.count)
    reader = csv.DictReader(io.StringIO(text), delimiter=separator)
    names = [str(n).strip().lower() for n in reader.fieldnames or []]
    missing = [c for c in columns if c in needed and c not in names]
    unknown = [n for n in names if n not in columns]
    if missing or unknown:
        raise ListRefused(
            f"This is no list of {what}.",
            read=f"columns {', '.join(names)[:200] or 'none'}",
            expected=", ".join(columns),
            advice=ADVICE,
        )
    reader.fieldnames = names
    found = [
        (reader.line_num, {k: (v or "").strip() for k, v in row.items() if k in columns})
        for row in reader
        if any((v or "").strip() for k, v in row.items() if k in columns)
    ]
    if len(found) > MOST_LINES:
        raise ListRefused(
            "The list is too long.", read=f"{len(found)} lines", expected=f"at most {MOST_LINES}"
        )
    return found


def columns_of(line: type[ListLine]) -> list[str]:
    """The columns of a list."""
    return list(line.model_fields)


def read_list(text: str, line: type[Line], what: str) -> list[Line]:
    """A list from its text. Raises ListRefused, naming line and column."""
    needed = [k for k, f in line.model_fields.items() if f.is_required()]
    return [
        line_of({k: plain_cell(v) for k, v in cells.items()}, line, f"line {number}")
        for number, cells in cells_of(text, columns_of(line), needed, what)
    ]


def line_of(cells: Mapping[str, str], line: type[Line], where: str) -> Line:
    """One line from its cells, an empty one being left out. Raises ListRefused."""
    told = {k: v.strip() for k, v in cells.items() if v.strip()}
    try:
        return line.model_validate(told)
    except ValidationError as error:
        first = error.errors()[0]
        column = str(first["loc"][0]) if first["loc"] else ""
        raise ListRefused(
            f"{where.capitalize()} cannot be kept.",
            read=f"{column}: {told.get(column, 'nothing')[:60]}",
            expected=_expected(line, column, str(first["msg"])),
            field=column,
        ) from error


def _expected(line: type[ListLine], column: str, said: str) -> str:
    field = line.model_fields.get(column)
    return f"{(field.description if field else '') or column} ({said.lower()})"


def write_list(lines: Iterable[ListLine], line: type[ListLine]) -> str:
    """A list as text, as ``read_list`` takes it."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(columns_of(line))
    for one in lines:
        writer.writerow([safe_cell(cell) for cell in cells_as_written(one)])
    return out.getvalue()


def cells_as_written(line: ListLine) -> list[str]:
    """The cells of a line as a person reads and types them."""
    return [_cell(v) for v in line.model_dump(mode="json").values()]


def _cell(value: Any) -> str:
    return "" if value is None else f"{value:g}" if isinstance(value, float) else str(value)


def check_once(lines: Sequence[ListLine], kind: ListKind) -> None:
    """Raises ListRefused for what stands twice in a list and may stand there once."""
    keys = ONCE[kind]
    seen = dict[tuple[str, ...], int]()
    for number, line in enumerate(lines, 1):
        key = tuple(str(getattr(line, k)).casefold() for k in keys) if keys else (str(number),)
        if key in seen:
            raise ListRefused(
                f"Line {number} stands there already as line {seen[key]}.",
                read=" ".join(str(getattr(line, k)) for k in keys).strip(),
                expected=f"each {', '.join(keys)} once",
                advice="Put both into one line.",
                field=f"{number - 1}.{keys[0]}",
            )
        seen[key] = number
