"""Units, their engines, and where they stand: a lead keeps them, everybody reads meters."""

from flask import Blueprint
from flask import Response as FlaskResponse
from spectree import Response
from sqlmodel import Session

from flaneur.api.models import ErrorOut, Nothing
from flaneur.api.security import by_name, person
from flaneur.api.spec import checked
from flaneur.api.stages.units.models import (
    BookChoice,
    EngineChange,
    EngineIn,
    EngineLine,
    ListIn,
    ListLineOut,
    ListTake,
    MeterIn,
    MountIn,
    PlaceChange,
    PlaceIn,
    PlaceLine,
    PreviewOut,
    UnitChange,
    UnitIn,
    UnitLine,
    Units,
)
from flaneur.api.work import database
from flaneur.core.meters import Meter, run_words, total
from flaneur.jobs import unit_lists
from flaneur.jobs import units as jobs
from flaneur.store import units as store
from flaneur.store.database import transaction
from flaneur.store.depot import book_of, know_books, newest_book_rows
from flaneur.store.tables import now

blueprint = Blueprint("units", __name__)
KEY = "int(max=2147483647)"
UNIT = f"/api/units/<{KEY}:unit_id>"
ENGINE = f"/api/engines/<{KEY}:engine_id>"
CHANGED = Response(HTTP_200=Units, HTTP_403=ErrorOut, HTTP_404=ErrorOut, HTTP_422=ErrorOut)


def _units(session: Session) -> Units:
    mounted = {m.engine.id: m for m in store.mounted(session)}
    engines = store.engines(session)
    know_books(session, {e.book_id for e in engines})
    read = store.readings_of_meters(session, [e.id or 0 for e in engines])
    waiting = store.open_jobs_by_engine(session)
    lines: list[EngineLine] = []
    for engine in engines:
        key = engine.id or 0
        at, last = mounted.get(key), read[key][-1:]
        lines.append(
            EngineLine(
                id=key,
                number=engine.number,
                book_id=engine.book_id,
                book=book_of(session, engine.book_id).name,
                meter=Meter(engine.meter),
                unit_id=at.unit.id if at else None,
                position=at.position if at else None,
                reading=last[0].value if last else None,
                read_on=last[0].read_on if last else None,
                run_words=run_words(total(store.plain(read[key])), Meter(engine.meter)),
                has_baseline=bool(engine.baseline_deg),
                is_retired=engine.is_retired,
                in_work=waiting.get(key, []),
            )
        )
    return Units(
        units=[
            UnitLine(
                id=u.id or 0,
                tag=u.tag,
                name=u.name,
                kind=u.kind,
                place=u.place or "",
                is_retired=u.is_retired,
            )
            for u in store.units(session)
        ],
        engines=lines,
        places=[PlaceLine.model_validate(p, from_attributes=True) for p in store.places(session)],
        books=[BookChoice(id=key, name=book.name) for key, book in newest_book_rows(session)],
    )


def _all() -> Units:
    with transaction(database()) as session:
        return _units(session)


def _told(json: UnitIn) -> jobs.Told:
    return jobs.Told(json.tag, json.name, json.kind, json.place)


@blueprint.get("/api/units")
@checked(resp=Response(HTTP_200=Units))
def get_units() -> Units:
    """All units, engines and places."""
    return _all()


@blueprint.post("/api/units")
@checked(resp=CHANGED)
def add_unit(json: UnitIn) -> Units:
    """Add a unit; engines are mounted on it afterwards."""
    with transaction(database(), person()) as session:
        jobs.add_unit(session, _told(json))
    return _all()


@blueprint.put(UNIT)
@checked(resp=CHANGED)
def change_unit(unit_id: int, json: UnitChange) -> Units:
    """Change what is told of a unit, retire it, or take it back."""
    with transaction(database(), person()) as session:
        jobs.change_unit(session, unit_id, _told(json), json.is_retired)
    return _all()


@blueprint.post("/api/engines")
@checked(resp=CHANGED)
def add_engine(json: EngineIn) -> Units:
    """Add an engine, mounted and with its meter read where that is said."""
    with transaction(database(), person()) as session:
        engine = jobs.add_engine(session, json.number, json.book_id, json.meter)
        key = engine.id or 0
        if json.unit_id is not None:
            jobs.mount(session, key, json.unit_id, json.position)
        if json.reading is not None:
            on = json.read_on or now().date()
            jobs.read_meter(session, key, json.reading, on, by_name(), is_new_meter=False)
    return _all()


@blueprint.put(ENGINE)
@checked(resp=CHANGED)
def change_engine(engine_id: int, json: EngineChange) -> Units:
    """Change an engine's number or book, retire it, or take it back."""
    with transaction(database(), person()) as session:
        jobs.change_engine(session, engine_id, json.number, json.book_id, json.is_retired)
    return _all()


@blueprint.post(f"{ENGINE}/mount")
@checked(resp=CHANGED)
def mount_engine(engine_id: int, json: MountIn) -> Units:
    """Put an engine at a position of a unit; what stood there is taken off."""
    with transaction(database(), person()) as session:
        jobs.mount(session, engine_id, json.unit_id, json.position)
    return _all()


@blueprint.post(f"{ENGINE}/take-off")
@checked(resp=CHANGED)
def take_engine_off(engine_id: int, json: Nothing) -> Units:
    """Take an engine off its unit; it stays an engine of the shop."""
    del json
    with transaction(database(), person()) as session:
        jobs.take_off(session, engine_id)
    return _all()


@blueprint.post(f"{ENGINE}/meter")
@checked(resp=CHANGED)
def read_meter(engine_id: int, json: MeterIn) -> Units:
    """Keep what an engine's meter shows, or that it was replaced."""
    with transaction(database(), person()) as session:
        jobs.read_meter(session, engine_id, json.value, json.read_on, by_name(), json.is_new_meter)
    return _all()


@blueprint.post(f"{ENGINE}/meter/strike")
@checked(resp=CHANGED)
def strike_reading(engine_id: int, json: Nothing) -> Units:
    """Strike the last reading of an engine's meter, which was read or typed wrong."""
    del json
    with transaction(database(), person()) as session:
        jobs.strike_last_reading(session, engine_id, by_name())
    return _all()


@blueprint.post("/api/places")
@checked(resp=CHANGED)
def add_place(json: PlaceIn) -> Units:
    """Add a place or a bay."""
    with transaction(database(), person()) as session:
        jobs.add_place(session, json.name, json.is_bay)
    return _all()


@blueprint.put(f"/api/places/<{KEY}:place_id>")
@checked(resp=CHANGED)
def change_place(place_id: int, json: PlaceChange) -> Units:
    """Change a place, retire it, or take it back; its units follow its name."""
    with transaction(database(), person()) as session:
        jobs.change_place(session, place_id, json.name, json.is_bay, json.is_retired)
    return _all()


@blueprint.get("/api/units.csv")
def list_out() -> FlaskResponse:
    """Units and engines as a list."""
    with transaction(database()) as session:
        text = unit_lists.write_list(session)
    name = {"Content-Disposition": 'attachment; filename="units.csv"'}
    return FlaskResponse(text, mimetype="text/csv", headers=name)


def _preview_out(found: unit_lists.Preview) -> PreviewOut:
    return PreviewOut(
        lines=[ListLineOut.model_validate(line, from_attributes=True) for line in found.lines],
        is_good=found.is_good,
        fingerprint=found.fingerprint,
    )


@blueprint.post("/api/units/list/preview")
@checked(resp=Response(HTTP_200=PreviewOut, HTTP_403=ErrorOut, HTTP_422=ErrorOut))
def preview_list(json: ListIn) -> PreviewOut:
    """What a list would change, line by line. Nothing is kept."""
    with transaction(database(), person()) as session:
        found = unit_lists.preview(session, json.text, by_name())
        session.rollback()
    return _preview_out(found)


@blueprint.post("/api/units/list")
@checked(resp=Response(HTTP_200=PreviewOut, HTTP_403=ErrorOut, HTTP_422=ErrorOut))
def take_list(json: ListTake) -> PreviewOut:
    """Take a list in as it was looked at: all of it or nothing."""
    with transaction(database(), person()) as session:
        found = unit_lists.take(session, json.text, json.fingerprint, by_name())
    return _preview_out(found)
