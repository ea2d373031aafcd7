"""The shop's lists: stock, orders, suppliers, tools, torque wrenches, wear told from before. A
lead keeps them.
"""

from typing import Any

from flask import Blueprint
from flask import Response as FlaskResponse
from spectree import Response

from flaneur.api.errors import InvalidInput
from flaneur.api.models import ErrorOut
from flaneur.api.security import person
from flaneur.api.spec import checked
from flaneur.api.stages.stores.models import (
    ColumnOut,
    RowsIn,
    RowsOut,
    StoreList,
    StoreLists,
    StoreText,
)
from flaneur.api.work import database
from flaneur.core.choices import Worded, choices
from flaneur.core.stores.lists import LINES, ListKind
from flaneur.formats.lists import cells_as_written, columns_of
from flaneur.jobs import stores as jobs
from flaneur.store.database import transaction

blueprint = Blueprint("stores", __name__)
NAMES = {
    ListKind.STOCK: "Stock",
    ListKind.ORDERS: "Orders",
    ListKind.SUPPLIERS: "Suppliers",
    ListKind.TOOLS: "Tools",
    ListKind.WRENCHES: "Torque wrenches",
    ListKind.WEAR: "Wear measured before",
}
LIST = f"/api/stores/<any({','.join(ListKind)}):kind>"


def _out(found: jobs.Listed) -> StoreList:
    columns = LINES[found.kind].model_json_schema()["properties"]
    return StoreList(
        kind=found.kind,
        name=NAMES[found.kind],
        columns=[_column(found.kind, key, schema) for key, schema in columns.items()],
        rows=[cells_as_written(line) for line in found.lines],
        fingerprint=found.fingerprint,
    )


def _column(kind: ListKind, key: str, schema: dict[str, Any]) -> ColumnOut:
    """A column as the schema of its line has it."""
    field = LINES[kind].model_fields[key]
    types = [schema, *schema.get("anyOf", [])]
    of = field.annotation
    return ColumnOut(
        key=key,
        words=field.description or key,
        is_needed=field.is_required(),
        is_day=any(t.get("format") == "date" for t in types),
        is_figure=any(t.get("type") in ("integer", "number") for t in types),
        choices=list(choices(of)) if isinstance(of, type) and issubclass(of, Worded) else [],
    )


@blueprint.get("/api/stores")
@checked(resp=Response(HTTP_200=StoreLists))
def get_stores() -> StoreLists:
    """All of the shop's lists."""
    with transaction(database()) as session:
        return StoreLists(lists=[_out(jobs.look_at(session, kind)) for kind in ListKind])


@blueprint.get(f"{LIST}.csv")
def list_out(kind: str) -> FlaskResponse:
    """A list as CSV."""
    with transaction(database()) as session:
        text = jobs.text_of(session, ListKind(kind))
    name = {"Content-Disposition": f'attachment; filename="{kind}.csv"'}
    return FlaskResponse(text, mimetype="text/csv", headers=name)


@blueprint.post(f"{LIST}/read")
@checked(resp=Response(HTTP_200=RowsOut, HTTP_403=ErrorOut, HTTP_422=ErrorOut))
def read_list(kind: str, json: StoreText) -> RowsOut:
    """The lines of a CSV, to look at before they are kept."""
    return RowsOut(rows=[cells_as_written(x) for x in jobs.read_text(ListKind(kind), json.text)])


@blueprint.put(LIST)
@checked(resp=Response(HTTP_200=StoreList, HTTP_403=ErrorOut, HTTP_422=ErrorOut))
def keep_list(kind: str, json: RowsIn) -> StoreList:
    """Keep a list as it was typed, in place of what it was: all of it or nothing."""
    names = columns_of(LINES[ListKind(kind)])
    odd = next((r for r in json.rows if len(r) != len(names)), None)
    if odd is not None:
        raise InvalidInput(
            "A line has another number of cells than the list has columns.",
            read=f"{len(odd)} cells",
            expected=f"{len(names)}: {', '.join(names)}",
        )
    rows = [dict(zip(names, row, strict=True)) for row in json.rows]
    with transaction(database(), person()) as session:
        return _out(jobs.keep(session, ListKind(kind), rows, json.fingerprint))
