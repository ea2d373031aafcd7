"""What holds for one engine holds for all seven: signals, verdicts, worksheets, plans, and the
other way round.
"""

import numpy as np
import pytest
from tests.core.test_diagnosis import PARKED, probability, verdict_on
from tests.core.test_engines import BOOKS, every_book

from flaneur.core.book.references import task_observations
from flaneur.core.book.schema import EngineBook
from flaneur.core.diagnosis.verdict import diagnose
from flaneur.core.drive.chain import ChainDrive, ChainWear
from flaneur.core.drive.lash import stop_mm
from flaneur.core.drive.loop import belt_radius, pitch_radius
from flaneur.core.drive.outline import pieces
from flaneur.core.drive.train import DriveTrain
from flaneur.core.errors import BookError, ReadingError
from flaneur.core.faults.model import Faults
from flaneur.core.measuring.sheets import work_out, worksheets
from flaneur.core.plan.order import work_order
from flaneur.core.plan.plan import make_plan
from flaneur.core.plan.tour import lies_over
from flaneur.core.plan.walk import walker
from flaneur.core.readings.taken import CamReading, DirectReading, PlungerReading, Readings
from flaneur.core.signals.correlation import correlate
from flaneur.simulation.motion import Conditions
from flaneur.simulation.placement import place, placed_state
from flaneur.simulation.synthesis import synthesise, true_deviation_deg

CAPTURED = [name for name, book in BOOKS.items() if book.can_be_captured]
MARKED_ONLY = sorted(set(BOOKS) - set(CAPTURED))


def test_two_engines_are_read_by_their_marks_alone() -> None:
    assert MARKED_ONLY == ["dunmarrow-thistle", "skarne-burdock"]
    with pytest.raises(BookError, match="no tone wheel on its crankshaft"):
        BOOKS["dunmarrow-thistle"].check_capturable()
    with pytest.raises(BookError, match="no cam tone wheels"):
        BOOKS["skarne-burdock"].check_capturable()


@pytest.mark.parametrize("name", CAPTURED)
def test_a_capture_of_any_engine_reads_its_cams(name: str) -> None:
    book = BOOKS[name]
    chain = next(iter(book.chains))
    faults = Faults(elongation_pct={chain: 0.4})
    rpm = book.signals.idle_rpm
    capture = synthesise(book, faults, Conditions(seconds=4, rpm=rpm), np.random.default_rng(7))
    found = {c.cam: c for c in correlate(capture, book).cams}
    for cam, truth in true_deviation_deg(book, faults).items():
        assert found[cam].deviation_deg == pytest.approx(truth, abs=0.15)


@every_book
def test_a_jumped_tooth_is_found_on_any_engine(name: str) -> None:
    book = BOOKS[name]
    train = DriveTrain(book)
    contact = next(c for c in reversed(train.contacts()) if any(train.jump_deg(c).values()))
    # Against the way its phaser moves: the other way a phaser off park explains the reading as
    # well.
    moves = {
        book.phasers[p].moves
        for cam, deg in train.jump_deg(contact).items()
        if deg and (p := book.phaser_of(cam))
    }
    state = placed_state(book, Faults(jumped_teeth={contact: -1 if "retard" in moves else 1}))
    cams = [
        CamReading(cam=c, deviation_deg=d, stderr_deg=0.3, phaser=PARKED)
        for c, d in state.deviation_deg.items()
    ]
    # On small sprockets a chain twice over its limit is a tooth late too: only its plunger tells
    # them apart.
    plungers = [
        PlungerReading(chain=c, plunger_mm=x, stderr_mm=0.2) for c, x in state.plunger_mm.items()
    ]
    verdict = diagnose(
        book,
        Readings(engine=book.name, hours=3000, oil="good", cams=cams, plungers=plungers),
        with_evidence=False,
    )
    same = {
        c for c in train.contacts() if train.jump_deg(c) == pytest.approx(train.jump_deg(contact))
    }
    assert max(probability(verdict, f"jump:{c}") for c in same) > 0.8


@every_book
def test_a_stretched_chain_speaks_on_any_engine(name: str) -> None:
    book = BOOKS[name]
    chain = next(
        (c for c in book.chains if book.chains[c].type != "toothed_belt" and book.arm_of(c)), None
    )
    if chain is None:
        pytest.skip("its one chain has no plunger, so that only the cam speaks")
    limit = book.chains[chain].limit_elongation_pct
    worn = verdict_on(book, Faults(elongation_pct={chain: 2 * limit}))
    typical = book.chains[chain].wear.typical_hours
    new = verdict_on(book, Faults(), hours=min(3000, typical))
    assert probability(worn, f"wear:{chain}") > 3 * probability(new, f"wear:{chain}") + 0.3
    assert probability(new, "none") < 0.1


@every_book
def test_worksheets_ask_only_for_what_the_engine_has(name: str) -> None:
    book = BOOKS[name]
    sheets = {s.kind: s for s in worksheets(book)}
    assert all(s.parts for s in sheets.values())
    assert ("plunger" in sheets) == bool(book.tensioners)
    assert {"lash", "chain_length"} <= set(sheets)
    assert ("links" in sheets) == any(chain.counts for chain in book.chains.values())


def test_a_plunger_asked_of_a_chain_without_one_is_refused() -> None:
    fields = {"method": "direct", "out": "6 mm", "uncertainty": "0.2 mm"}
    with pytest.raises(ReadingError, match="not for that part"):
        work_out(BOOKS["dunmarrow-thistle"], "plunger", "timing", fields)


@every_book
def test_every_pin_and_holder_that_goes_in_comes_out_again(name: str) -> None:
    book = BOOKS[name]
    plan = make_plan(book, [k for k, c in book.components.items() if c.renewable])
    pins = sum(asked.pins for step in plan.steps for asked in step.asked)
    assert pins == 0
    last = walker(book).walk([step.ref for step in plan.steps])[-1].after
    assert not last.inside
    assert not last.owed
    assert not last.is_turn_due
    assert not last.off


@every_book
def test_nothing_goes_on_over_a_bolt_that_is_not_torqued(name: str) -> None:
    book = BOOKS[name]
    order = work_order(book, [k for k, c in book.components.items() if c.renewable])
    at = {step: i for i, step in enumerate(order)}
    for key, component in book.components.items():
        for cover in component.covered_by:
            if f"fit:{key}" in at and f"fit:{cover}" in at:
                is_torqued = component.fasteners and lies_over(book, key, cover)
                last = f"torque:{key}" if is_torqued else f"fit:{key}"
                assert at[last] < at[f"fit:{cover}"]
                assert at[f"remove:{cover}"] < at[f"remove:{key}"]


@every_book
def test_counting_and_marks_are_asked_wherever_a_timed_chain_goes_on(name: str) -> None:
    book = BOOKS[name]
    for key, chain in book.chains.items():
        component = next(c for c in book.components.values() if c.part == key)
        asked = task_observations(component.fit)
        if DriveTrain(book).times_cams(key):
            expected = {c.links for c in chain.counts}
            counted = [a for a in asked if a.kind == "count"]
            assert {a.expected for a in counted} <= expected
            assert len(counted) == max(0, len(chain.counts) - 1)
            assert {a.contact for a in asked if a.kind == "mark"} == {
                f"{key}/{s}" for s in chain.loop if s in book.sprockets
            }
        else:
            assert all(a.kind == "word" for a in asked)


def test_the_inner_chain_goes_on_before_the_outer_one() -> None:
    book = BOOKS["brindle-fennel"]
    order = work_order(book, ["chain_a_part", "chain_b_part"])
    assert book.sprockets["crank_a"].row < book.sprockets["crank_b"].row
    assert order.index("remove:chain_b_part") < order.index("remove:chain_a_part")
    assert order.index("fit:chain_a_part") < order.index("fit:chain_b_part")


def mirrored(book: EngineBook) -> EngineBook:
    """The same engine seen from its other end: x and the sense of every turn the other way."""

    def flip(part):
        changes: dict[str, object] = {"wrap": -part.wrap} if hasattr(part, "wrap") else {}
        for field in ("at_mm", "centre_mm", "pivot_mm", "pad_mm"):
            at = getattr(part, field, None)
            if at is not None:
                changes[field] = (-at[0], at[1])
        for field in ("mark_clock_deg", "direction_clock_deg"):
            if hasattr(part, field):
                changes[field] = -getattr(part, field)
        return part.model_copy(update=changes)

    groups = ("sprockets", "guides", "arms", "tensioners", "gears")
    turned = {group: {k: flip(v) for k, v in getattr(book, group).items()} for group in groups}
    plane = book.drive_plane.model_copy(update={"running_direction": "anticlockwise"})
    return book.model_copy(update={**turned, "drive_plane": plane})


@every_book
def test_an_engine_seen_from_its_other_end_wears_the_same(name: str) -> None:
    book = BOOKS[name]
    if book.further_planes:
        pytest.skip("has drives at both ends already")
    here, there = DriveTrain(book), DriveTrain(mirrored(book))
    faults = Faults(
        elongation_pct=dict.fromkeys(book.chains, 0.3),
        liner_wear_mm=dict.fromkeys(book.guides, 0.8),
    )
    one, other = here.state(faults), there.state(faults)
    for cam in book.cams:
        assert other.deviation_deg[cam] == pytest.approx(one.deviation_deg[cam], abs=1e-9)
    assert other.plunger_mm == pytest.approx(one.plunger_mm, abs=1e-6)
    for chain, drive in there.chains.items():
        for count in drive.chain.counts:
            assert drive.mark_links(count.start, count.end) % drive.chain.links == pytest.approx(
                count.links, abs=0.15
            )
        assert chain in here.chains


@every_book
def test_the_two_ways_of_laying_an_engine_agree(name: str) -> None:
    book = BOOKS[name]
    faults = Faults(
        elongation_pct={c: 0.6 * chain.limit_elongation_pct for c, chain in book.chains.items()},
        liner_wear_mm={g: 0.4 * guide.limit_wear_mm for g, guide in book.guides.items()},
    )
    laid, solved = placed_state(book, faults), DriveTrain(book).state(faults)
    for cam in book.cams:
        assert laid.deviation_deg[cam] == pytest.approx(solved.deviation_deg[cam], abs=0.03)
    assert laid.plunger_mm == pytest.approx(solved.plunger_mm, abs=0.05)


def test_a_belts_pulley_is_larger_than_a_chains_sprocket() -> None:
    assert belt_radius(9.525, 20) == pytest.approx(20 * 9.525 / (2 * np.pi))
    assert pitch_radius(9.525, 20) > belt_radius(9.525, 20)
    drive = ChainDrive(BOOKS["tarsel-comfrey"], "belt")
    assert drive.is_belt
    assert drive.radius_mm("belt_in") == pytest.approx(belt_radius(9.525, 40))


def test_a_belt_is_laid_ever_finer_and_a_chain_link_by_link() -> None:
    belt, chain = (
        ChainDrive(BOOKS["tarsel-comfrey"], "belt"),
        ChainDrive(BOOKS["tarsel-comfrey"], "rear_chain"),
    )
    assert place(belt, belt.tensioner.book_plunger_mm).links == pytest.approx(98, abs=0.02)
    assert place(chain, chain.tensioner.book_plunger_mm).links == pytest.approx(46, abs=0.1)


def test_a_strand_with_links_to_spare_hangs_in_an_arc_of_that_length() -> None:
    drive = ChainDrive(BOOKS["dunmarrow-thistle"], "timing")
    spare = drive.slack_links(ChainWear(0.01))
    path = drive.path(0.0, ChainWear(0.01))
    bow = pieces(path, drive.pitch_mm, 0.01, 0, spare)[0]
    assert bow.arc is not None
    _, _, radius, start, end = bow.arc
    assert radius * abs(end - start) / (drive.pitch_mm * 1.01) == pytest.approx(bow.links, rel=1e-6)
    assert bow.links == pytest.approx(path.strands_mm[0] / (drive.pitch_mm * 1.01) + spare)


def test_a_tensioner_pushed_back_never_goes_past_its_stop() -> None:
    for book in BOOKS.values():
        for drive in DriveTrain(book).chains.values():
            if drive.has_tensioner:
                for out in np.linspace(drive.tensioner.stop_mm, drive.tensioner.max_plunger_mm, 9):
                    held = stop_mm(drive, float(out))
                    assert drive.tensioner.stop_mm <= held <= out


def test_a_chain_that_times_nothing_is_no_suspect_and_its_wear_no_evidence() -> None:
    book = BOOKS["ostrey-tansy"]
    verdict = verdict_on(book, Faults())
    assert not any("pump_chain" in s.key for s in verdict.suspects)
    assert not any(w.key == "pump_chain" for w in verdict.wear)
    measured = DirectReading(part="pump_chain", value=1.4, stderr=0.1)
    with pytest.raises(ReadingError, match="times nothing"):
        diagnose(book, Readings(engine=book.name, direct=[measured]))
