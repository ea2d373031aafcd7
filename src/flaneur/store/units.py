"""Units, the engines they carry, where they stand, and what meters showed."""

from collections.abc import Collection
from dataclasses import dataclass
from datetime import date
from typing import Any

from sqlalchemy import and_
from sqlmodel import Session, col, select

from flaneur.core.meters import Reading, total
from flaneur.store.changes import NotFound
from flaneur.store.tables import EngineRow, Job, MeterReading, Mount, Place, Unit, now

MAIN = "main"


@dataclass(frozen=True)
class Mounted:
    """An engine at a position of a unit."""

    engine: EngineRow
    unit: Unit
    position: str


def units(session: Session) -> list[Unit]:
    """Every unit, retired ones included, by tag."""
    return list(session.exec(select(Unit).order_by(col(Unit.tag))))


def unit_by_id(session: Session, unit_id: int, lock: bool = False) -> Unit:
    """A unit. Raises NotFound."""
    asked = select(Unit).where(Unit.id == unit_id)
    unit = session.exec(asked.with_for_update() if lock else asked).first()
    if unit is None:
        raise NotFound(
            "There is no such unit.", read=str(unit_id), advice="Choose one in the yard."
        )
    return unit


def engine_by_id(session: Session, engine_id: int, lock: bool = False) -> EngineRow:
    """An engine. Raises NotFound."""
    asked = select(EngineRow).where(EngineRow.id == engine_id)
    engine = session.exec(asked.with_for_update() if lock else asked).first()
    if engine is None:
        raise NotFound(
            "There is no such engine.", read=str(engine_id), advice="Choose one of a unit."
        )
    return engine


def engines(session: Session) -> list[EngineRow]:
    """Every engine, by number."""
    return list(session.exec(select(EngineRow).order_by(col(EngineRow.number))))


def mounted(session: Session) -> list[Mounted]:
    """Every engine that is mounted now, by its unit's tag and position."""
    rows = session.exec(
        select(EngineRow, Unit, Mount.position)
        .join(Mount, col(Mount.engine_id) == EngineRow.id)
        .join(Unit, col(Unit.id) == Mount.unit_id)
        .where(col(Mount.until).is_(None))
        .order_by(col(Unit.tag), col(Mount.position))
    )
    return [Mounted(*row) for row in rows]


def carrying(session: Session, job: Job) -> Mounted:
    """The engine of a job on the unit it was brought with, and where it sits there now."""
    at = col(Mount.engine_id) == EngineRow.id, col(Mount.until).is_(None)
    asked = (
        select(EngineRow, Unit, Mount.position)
        .select_from(EngineRow)
        .join(Unit, col(Unit.id) == job.unit_id)
        .outerjoin(Mount, and_(*at, col(Mount.unit_id) == job.unit_id))
        .where(EngineRow.id == job.engine_id)
    )
    engine, unit, position = session.exec(asked).one()
    return Mounted(engine, unit, position or "taken off")


def engines_of(session: Session, unit_id: int) -> list[Mounted]:
    """The engines a unit carries now."""
    return [found for found in mounted(session) if found.unit.id == unit_id]


def mount_of(session: Session, engine_id: int) -> Mount | None:
    """Where an engine is mounted now."""
    return session.exec(
        select(Mount).where(Mount.engine_id == engine_id, col(Mount.until).is_(None))
    ).first()


def mount(session: Session, engine: EngineRow, unit: Unit, position: str) -> None:
    """Put an engine there from now on; what was there, and where it was, ends."""
    take_off(session, engine)
    there = session.exec(
        select(Mount).where(
            Mount.unit_id == unit.id, Mount.position == position, col(Mount.until).is_(None)
        )
    ).first()
    if there is not None:
        there.until = now()
        session.add(there)
    session.flush()
    row = Mount(engine_id=engine.id or 0, unit_id=unit.id or 0, position=position)
    session.add(row)
    session.flush()


def take_off(session: Session, engine: EngineRow) -> None:
    """Take an engine off its unit; it stays an engine of the shop."""
    found = mount_of(session, engine.id or 0)
    if found is not None:
        found.until = now()
        session.add(found)
        session.flush()


def readings_of_meters(
    session: Session, engine_ids: Collection[int]
) -> dict[int, list[MeterReading]]:
    """What the meters of these engines showed, in order, without what was struck."""
    found: dict[int, list[MeterReading]] = {key: [] for key in engine_ids}
    rows = select(MeterReading).where(
        col(MeterReading.engine_id).in_(engine_ids), col(MeterReading.struck_by).is_(None)
    )
    for row in session.exec(rows.order_by(col(MeterReading.read_on), col(MeterReading.id))):
        found[row.engine_id].append(row)
    return found


def plain(rows: Collection[MeterReading]) -> list[Reading]:
    """Meter readings as the core takes them."""
    return [Reading(row.value, row.read_on, row.is_new_meter) for row in rows]


def run_of(session: Session, engine_id: int) -> float | None:
    """All an engine has run, in its meter's unit; None where nobody has read it."""
    return total(plain(readings_of_meters(session, [engine_id])[engine_id]))


def add_reading(
    session: Session, engine_id: int, value: float, on: date, by: str, is_new_meter: bool = False
) -> None:
    """Keep what a meter showed."""
    session.add(
        MeterReading(engine_id=engine_id, value=value, read_on=on, is_new_meter=is_new_meter, by=by)
    )
    session.flush()


def add_unit(
    session: Session,
    unit: Unit,
    number: str,
    book_id: int,
    hours: float | None = None,
    by: str = "",
    **engine: Any,
) -> EngineRow:
    """Add a unit with one engine; its place is made where it is not known yet."""
    if unit.place:
        place_named(session, unit.place)
    row = EngineRow(number=number, book_id=book_id, **engine)
    session.add(unit)
    session.add(row)
    session.flush()
    mount(session, row, unit, MAIN)
    if hours is not None:
        add_reading(session, row.id or 0, hours, now().date(), by)
    return row


def places(session: Session) -> list[Place]:
    """Every place, retired ones included, by name."""
    return list(session.exec(select(Place).order_by(col(Place.name))))


def place_named(session: Session, name: str) -> Place:
    """A place by its name, made where it is not known yet."""
    found = session.exec(select(Place).where(Place.name == name)).first()
    if found is None:
        found = Place(name=name, is_bay=name.lower().startswith("bay"))
        session.add(found)
        session.flush()
    return found


def open_jobs_by_engine(session: Session) -> dict[int, list[str]]:
    """Numbers of the jobs that are not signed, by engine."""
    found: dict[int, list[str]] = {}
    rows = select(Job.engine_id, Job.number).where(col(Job.signed_at).is_(None))
    for engine, number in session.exec(rows.order_by(col(Job.id))):
        found.setdefault(engine, []).append(number)
    return found


def open_jobs_on(session: Session, engine_id: int) -> list[str]:
    """Numbers of an engine's jobs that are not signed."""
    rows = select(Job.number).where(Job.engine_id == engine_id, col(Job.signed_at).is_(None))
    return list(session.exec(rows.order_by(col(Job.id))))


def open_jobs_of(session: Session, unit_id: int) -> list[str]:
    """Numbers of a unit's jobs that are not signed."""
    rows = select(Job.number).where(Job.unit_id == unit_id, col(Job.signed_at).is_(None))
    return list(session.exec(rows.order_by(col(Job.id))))
