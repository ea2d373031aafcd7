"""A reading left out by weighing the draws anew, against the question solved without it."""

import pytest
from tests.core.test_diagnosis import PARKED, readings_of

from flaneur.core.book.schema import EngineBook
from flaneur.core.diagnosis.leaving_out import without_each
from flaneur.core.diagnosis.model import solve_readings
from flaneur.core.diagnosis.statistics import shares
from flaneur.core.faults.model import Faults
from flaneur.core.readings.taken import CamReading, Readings

TESTS: list[dict[str, object]] = [
    {"kind": "noise", "when": "cold_start", "where": "front_top_a", "seconds": 3},
    {"kind": "lash", "part": "cam_a_in", "lash_deg": 6.0, "stderr_deg": 0.5},
    {"kind": "endoscope", "part": "guide_a", "finding": "worn"},
    {"kind": "codes", "codes": ["P0016"]},
    {"kind": "replaced", "part": "chain_b", "hours_ago": 900},
]
FAULTS = {
    "worn": Faults(elongation_pct={"chain_a": 0.8}, liner_wear_mm={"guide_a": 0.9}),
    "jumped": Faults(jumped_teeth={"chain_b/cam_b_in": 1}),
    "sound": Faults(),
}


def asked(book: EngineBook, faults: Faults, *, with_tests: bool = True) -> Readings:
    """A full set of readings with ordinary errors of reading, and some tests."""
    exact = readings_of(book, faults)
    cams = [c.model_copy(update={"stderr_deg": 0.3}) for c in exact.cams]
    told = {"tests": TESTS if with_tests else [], "cams": [c.model_dump() for c in cams]}
    return Readings.model_validate(exact.model_dump() | told)


@pytest.mark.parametrize("name", FAULTS)
def test_it_comes_to_what_solving_without_it_does(book: EngineBook, name: str) -> None:
    readings = asked(book, FAULTS[name])
    for without in without_each(solve_readings(book, readings)):
        kept = list(getattr(readings, without.kind))
        del kept[without.index]
        rest = readings.model_copy(update={without.kind: kept})
        want = shares(solve_readings(book, rest, 24))
        for key in want:
            got = without.shares.get(key, want[key])
            assert got == pytest.approx(want[key], abs=0.06), (without.kind, without.index, key)


def test_what_was_put_in_before_is_no_reading(book: EngineBook) -> None:
    readings = asked(book, Faults())
    places = [(w.kind, w.index) for w in without_each(solve_readings(book, readings))]
    assert ("tests", 4) not in places, "what was put in is told, and not read"
    assert places == [
        *(("cams", i) for i in range(len(readings.cams))),
        *(("plungers", i) for i in range(len(readings.plungers))),
        *(("tests", i) for i in range(4)),
    ]


def test_the_reading_that_decides_carries_its_suspect(book: EngineBook) -> None:
    readings = asked(book, FAULTS["jumped"], with_tests=False)
    solved = solve_readings(book, readings)
    jumped = "jump:chain_b/cam_b_in"
    now = shares(solved)[jumped]
    at = [c.cam for c in readings.cams].index("cam_b_in")
    left = {w.index: w.shares[jumped] for w in without_each(solved) if w.kind == "cams"}
    assert now > 0.95
    assert left[at] < 0.05
    assert all(share > 0.9 for i, share in left.items() if i != at)


def test_the_only_reading_leaves_the_odds_as_they_were(book: EngineBook) -> None:
    cam = CamReading(cam="cam_a_in", deviation_deg=9.0, stderr_deg=0.3, phaser=PARKED)
    one = Readings(engine=book.name, hours=3000, oil="good", cams=[cam])
    (without,) = without_each(solve_readings(book, one))
    before = shares(solve_readings(book, one.unread))
    for key in ("wear:chain_a", "wear:primary", "phaser:phaser_a", "leak:tensioner_a"):
        assert without.shares[key] == pytest.approx(before[key], abs=0.04), key
