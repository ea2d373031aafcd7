"""Units, engines and places, as a lead keeps them."""

from dataclasses import dataclass
from datetime import date

from sqlalchemy.exc import IntegrityError
from sqlmodel import Session, SQLModel

from flaneur.core.errors import ErrorCode, FlaneurError
from flaneur.core.meters import Meter, Reading, fault
from flaneur.store import units as store
from flaneur.store.depot import book_by_id
from flaneur.store.tables import EngineRow, Place, Unit, now


class UnitRefused(FlaneurError):
    """A unit, engine or place cannot be kept so."""

    code = ErrorCode.UNIT_REFUSED


@dataclass(frozen=True)
class Told:
    """What is told of a unit; ``place`` empty for none."""

    tag: str
    name: str
    kind: str
    place: str


def keep(session: Session, row: SQLModel, taken: str, field: str) -> None:
    """Write a row. Raises UnitRefused at ``field`` where its name, tag or number is another's."""
    try:
        with session.begin_nested():
            session.add(row)
            session.flush()
    except IntegrityError as error:
        raise UnitRefused(
            "There is another of that name.",
            read=taken,
            advice="Choose another. Nothing was kept.",
            field=field,
        ) from error


def add_unit(session: Session, told: Told) -> Unit:
    """A new unit, without an engine yet."""
    if told.place:
        store.place_named(session, told.place)
    unit = Unit(tag=told.tag, name=told.name, kind=told.kind, place=told.place or None)
    keep(session, unit, told.tag, "tag")
    return unit


def change_unit(session: Session, unit_id: int, told: Told, is_retired: bool) -> Unit:
    """Change what is told of a unit, retire it, or take it back. Raises UnitRefused for a unit in
    work that is to be retired.
    """
    unit = store.unit_by_id(session, unit_id, lock=True)
    waiting = store.open_jobs_of(session, unit_id)
    if is_retired and not unit.is_retired and waiting:
        raise UnitRefused(
            "This unit is in work.",
            read=", ".join(waiting),
            expected="no open job",
            advice="Sign or finish its jobs first.",
        )
    if told.place:
        store.place_named(session, told.place)
    unit.tag, unit.name, unit.kind = told.tag, told.name, told.kind
    unit.place, unit.is_retired = told.place or None, is_retired
    keep(session, unit, told.tag, "tag")
    return unit


def add_engine(session: Session, number: str, book_id: int, meter: Meter) -> EngineRow:
    """A new engine, mounted nowhere yet. Raises NotFound for no such book."""
    book_by_id(session, book_id)
    engine = EngineRow(number=number, book_id=book_id, meter=meter.value)
    keep(session, engine, number, "number")
    return engine


def change_engine(
    session: Session, engine_id: int, number: str, book_id: int, is_retired: bool
) -> EngineRow:
    """Change an engine's number, or its book while nothing rests on it. Raises UnitRefused for a
    mounted engine that is to be retired, and for another engine's book under a baseline.
    """
    engine = store.engine_by_id(session, engine_id, lock=True)
    if is_retired and store.mount_of(session, engine_id) is not None:
        raise UnitRefused(
            "This engine is mounted.", read=engine.number, advice="Take it off its unit first."
        )
    was, becomes = book_by_id(session, engine.book_id), book_by_id(session, book_id)
    if engine.baseline_deg and was.name != becomes.name:
        raise UnitRefused(
            "This engine has a baseline of its own.",
            read=f"{was.name}, to become {becomes.name}",
            expected="the same engine's book",
            advice="An engine of another kind is another engine: add it.",
        )
    engine.number, engine.book_id, engine.is_retired = number, book_id, is_retired
    keep(session, engine, number, "number")
    return engine


def mount(session: Session, engine_id: int, unit_id: int, position: str) -> None:
    """Put an engine at a position of a unit; what stood there is taken off. Raises UnitRefused
    while either is in work there.
    """
    engine = store.engine_by_id(session, engine_id, lock=True)
    unit = store.unit_by_id(session, unit_id, lock=True)
    if engine.is_retired or unit.is_retired:
        raise UnitRefused(
            "What is retired is not mounted.",
            read=f"{engine.number}, {unit.name}",
            advice="Take it back first.",
        )
    for found in store.mounted(session):
        is_there = found.unit.id == unit_id and found.position == position
        if is_there or found.engine.id == engine_id:
            _not_in_work(session, found)
    store.mount(session, engine, unit, position)


def take_off(session: Session, engine_id: int) -> None:
    """Take an engine off its unit. Raises UnitRefused while it is in work."""
    engine = store.engine_by_id(session, engine_id, lock=True)
    for found in store.mounted(session):
        if found.engine.id == engine_id:
            _not_in_work(session, found)
    store.take_off(session, engine)


def _not_in_work(session: Session, found: store.Mounted) -> None:
    waiting = store.open_jobs_on(session, found.engine.id or 0)
    if waiting:
        raise UnitRefused(
            "This engine is in work.",
            read=f"{found.engine.number} on {found.unit.name}: {', '.join(waiting)}",
            expected="no open job",
            advice="Sign its jobs first.",
        )


def read_meter(
    session: Session, engine_id: int, value: float, on: date, by: str, is_new_meter: bool
) -> None:
    """Keep what an engine's meter shows. Raises UnitRefused where it cannot go on from the last."""
    store.engine_by_id(session, engine_id, lock=True)
    before = store.plain(store.readings_of_meters(session, [engine_id])[engine_id])
    wrong = fault(before, Reading(value, on, is_new_meter))
    if on > now().date():
        wrong = "that day has not come"
    if wrong:
        raise UnitRefused(
            "The meter cannot have shown this.",
            read=f"{value:g} on {on.isoformat()}",
            expected=wrong,
            advice="Look again; a meter that was replaced begins anew, say so.",
            field="value",
        )
    store.add_reading(session, engine_id, value, on, by, is_new_meter)


def strike_last_reading(session: Session, engine_id: int, by: str) -> None:
    """Strike the last reading of an engine's meter: it was read or typed wrong. It stays on record
    and counts no more. Raises UnitRefused where there is none.
    """
    store.engine_by_id(session, engine_id, lock=True)
    last = store.readings_of_meters(session, [engine_id])[engine_id][-1:]
    if not last:
        raise UnitRefused("Nobody has read this meter.", advice="Read it first.")
    last[0].struck_by = by
    session.add(last[0])
    session.flush()


def change_place(
    session: Session, place_id: int, name: str, is_bay: bool, is_retired: bool
) -> None:
    """Change a place's name, which its units follow, or retire it while no unit stands there."""
    place = session.get(Place, place_id)
    if place is None:
        raise UnitRefused("There is no such place.", read=str(place_id), advice="Choose one.")
    here = [u.name for u in store.units(session) if u.place == place.name and not u.is_retired]
    if is_retired and here:
        raise UnitRefused(
            "Units stand there.", read=", ".join(here), advice="Give them another place first."
        )
    place.name, place.is_bay, place.is_retired = name, is_bay, is_retired
    keep(session, place, name, "name")


def add_place(session: Session, name: str, is_bay: bool) -> Place:
    """A new place."""
    place = Place(name=name, is_bay=is_bay)
    keep(session, place, name, "name")
    return place
