"""Engine books over HTTP: laid open, turned, worn, a tooth off, examined; and jobs on every
engine.
"""

from collections.abc import Iterator
from pathlib import Path

import numpy as np
import pytest
from demo.walk import Visitor
from sqlmodel import select
from tests.api.conftest import (
    House,
    begin,
    bring,
    build,
    capture,
    refusal,
    turn_by_hand,
    work_bench,
)
from tests.support.cluster import ROOT
from tests.support.raw import read_yaml, write_yaml

from flaneur.core.book.schema import EngineBook
from flaneur.core.faults.model import Faults
from flaneur.core.signals.capture import Capture
from flaneur.formats.captures import write_csv
from flaneur.simulation.motion import Conditions
from flaneur.simulation.server import Server
from flaneur.simulation.synthesis import synthesise
from flaneur.store.database import transaction
from flaneur.store.depot import keep_book
from flaneur.store.tables import Unit
from flaneur.store.units import add_unit

ENGINES = sorted((ROOT / "engines").glob("*.yaml"))


@pytest.fixture
def depot(database_url: str, box: Server) -> Iterator[tuple[House, dict[str, int], dict[str, int]]]:
    """A house with a unit of every engine: book ids and unit ids by file name."""
    house = build(database_url, box, has_unit=False)
    books: dict[str, int] = {}
    with transaction(house.engine) as session:
        for path in ENGINES:
            row = keep_book(session, path.read_text(encoding="utf-8"))
            books[path.stem] = row.id or 0
            unit = Unit(tag=path.stem, name=f"Unit {path.stem}", kind="pilot boat")
            add_unit(session, unit, f"{path.stem} main", row.id or 0, 3000, "the depot")
    with transaction(house.engine) as session:
        units = {unit.tag: unit.id or 0 for unit in session.exec(select(Unit))}
    yield house, books, units
    house.close()


def test_every_book_lies_open_and_turns(
    depot: tuple[House, dict[str, int], dict[str, int]],
) -> None:
    house, books, _ = depot
    visitor = house.visitor()
    listed = visitor.send("GET", "/api/books")["books"]
    assert [b["id"] for b in listed] == [books[k] for k in sorted(books)]
    for name, book in books.items():
        view = visitor.send("GET", f"/api/books/{book}")
        assert all(c["holds"] for c in view["checks"])
        face = visitor.send("GET", f"/api/books/{book}/face")
        assert face["clearance_known"]
        assert sum(c["links"] for c in face["picture"]["chains"]) == next(
            b["links"] for b in listed if b["id"] == book
        )
        clearance = visitor.send("GET", f"/api/books/{book}/clearance")
        assert clearance["loose_windows"] == face["safe_windows"], name
        touch = visitor.send("GET", f"/api/books/{book}/touch/any")
        assert len(touch["rows"]) == 241
        chains = ",".join(clearance["chains"])
        loose = visitor.send("GET", f"/api/books/{book}/loose?chains={chains}&parked=true")
        assert (loose["chains"], loose["phasers_parked"]) == (list(clearance["chains"]), True)
        if clearance["holdings"]:
            assert (
                visitor.send("GET", f"/api/books/{book}/loose?chains={chains}&hold=0")["held_by"]
                == clearance["holdings"][0]["name"]
            )
        contact = face["contacts"][-1]["contact"]
        off = visitor.send("GET", f"/api/books/{book}/off/{contact}/-1")
        assert off["off"]["teeth"] == -1
        assert off["picture"]["label"].startswith("one tooth off: ")


def test_a_job_on_every_engine_reads_plans_and_starts(
    depot: tuple[House, dict[str, int], dict[str, int]],
) -> None:
    house, _, units = depot
    visitor = house.visitor()
    for name, unit in units.items():
        job = int(visitor.send("POST", "/api/jobs", {"unit_id": unit})["id"])
        head = visitor.send("GET", f"/api/jobs/{job}")
        assert {p["id"] for p in head["face"]["planes"]} >= {"main"}
        readings = visitor.send("GET", f"/api/jobs/{job}/readings")
        assert readings["worksheets"], name
        assert (
            "No readings yet"
            in visitor.send("GET", f"/api/jobs/{job}/verdict")["verdict"]["headline"]
        )
        worn = visitor.send("GET", f"/api/jobs/{job}/face/5")
        assert not worn["is_known"]
        plan = visitor.send("GET", f"/api/jobs/{job}/plan")
        scope = [c["id"] for c in plan["components"] if c["id"].endswith("_part")][:2] or [
            plan["components"][0]["id"]
        ]
        visitor.change(job, "PUT", "/plan", {"scope": scope})
        begin(visitor, job)
        assert len(visitor.send("GET", f"/api/jobs/{job}/bench")["steps"]) > 8, name


def test_an_engine_without_tone_wheels_says_so_instead_of_capturing(
    depot: tuple[House, dict[str, int], dict[str, int]],
) -> None:
    house, _, units = depot
    visitor = house.visitor()
    for name, words in (
        ("dunmarrow-thistle", "no tone wheel on its crankshaft"),
        ("skarne-burdock", "no cam tone wheels"),
    ):
        job = int(visitor.send("POST", "/api/jobs", {"unit_id": units[name]})["id"])
        status, error = refusal(
            visitor,
            "POST",
            f"/api/jobs/{job}/captures/box",
            {"version": 2, "phase": "before", "phasers": {}, "seconds": 2},
        )
        assert status == 422, error
        assert words in error["message"]


def test_a_worn_engine_turns_as_its_verdict_has_it(visitor: Visitor, job: int) -> None:
    capture(visitor, job)
    once, twenty = (visitor.send("GET", f"/api/jobs/{job}/face/{k}") for k in (1, 20))
    late = [
        {s["id"]: s["late_deg"] for s in f["picture"]["shafts"]}["cam_b_ex"] for f in (once, twenty)
    ]
    assert late[0] > 1
    assert late[1] > 5 * late[0]
    assert "×20, not to scale" in twenty["picture"]["label"]
    assert "to scale" in once["picture"]["label"]
    assert once["is_known"]


def test_no_such_book_cam_or_contact(house: House) -> None:
    visitor = house.visitor()
    assert refusal(visitor, "GET", "/api/books/999")[0] == 404
    book = visitor.send("GET", "/api/books")["books"][0]["id"]
    status, error = refusal(visitor, "GET", f"/api/books/{book}/touch/cam_q")
    assert (status, error["read"]) == (422, "cam_q")
    assert "any, cam_a_in" in error["expected"]
    assert refusal(visitor, "GET", f"/api/books/{book}/loose?chains=sail")[1]["read"] == "sail"
    assert refusal(visitor, "GET", f"/api/books/{book}/loose?chains=primary&crank=nan")[0] == 422
    assert refusal(visitor, "GET", f"/api/books/{book}/loose?chains=primary&hold=40")[0] == 422
    assert refusal(visitor, "GET", f"/api/books/{book}/off/chain_a/crank/1")[0] == 422


def test_a_sound_book_is_examined_and_not_kept(house: House) -> None:
    visitor = house.visitor()
    text = Path(ROOT / "engines" / "tarsel-comfrey.yaml").read_text(encoding="utf-8")
    found = visitor.send("POST", "/api/books/examine", {"text": text})
    assert (found["name"], found["faults"]) == ("Tarsel Comfrey", 0)
    assert [b["name"] for b in visitor.send("GET", "/api/books")["books"]] == ["Ostrey Tansy"]
    assert visitor.send("POST", "/api/books/examine", {"text": "just words"})["faults"] == 1
    broken = visitor.send(
        "POST", "/api/books/examine", {"text": text.replace("links: 98", "links: 120")}
    )
    assert broken["faults"] > 0
    assert any(
        c["path"] == "chains.belt.links" and not c["holds"] and c["expected"]
        for c in broken["checks"]
    )


def test_an_engine_read_by_its_marks_goes_all_the_way_to_release(
    depot: tuple[House, dict[str, int], dict[str, int]],
) -> None:
    house, _, units = depot
    visitor = house.visitor()
    job = int(visitor.send("POST", "/api/jobs", {"unit_id": units["dunmarrow-thistle"]})["id"])
    visitor.change(
        job, "PUT", "/intake", {"complaint": "Retarded, weak, chain slaps.", "hours": "9800 h"}
    )
    assert (
        visitor.send("GET", f"/api/jobs/{job}")["next"]["words"]
        == "Read the engine by its marks, lash and lengths."
    )
    rotor = {
        "cam": "cam",
        "value": "15.5°",
        "degrees_of": "crank",
        "positive": "retard",
        "uncertainty": "1",
        "instrument": "other",
        "tool": "rotor arm",
    }
    visitor.change(job, "POST", "/readings/cam", rotor)
    verdict = visitor.send("GET", f"/api/jobs/{job}/verdict")["verdict"]
    assert verdict["suspects"][0]["key"] in ("jump:timing/crank", "jump:timing/cam")
    work_bench(visitor, job, ["timing_part"])
    turn_by_hand(visitor, job)
    assert visitor.send("GET", f"/api/jobs/{job}")["next"]["words"].startswith(
        "Read every cam again by its marks"
    )
    visitor.change(job, "POST", "/readings/cam", {**rotor, "value": "0.5°"})
    assert (
        visitor.change(job, "POST", "/proof/release")["words"] == "Released: every condition met."
    )


def test_all_that_is_known_of_a_part_stands_together(visitor: Visitor, job: int) -> None:
    path = f"/api/jobs/{job}/parts/chain_b"
    assert {"label": "Verdict", "value": "unknown: no readings yet"} in visitor.send("GET", path)[
        "facts"
    ]
    capture(visitor, job)
    facts = visitor.send("GET", path)["facts"]
    assert any(f["label"] == "Wear" and "limit 0.5 %: " in f["value"] for f in facts)
    assert any(f["label"] == "Length" for f in facts)
    on_cam = visitor.send("GET", f"/api/jobs/{job}/parts/cam_b_in")["facts"]
    assert any(f["label"] == "Read, before the repair" for f in on_cam)
    visitor.change(job, "PUT", "/plan", {"scope": ["chain_b_part"]})
    assert {"label": "Plan", "value": "is renewed; not begun"} in visitor.send("GET", path)["facts"]
    assert refusal(visitor, "GET", f"/api/jobs/{job}/parts/fan")[1]["read"] == "fan"


def test_an_oil_pump_chain_measured_long_is_kept_and_judged_but_accuses_nobody(
    visitor: Visitor, job: int
) -> None:
    capture(visitor, job)
    before = visitor.send("GET", f"/api/jobs/{job}/verdict")["verdict"]
    sheet = next(
        s
        for s in visitor.send("GET", f"/api/jobs/{job}/readings")["worksheets"]
        if s["kind"] == "chain_length"
    )
    assert "pump_chain" in {p["id"] for p in sheet["parts"]}
    fields = {"links": "40", "length": "324.8 mm", "pull": "100 N", "uncertainty": "0.1 mm"}
    known = {b["key"] for b in sheet["blanks"]}
    body = {
        "kind": "chain_length",
        "part": "pump_chain",
        "fields": {k: v for k, v in fields.items() if k in known},
        "instrument": "caliper",
    }
    visitor.change(job, "POST", "/readings/worksheet", body)
    row = next(
        r
        for r in visitor.send("GET", f"/api/jobs/{job}/readings")["readings"]
        if r["part"] == "pump_chain"
    )
    assert row["band"] in ("marginal", "replace")
    after = visitor.send("GET", f"/api/jobs/{job}/verdict")["verdict"]
    assert [s["key"] for s in after["suspects"]] == [s["key"] for s in before["suspects"]]


def test_a_book_without_clearance_shows_unknown_everywhere(house: House) -> None:
    raw = read_yaml((ROOT / "engines" / "quillon-sorrel.yaml").read_text(encoding="utf-8"))
    del raw["clearance"]
    with transaction(house.engine) as session:
        book = keep_book(session, write_yaml(raw)).id
    visitor = house.visitor()
    assert {
        b["name"]: b["knows_clearance"] for b in visitor.send("GET", "/api/books")["books"]
    } == {
        "Ostrey Tansy": True,
        "Quillon Sorrel": False,
    }
    face = visitor.send("GET", f"/api/books/{book}/face")
    assert (face["clearance_known"], face["safe_windows"], face["lobes"]) == (False, [], [])
    assert (
        face["clearance_words"]
        == "Clearance unknown: treat as touching. The book gives no piston and valve data."
    )
    assert visitor.send("GET", f"/api/books/{book}/touch/any") == {
        "is_known": False,
        "cam": None,
        "rows": [],
    }
    assert (
        "unknown: treat as touching" in visitor.send("GET", f"/api/books/{book}/clearance")["words"]
    )
    off = visitor.send("GET", f"/api/books/{book}/off/timing/cam_in/1")
    assert off["valves"] == {
        "touches": None,
        "bent": [],
        "clear": [],
        "unknown": ["Valves unknown: treat as touching."],
        "rooms": [],
        "reserve": "",
    }
    status, error = refusal(visitor, "GET", f"/api/books/{book}/loose?chains=timing")
    assert (status, error["read"]) == (422, "no piston and valve data")


def test_a_file_that_fits_no_book_is_asked_about_and_not_answered_by_another_book(
    depot: tuple[House, dict[str, int], dict[str, int]], book: EngineBook, tmp_path: Path
) -> None:
    """Books without tone wheels stand in the depot: none of them has a word about a file of another
    engine.
    """
    house, _, units = depot
    visitor = house.visitor()
    job = int(visitor.send("POST", "/api/jobs", {"unit_id": units["ostrey-tansy"]})["id"])
    good = synthesise(book, Faults(), Conditions(seconds=1.2), np.random.default_rng(3))
    names = dict(zip(good.channels, ("one", "two", "three", "four", "five"), strict=True))
    rng = np.random.default_rng(4)
    noise = Capture(
        good.rate_hz,
        {names[n]: rng.normal(2.5, 0.1, good.samples).astype(np.float32) for n in good.channels},
    )
    write_csv(noise, tmp_path / "noise.csv")
    found = bring(visitor, job, tmp_path / "noise.csv")
    assert (found["state"], found["trouble"]["advice"]) == (
        "asking",
        "Say which column is which sensor.",
    )
    assert found["trouble"]["code"] == "columns_unnamed"
    broken = Capture(
        good.rate_hz, {n: x if n != "crank" else np.zeros_like(x) for n, x in good.channels.items()}
    )
    write_csv(broken, tmp_path / "flat.csv")
    found = bring(visitor, job, tmp_path / "flat.csv")
    assert found["state"] == "refused"
    assert "Thistle" not in str(found["trouble"])


def test_a_shop_judges_by_its_own_rule_where_a_book_says_nothing(
    depot: tuple[House, dict[str, int], dict[str, int]],
) -> None:
    house, _, units = depot
    visitor, lead = house.visitor(), house.visitor("sunna")
    job = int(visitor.send("POST", "/api/jobs", {"unit_id": units["skarne-burdock"]})["id"])
    sheet = {
        "kind": "oil",
        "part": "engine",
        "fields": {"level": "full", "pressure": "50 kPa", "warm": "92 °C", "speed": "700 rpm"},
        "phase": "before",
    }

    def judged() -> tuple[str, float]:
        path = f"/api/jobs/{job}/worksheet"
        asked = {k: sheet[k] for k in ("kind", "part", "fields")}
        band = visitor.send("POST", path, asked)["answer"]["band"]
        suspects = visitor.send("GET", f"/api/jobs/{job}/verdict")["verdict"]["suspects"]
        return band, next((s["probability"] for s in suspects if s["key"] == "oil_low"), 0.0)

    visitor.change(job, "POST", "/readings/worksheet", sheet)
    band, before = judged()
    assert band == "unknown"
    bands = {"lash_fine_deg": 5, "lash_replace_deg": 9, "leak_down_s": 9, "oil_kpa_hot_idle": 130}
    assert refusal(visitor, "PUT", "/api/shop/bands", {"bands": bands})[0] == 403
    status, error = refusal(lead, "PUT", "/api/shop/bands", {"bands": bands | {"lash_fine_deg": 9}})
    assert (status, "must be less" in str(error)) == (422, True), error
    lead.send("PUT", "/api/shop/bands", {"bands": bands})
    band, after = judged()
    assert band == "replace"
    assert after > 5 * before
    asked = {"left_out": [], "changed": {}, "school": {}}
    told = visitor.send("POST", f"/api/jobs/{job}/advice", asked)
    assert told["bands"] == bands
    assert {b["key"] for b in told["bands_asked"] if b["is_open"]} == {
        "leak_down_s",
        "oil_kpa_hot_idle",
    }
