"""The shop's lists, each read and kept as a whole."""

from collections.abc import Sequence

from sqlalchemy import delete, text
from sqlmodel import Session, SQLModel, col, select

from flaneur.core.stores.lists import LINES, ListKind, ListLine, Stores
from flaneur.store.tables import OrderRow, StockRow, SupplierRow, ToolRow, WearRow, WrenchRow

Row = StockRow | SupplierRow | OrderRow | ToolRow | WrenchRow | WearRow
ROWS: dict[ListKind, type[Row]] = {
    ListKind.STOCK: StockRow,
    ListKind.ORDERS: OrderRow,
    ListKind.SUPPLIERS: SupplierRow,
    ListKind.TOOLS: ToolRow,
    ListKind.WRENCHES: WrenchRow,
    ListKind.WEAR: WearRow,
}


def list_of(session: Session, kind: ListKind) -> list[ListLine]:
    """The lines of a list in their order."""
    table = ROWS[kind]
    rows: Sequence[SQLModel] = session.exec(select(table).order_by(col(table.position))).all()
    return [LINES[kind].model_validate(r.model_dump(exclude={"id", "position"})) for r in rows]


def stores_of(session: Session) -> Stores:
    """The lists that a plan is held against."""
    asked = [kind for kind in ListKind if str(kind) in Stores.model_fields]
    return Stores.model_validate({str(kind): list_of(session, kind) for kind in asked})


def mark_of_lists(session: Session) -> str:
    """What tells whether any of the shop's lists was changed: one is always written anew, whole."""
    counted = "(SELECT count(*) || ':' || coalesce(max(id), 0) FROM {})"
    parts = ", ".join(counted.format(row.__tablename__) for row in ROWS.values())
    return " ".join(session.execute(text(f"SELECT {parts}")).one())


def hold_list(session: Session, kind: ListKind) -> None:
    """Hold a list until the transaction ends: two people keep it one after the other."""
    table = ROWS[kind].__tablename__
    session.execute(text(f"LOCK TABLE {table} IN SHARE ROW EXCLUSIVE MODE"))


def keep_list(session: Session, kind: ListKind, lines: Sequence[ListLine]) -> None:
    """Keep these lines as the list, in place of what it was."""
    table = ROWS[kind]
    session.execute(delete(table))
    session.add_all(
        table.model_validate({**line.model_dump(mode="python"), "position": position})
        for position, line in enumerate(lines)
    )
    session.flush()
