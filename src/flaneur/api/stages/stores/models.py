"""What crosses the network here: one model a message."""

from typing import Annotated

from pydantic import Field

from flaneur.api.models import In, Out
from flaneur.core.choices import Choice
from flaneur.core.record.bounds import Written
from flaneur.core.stores.lists import ListKind

Cell = Annotated[str, Written(400)]


class ColumnOut(Out):
    """A column of a list: its key in the CSV, what stands over it, and what may be chosen where
    not everything may be typed.
    """

    key: str
    words: str
    is_needed: bool
    is_day: bool
    is_figure: bool
    choices: list[Choice]


class StoreList(Out):
    """A list as it is. ``fingerprint``: it is kept only as it was looked at."""

    kind: ListKind
    name: str
    columns: list[ColumnOut]
    rows: list[list[str]]
    fingerprint: str


class StoreLists(Out):
    lists: list[StoreList]


class StoreText(In):
    """A list as CSV."""

    text: Annotated[str, Field(max_length=2_000_000)]


class RowsOut(Out):
    """Lines as they would stand; nothing is kept."""

    rows: list[list[str]]


class RowsIn(In):
    """A list as it is to be: its cells in the order of its columns."""

    fingerprint: Annotated[str, Field(pattern=r"^[0-9a-f]{64}$")]
    rows: Annotated[list[Annotated[list[Cell], Field(max_length=12)]], Field(max_length=5000)]
