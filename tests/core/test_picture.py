"""The picture that turns: continuous paths, true link counts, and what a tooth off shows."""

import math

import pytest
from bench.slopes import elongation_slopes, liner_slopes
from tests.core.test_engines import BOOKS, every_book

from flaneur.core.book.schema import EngineBook
from flaneur.core.diagnosis.verdict import diagnose
from flaneur.core.diagnosis.worn import worn_state
from flaneur.core.drive.chain import ChainWear
from flaneur.core.drive.facts import part_facts
from flaneur.core.drive.off import one_tooth_off
from flaneur.core.drive.outline import Piece
from flaneur.core.drive.train import DriveTrain
from flaneur.core.errors import BookError
from flaneur.core.faults.model import Faults
from flaneur.core.picture.drive import drive_picture
from flaneur.core.readings.taken import CamReading, PhaserState, Readings


def ends(piece: Piece) -> tuple[tuple[float, float], tuple[float, float]]:
    if piece.line:
        x0, y0, x1, y1 = piece.line
        return (x0, y0), (x1, y1)
    assert piece.arc is not None
    cx, cy, r, start, end = piece.arc
    return (cx + r * math.cos(start), cy + r * math.sin(start)), (
        cx + r * math.cos(end),
        cy + r * math.sin(end),
    )


@every_book
def test_every_path_closes_and_carries_the_chains_own_links(name: str) -> None:
    for chain in drive_picture(BOOKS[name]).chains:
        for pieces in (chain.forward, chain.back):
            for piece, after in zip(pieces, pieces[1:] + pieces[:1], strict=True):
                assert math.dist(ends(piece)[1], ends(after)[0]) < 1e-6
            assert sum(p.links for p in pieces) == pytest.approx(chain.links, abs=0.16)


@every_book
def test_every_part_is_drawn_inside_its_planes_box(name: str) -> None:
    book = BOOKS[name]
    picture = drive_picture(book)
    drawn = {p.part for p in (*picture.chains, *picture.wheels, *picture.faces)}
    assert drawn == {
        *book.chains,
        *book.sprockets,
        *book.gears,
        *book.guides,
        *book.arms,
        *book.tensioners,
    }
    for plane in picture.planes:
        left, low, width, height = plane.box
        for face in (f for f in picture.faces if f.plane == plane.id):
            assert all(
                left <= x <= left + width and low <= y <= low + height for x, y in face.forward
            )
        for wheel in (w for w in picture.wheels if w.plane == plane.id):
            assert left <= wheel.x - wheel.radius
            assert wheel.y + wheel.radius <= low + height
        for x, y in plane.outline:
            assert left <= x <= left + width
            assert low <= y <= low + height


def test_a_worn_liner_is_drawn_thinner_and_its_rail_stays(book: EngineBook) -> None:
    worn = drive_picture(book, Faults(liner_wear_mm={"guide_b": 2.0}))
    new, old = (
        next(f for f in picture.faces if f.part == "guide_b")
        for picture in (drive_picture(book), worn)
    )
    assert new.liner_mm == book.guides["guide_b"].liner_mm
    assert old.liner_mm == pytest.approx(new.liner_mm - 2.0)
    centre = book.guides["guide_b"].centre_mm
    for a, b in zip(new.forward, old.forward, strict=False):
        assert math.dist(centre, a) == pytest.approx(math.dist(centre, b)), "the rail stays"
    away = [math.dist(centre, f.liner[len(f.liner) // 2]) for f in (new, old)]
    assert away[0] - away[1] == pytest.approx(1.0), "its middle lies half of that further in"


@every_book
def test_a_chain_moves_by_as_many_links_as_its_sprockets_pass_teeth(name: str) -> None:
    picture = drive_picture(BOOKS[name])
    for chain in picture.chains:
        own = [w for w in picture.wheels if w.part in BOOKS[name].chains[chain.part].loop]
        for wheel in own:
            assert abs(wheel.clock_per_crank) / 360 * wheel.teeth == pytest.approx(
                chain.links_per_crank_deg
            )
        running = {math.copysign(1, w.clock_per_crank) for w in own}
        assert len(running) == 1


def test_the_balance_shaft_is_seen_to_turn_the_other_way() -> None:
    wheels = {w.part: w for w in drive_picture(BOOKS["ostrey-tansy"]).wheels}
    assert wheels["gear_crank"].clock_per_crank == 1
    assert wheels["gear_balance"].clock_per_crank == -1


def test_from_the_other_end_the_engine_runs_the_other_way() -> None:
    picture = drive_picture(BOOKS["tarsel-comfrey"])
    assert [p.running_direction for p in picture.planes] == ["clockwise", "anticlockwise"]
    wheels = {w.part: w for w in picture.wheels}
    assert wheels["belt_in"].clock_per_crank == 0.5
    assert wheels["rear_ex"].clock_per_crank == -0.5


def test_a_worn_engine_is_drawn_later_by_what_the_drive_says(book: EngineBook) -> None:
    faults = Faults(elongation_pct={"chain_a": 0.5})
    shafts = {s.id: s for s in drive_picture(book, faults).shafts}
    assert shafts["cam_a_in"].late_deg == pytest.approx(
        DriveTrain(book).state(faults).deviation_deg["cam_a_in"]
    )
    assert shafts["cam_b_in"].late_deg == pytest.approx(0, abs=0.01)


def test_a_tooth_at_the_driver_leaves_the_whole_chain_a_link_behind(book: EngineBook) -> None:
    def behind(contact: str) -> float:
        now = next(
            c
            for c in drive_picture(book, Faults(jumped_teeth={contact: 1})).chains
            if c.part == "chain_a"
        )
        return (
            now.mark_links
            - next(c for c in drive_picture(book).chains if c.part == "chain_a").mark_links
        )

    assert behind("chain_a/idler_a") == 1
    assert behind("chain_a/cam_a_in") == 0


def cams_late(book: EngineBook, late: dict[str, float]) -> Readings:
    parked = PhaserState(state="parked")
    cams = [
        CamReading(cam=c, deviation_deg=late.get(c, 0.0), stderr_deg=0.1, phaser=parked)
        for c in book.cams
    ]
    return Readings(engine=book.name, hours=3000, oil="good", cams=cams)


def test_wear_drawn_is_the_verdicts_and_exaggeration_is_always_said(book: EngineBook) -> None:
    verdict = diagnose(book, cams_late(book, {"cam_a_in": 20.0}), with_evidence=False)
    once, twenty = worn_state(book, verdict, 1), worn_state(book, verdict, 20)
    median = {w.key: w.median for w in verdict.wear}
    assert once.faults.elongation_pct["chain_a"] == pytest.approx(median["chain_a"])
    assert twenty.faults.elongation_pct["chain_a"] == pytest.approx(
        min(6.0, 20 * median["chain_a"])
    )
    assert once.faults.jumped_teeth == twenty.faults.jumped_teeth == {"chain_a/cam_a_in": 1}
    assert "×20, not to scale" in twenty.label
    assert "1 tooth late" in twenty.label
    assert drive_picture(book, twenty.faults).chains


def test_without_readings_wear_is_unknown(book: EngineBook) -> None:
    verdict = diagnose(book, Readings(engine=book.name), with_evidence=False)
    worn = worn_state(book, verdict, 5)
    assert not worn.is_known
    assert "unknown" in worn.label
    assert worn.faults == Faults()


def test_one_tooth_off_says_what_marks_counts_tools_and_ladder_show(book: EngineBook) -> None:
    off = one_tooth_off(book, "chain_a/cam_a_in", 1)
    cams = {c.cam: c.late_deg for c in off.cams}
    assert cams == {"cam_a_in": 20.0, "cam_a_ex": 0.0, "cam_b_in": 0.0, "cam_b_ex": 0.0}
    marks = {m.mark: m for m in off.marks}
    assert marks["dot_a_in"].words == "misses by 10.0° (8.0 mm), late"
    assert marks["dot_a_ex"].words == "still meets"
    assert {m for m, shown in marks.items() if shown.is_missed} == {"dot_a_in"}
    assert {(c.start, c.found - c.book) for c in off.counts} == {
        ("Idler outer row", -1),
        ("Intake sprocket A", 1),
        ("Exhaust sprocket A", 0),
    }
    assert {t.name: t.goes_in for t in off.tools} == {
        "Cam holders": False,
        "Exhaust gauge": True,
        "Crank pin": True,
    }


def test_a_tooth_at_the_driver_moves_all_it_drives(book: EngineBook) -> None:
    off = one_tooth_off(book, "primary/crank", -1)
    assert {round(c.late_deg, 3) for c in off.cams} == {-17.143}
    found = {(c.start, c.end): c.found for c in off.counts}
    assert found == {
        ("Crank sprocket", "Idler primary sprocket"): 34,
        ("Idler primary sprocket", "Crank sprocket"): 32,
    }


@pytest.mark.parametrize(
    ("contact", "teeth"),
    [("chain_a/crank", 1), ("chain_q/cam", 1), ("chain_a/cam_a_in", 0), ("chain_a/cam_a_in", 9)],
)
def test_an_impossible_tooth_is_refused(book: EngineBook, contact: str, teeth: int) -> None:
    with pytest.raises(BookError):
        one_tooth_off(book, contact, teeth)


@every_book
def test_every_part_has_facts_to_show(name: str) -> None:
    book = BOOKS[name]
    known = {f.part: f for f in part_facts(book)}
    assert set(known) >= {
        *book.chains,
        *book.sprockets,
        *book.guides,
        *book.arms,
        *book.tensioners,
        *book.phasers,
    }
    assert all(f.facts for f in known.values())


def test_what_a_tenth_of_a_per_cent_does_is_told_of_every_chain_that_times_a_cam(
    book: EngineBook,
) -> None:
    facts = {f.part: {x.label: x.value for x in f.facts} for f in part_facts(book)}
    found = facts["chain_a"]["A tenth of a per cent longer"]
    late = DriveTrain(book).state(Faults(elongation_pct={"chain_a": 0.1})).deviation_deg
    assert f"Intake cam, bank A (1-3-5) {late['cam_a_in']:.1f}° later" in found
    assert "mm further out" in found
    assert "A tenth of a per cent longer" not in facts["pump_chain"]


def test_a_taper_and_a_chain_without_tensioner_say_so() -> None:
    thistle = {f.part: f for f in part_facts(BOOKS["dunmarrow-thistle"])}
    assert any("to spare when new" in f.value for f in thistle["timing"].facts)
    comfrey = {f.part: f for f in part_facts(BOOKS["tarsel-comfrey"])}
    assert any("in slots, with travel of 6°" in f.value for f in comfrey["rear_ex"].facts)


@every_book
def test_closed_form_slopes_are_those_of_the_solved_loop(name: str) -> None:
    for drive in DriveTrain(BOOKS[name]).chains.values():
        exact = elongation_slopes(drive)
        step = 1e-5
        up, down = ChainWear(step), ChainWear(-step)
        for sprocket, slope in exact.lag_deg.items():
            found = (drive.lags_deg(up)[sprocket] - drive.lags_deg(down)[sprocket]) / (2 * step)
            assert slope == pytest.approx(found, rel=1e-4)
        if exact.plunger_mm is not None:
            assert exact.plunger_mm == pytest.approx(
                (drive.plunger_mm(up) - drive.plunger_mm(down)) / (2 * step), rel=1e-4
            )
            assert drive.arm_id is not None
            assert liner_slopes(drive, drive.arm_id).plunger_mm == pytest.approx(
                drive.plunger_mm(ChainWear(0, ((drive.arm_id, 0.001),))) * 1000
                - drive.plunger_mm() * 1000,
                rel=0.01,
            )
