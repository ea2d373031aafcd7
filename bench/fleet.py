"""Pages of a large fleet at the server, and a report with many photographs: 300 units with ten
years of readings, one job with 100 photographs; all captures of a fleet read again.
"""

import io
import tempfile
import time
from collections.abc import Callable, Iterator
from datetime import UTC, date, datetime, timedelta
from pathlib import Path

import numpy as np
from PIL import Image
from sqlalchemy import Engine
from sqlmodel import Session, select

from bench import rereading
from bench.figure import Figure, at_most, for_information, machine_factor
from bench.house import ROOT, Visitor, application, cluster
from flaneur.core.book.schema import EngineBook
from flaneur.core.trend.lives import wear_parts
from flaneur.formats.archive import new_key
from flaneur.jobs.trending import work_out
from flaneur.store.database import connect, transaction
from flaneur.store.depot import book_of, keep_book
from flaneur.store.tables import EngineRow, MeterReading, Unit, WearRow
from flaneur.store.units import add_unit

UNITS, YEARS, A_YEAR, LOOKS, PHOTOS = 300, 10, 2, 7, 100
HOURS_A_YEAR = (300.0, 1500.0)
PAGE_MS, REPORT_S = 150.0, 3.0
BOOKS = ("ostrey-tansy", "ostrey-teasel", "brindle-fennel")


def run(is_tiny: bool = False) -> Iterator[Figure]:
    with cluster(is_tiny) as found, tempfile.TemporaryDirectory() as folder:
        key = Path(folder) / "key.pem"
        key.write_text(new_key(), encoding="ascii")
        url = found.new_database()
        engine = connect(url)
        app = application(url, key)
        rng = np.random.default_rng(3)
        _fill(engine, 3 if is_tiny else UNITS, rng)
        begun = time.perf_counter()
        work_out(engine)
        took = time.perf_counter() - begun
        yield for_information("fleet", "courses of all engines worked out, s", took)
        person = Visitor(app, "ivo")
        with Session(engine) as session:
            one = session.exec(select(EngineRow.id).where(EngineRow.number != "PIL-9 main")).first()
        factor = machine_factor()
        pages = ("/api/fleet", "/api/yard", f"/api/engines/{one}/trend", "/api/fleet/calibration")
        for page in pages:
            took = _middle(lambda page=page: person.send("GET", page), 2 if is_tiny else LOOKS)
            name = page.replace(str(one), "{id}")
            yield at_most("fleet", f"{name}, ms", 1000 * took, PAGE_MS * factor)
        yield from _report(person, 2 if is_tiny else PHOTOS, rng)
        engine.dispose()
    if not is_tiny:  # its tests read again with two processes too
        yield from rereading.measure()


def _fill(engine: Engine, units: int, rng: np.random.Generator) -> None:
    """Units of three books, each with what was measured of its parts over the years."""
    texts = [(ROOT / "engines" / f"{name}.yaml").read_text(encoding="utf-8") for name in BOOKS]
    today, place = datetime.now(UTC).date(), 0
    with transaction(engine) as session:
        rows = [keep_book(session, text) for text in texts]
        books = [book_of(session, row.id or 0) for row in rows]
        for number in range(units):
            row, book = rows[number % len(rows)], books[number % len(rows)]
            unit = Unit(tag=f"FLT-{number}", name=f"Fleet unit {number}", kind="ambulance")
            own = add_unit(session, unit, f"FLT-{number} main", row.id or 0)
            a_year = float(rng.uniform(*HOURS_A_YEAR))
            session.add_all(_meter(own.id or 0, a_year, today))
            lines = _told(book, own.number, a_year, place, rng)
            session.add_all(lines)
            place += len(lines)


def _meter(engine_id: int, a_year: float, today: date) -> list[MeterReading]:
    return [
        MeterReading(
            engine_id=engine_id,
            value=round(a_year * year),
            read_on=today - timedelta(days=365 * (YEARS - year)),
            by="the bench",
        )
        for year in range(1, YEARS + 1)
    ]


def _told(
    book: EngineBook, engine: str, a_year: float, place: int, rng: np.random.Generator
) -> list[WearRow]:
    """Parts worn by the book's law at a factor of their own, two or three of them looked at twice a
    year.
    """
    parts = list(wear_parts(book).values())
    looked = rng.choice(len(parts), size=min(3, len(parts)), replace=False)
    found: list[WearRow] = []
    for which in looked:
        part = parts[which]
        factor = float(np.exp(rng.normal(0, 0.3)))
        for half in range(1, YEARS * A_YEAR + 1):
            hours = a_year * half / A_YEAR
            wear = factor * part.wear.typical * (hours / part.wear.typical_hours) ** part.wear.shape
            found.append(
                WearRow(
                    position=place + len(found),
                    engine=engine,
                    hours=round(hours, 1),
                    part=part.name,
                    measured=round(wear * float(rng.normal(1, 0.05)), 3),
                    renewed="no",
                )
            )
    return found


def _report(person: Visitor, photos: int, rng: np.random.Generator) -> Iterator[Figure]:
    """A job with so many photographs of its complaint, its report as PDF with every one of them."""
    made = person.send("POST", "/api/jobs", json={"unit_id": 1}).get_json()
    job = int(made["id"])
    sheet = {
        "version": made["version"],
        "kind": "plunger",
        "part": "chain_b",
        "fields": {"method": "direct", "out": "14 mm", "uncertainty": "0.2 mm"},
        "instrument": "depth gauge",
    }
    person.send("POST", f"/api/jobs/{job}/readings/worksheet", json=sheet)
    reading = person.send("GET", f"/api/jobs/{job}/readings").get_json()["readings"][0]["id"]
    for _ in range(photos):
        file = {"file": (_picture(rng), "picture.jpg")}
        path = f"/api/jobs/{job}/readings/{reading}/photos"
        person.send("POST", path, data=file, content_type="multipart/form-data")
    listed = person.send("GET", f"/api/jobs/{job}/handover").get_json()["photos"]
    keys = ",".join(str(p["id"]) for p in listed)
    path = f"/api/jobs/{job}/report.pdf?photos={keys}"
    took = _middle(lambda: person.send("GET", path), 1 if photos < PHOTOS else 3)
    factor = machine_factor()
    yield at_most("fleet", f"report with {len(listed)} photographs, s", took, REPORT_S * factor)


def _picture(rng: np.random.Generator) -> io.BytesIO:
    """A photograph as a telephone takes it: large, and no two alike."""
    coarse = rng.integers(0, 255, (60, 80, 3), dtype=np.uint8)
    out = io.BytesIO()
    Image.fromarray(coarse).resize((2400, 1800), Image.Resampling.BICUBIC).save(out, "JPEG")
    out.seek(0)
    return out


def _middle(ask: Callable[[], object], looks: int) -> float:
    """Seconds an answer takes, in the middle of so many, the first one apart."""
    times: list[float] = []
    for _ in range(looks + 1):
        begun = time.perf_counter()
        ask()
        times.append(time.perf_counter() - begun)
    return float(np.median(times[1:]))
