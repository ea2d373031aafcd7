"""Pistons and valves: motion against textbook forms, contact and swings against an independent
witness, words against figures.
"""

import json
import math
import re

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from numpy.typing import NDArray
from tests.core.test_engines import BOOKS, every_book
from tests.support.witness import Witness

from flaneur.cli import main
from flaneur.core.book.schema import EngineBook
from flaneur.core.clearance.answer import clearance_answer
from flaneur.core.clearance.check import clearance_checks
from flaneur.core.clearance.contact import Contacts
from flaneur.core.clearance.driven import piston_room_mm
from flaneur.core.clearance.facing import pairs
from flaneur.core.clearance.loosened import Loosened, Loosening
from flaneur.core.clearance.motion import lift_mm, piston_drop_mm, reach_mm, slope_mm_per_rad
from flaneur.core.clearance.off import valves_off
from flaneur.core.clearance.swing import Held, cam_torque_nm, held_by
from flaneur.core.clearance.teeth import tooth_reaches
from flaneur.core.clearance.touch import LATE_DEG, touch_map
from flaneur.core.clearance.view import clearance_view
from flaneur.core.clearance.view import touch_map as map_of
from flaneur.core.drive.train import DriveTrain
from flaneur.core.errors import BookError
from flaneur.core.picture.lobes import clock_words, lobes


@pytest.fixture(scope="module")
def contacts(book: EngineBook) -> Contacts:
    return Contacts(book)


def without_data(book: EngineBook) -> EngineBook:
    return book.model_copy(update={"clearance": None})


def test_a_piston_falls_by_the_slider_crank_series(book: EngineBook) -> None:
    engine = book.clearance
    assert engine is not None
    r, rod = engine.stroke_mm / 2, engine.rod_mm
    theta = np.arange(0.0, 720.0, 7.0)
    t = np.radians(theta)
    # Two terms of the classical series; the third is below r·(r/l)³/64.
    series = r * (1 - np.cos(t)) + r * r / (4 * rod) * (1 - np.cos(2 * t))
    assert np.abs(piston_drop_mm(engine, theta) - series).max() < r * (r / rod) ** 3 / 4
    assert piston_drop_mm(engine, 180.0) == pytest.approx(engine.stroke_mm)


def test_an_offset_pin_moves_the_highest_place_off_the_nominal_top(book: EngineBook) -> None:
    assert book.clearance is not None
    engine = book.clearance.model_copy(update={"pin_offset_mm": 2.0})
    theta = np.arange(-20.0, 20.0, 0.01)
    drop = piston_drop_mm(engine, theta)
    assert drop.min() == pytest.approx(0.0, abs=1e-6)
    highest = math.degrees(math.asin(2.0 / (engine.rod_mm + engine.stroke_mm / 2)))
    assert theta[drop.argmin()] == pytest.approx(highest, abs=0.02)


@settings(deadline=None, max_examples=40)
@given(
    st.sampled_from(["harmonic", "cycloidal", "poly_345"]),
    st.floats(-170, 170),
    st.floats(200, 300),
)
def test_lift_laws_have_their_own_slopes(shape: str, at: float, duration: float) -> None:
    assert BOOKS["ostrey-tansy"].clearance is not None
    group = next(iter(BOOKS["ostrey-tansy"].clearance.valves.values())).model_copy(
        update={"shape": shape, "duration_deg": duration}
    )
    assert lift_mm(group, 0.0) == pytest.approx(group.max_lift_mm)
    assert lift_mm(group, duration / 2) == pytest.approx(0, abs=1e-12)
    step = 1e-4
    numeric = float(lift_mm(group, at + step) - lift_mm(group, at - step)) / (
        2 * math.radians(step) / 2
    )
    if abs(at) > 0.01 and abs(abs(at) - duration / 2) > 0.01:
        assert float(slope_mm_per_rad(group, at)) == pytest.approx(numeric, abs=1e-3)


def safe_degrees(windows: list[tuple[int, int]]) -> NDArray[np.bool_]:
    at = np.arange(720)
    return np.any(
        [
            (at >= start + turn) & (at <= end + turn)
            for start, end in windows
            for turn in (-360, 0, 360)
        ],
        axis=0,
    )


@every_book
def test_a_cell_of_the_map_touches_if_any_point_in_it_does(name: str) -> None:
    contacts, rng = Contacts(BOOKS[name]), np.random.default_rng(5)
    witness = Witness(BOOKS[name])
    touching, near = touch_map(contacts)
    assert touching.shape == near.shape == (241, 720)
    assert not (touching & ~near).any()
    rows, columns = rng.integers(241, size=3000), rng.integers(720, size=3000)
    crank, late = columns + rng.random(3000), LATE_DEG[rows] + rng.uniform(-1.5, 1.5, 3000)
    for row in witness.rows:
        room = witness.piston_room(row, crank, crank - late)
        assert touching[rows, columns][room < 0].all()
        assert near[rows, columns][room < contacts.reserve_mm].all()


@every_book
def test_the_map_is_clear_where_the_book_has_the_cams(name: str) -> None:
    touching, near = touch_map(Contacts(BOOKS[name]))
    assert not touching[120].any()
    assert not near[120].any()


@every_book
def test_in_a_window_no_cam_angle_comes_near_and_outside_one_does(name: str) -> None:
    contacts = Contacts(BOOKS[name])
    safe = (
        safe_degrees(contacts.piston_windows)
        if contacts.piston_windows
        else np.zeros(720, dtype=bool)
    )
    least = np.min(
        [row.gap_mm(np.arange(720.0)) - row.full_reach_mm for row in contacts.rows], axis=0
    )
    assert (least[safe] > contacts.reserve_mm).all()
    wide = (
        np.convolve(
            np.concatenate([least[-9:], least, least[:9]]) > contacts.reserve_mm,
            np.ones(19),
            "same",
        )[9:-9]
        == 19
    )
    assert safe[wide].all(), "what is clear for nine degrees either way is in a window"


def test_a_window_without_a_whole_degree_is_none() -> None:
    found = [
        Contacts(with_valves(BOOKS["brindle-fennel"], max_lift_mm=float(lift))).piston_windows
        for lift in np.arange(0.5, 18.0, 0.1)
    ]
    assert found[0] == [(0, 360)]
    assert found[-1] == []
    assert all(a <= b for windows in found for a, b in windows)


def with_valves(book: EngineBook, **changes: object) -> EngineBook:
    """The book with figures of all its valves changed."""
    engine = book.clearance
    assert engine is not None
    valves = {k: v.model_copy(update=changes) for k, v in engine.valves.items()}
    return book.model_copy(update={"clearance": engine.model_copy(update={"valves": valves})})


def without(
    name: str,
    chains: list[str],
    crank: float | None = None,
    parked: bool = False,
    held: Held | None = None,
) -> Loosened:
    book = BOOKS[name]
    loosening = Loosening(Contacts(book), DriveTrain(book), parked)
    return loosening.without(
        tuple(chains), book.service_position.crank_deg if crank is None else crank, held
    )


def test_a_phaser_that_nobody_looked_at_is_anywhere_in_its_travel() -> None:
    parked, unseen = (
        without("brindle-fennel", ["chain_a"], parked=True),
        without("brindle-fennel", ["chain_a"]),
    )
    assert unseen.back_deg >= parked.back_deg
    assert unseen.on_deg <= parked.on_deg
    assert unseen.swings[0].on_deg > parked.swings[0].on_deg


def test_more_chains_off_never_widen_the_range() -> None:
    one, both = (
        without("brindle-fennel", ["chain_a"]),
        without("brindle-fennel", ["chain_a", "chain_b"]),
    )
    assert both.back_deg >= one.back_deg
    assert both.on_deg <= one.on_deg
    assert {cam for swing in both.swings for cam in swing.cams} == {"cam_a", "cam_b"}


def test_a_cam_swings_by_energy_past_where_friction_could_hold_it() -> None:
    swing = next(
        s
        for s in without("quillon-sorrel", ["timing"], parked=True).swings
        if s.cams == ("cam_in",)
    )
    assert 28 < swing.turn_deg < 36
    assert swing.on_deg > swing.turn_deg, "friction may be half of the book's"
    met = without("quillon-sorrel", ["timing"], parked=True)
    assert any("intake of cylinder 4" in t.what for tights in met.met for t in tights)
    assert met.back_deg == met.on_deg == 0, "a valve met: nothing may be turned"


def test_cams_tied_to_each_other_move_as_one() -> None:
    pair = next(s for s in without("ostrey-teasel", ["primary"]).swings if "cam_a_in" in s.cams)
    assert set(pair.cams) == {"cam_a_in", "cam_a_ex"}
    single = without("ostrey-teasel", ["primary", "short_a", "short_b"])
    assert [len(s.cams) for s in single.swings] == [1, 1, 1, 1]
    assert pair.torque_nm == pytest.approx(
        sum(s.torque_nm for s in single.swings if s.cams[0] in pair.cams)
    )
    assert pair.torque_nm == pytest.approx(21.2, abs=0.1)


def test_a_held_cam_holds_what_is_tied_to_it_and_followers_out_leave_no_spring() -> None:
    held = without("ostrey-teasel", ["primary"], held=Held(frozenset({"cam_a_in"})))
    assert [s.is_held for s in held.swings] == ["cam_a_in" in s.cams for s in held.swings]
    contacts = Contacts(BOOKS["brindle-fennel"])
    out = held_by(contacts, 0)
    assert out.followers_out
    assert all(
        s.torque_nm == s.on_deg == s.back_deg == 0
        for s in without("brindle-fennel", ["chain_a", "chain_b"], held=out).swings
    )
    left = held_by(Contacts(BOOKS["ostrey-teasel"]), 1)
    assert left == Held(), "a chain left on ties cams, and holds none"
    with pytest.raises(BookError, match="no such way of holding"):
        held_by(contacts, 9)


@every_book
def test_what_the_product_says_of_swings_is_what_small_steps_give(name: str) -> None:
    book, witness = BOOKS[name], Witness(BOOKS[name])
    contacts, train = Contacts(book), DriveTrain(book)
    timed = [c for c in train.chains if train.times_cams(c)]
    for swing in without(name, timed, parked=True).swings:
        start = np.full((1, len(swing.cams)), book.service_position.crank_deg)
        turned = (
            witness.swing(
                list(swing.cams),
                start,
                np.array([contacts.engine.cam_friction_nm * len(swing.cams)]),
            )[0]
            / 2
        )
        assert swing.turn_deg == pytest.approx(turned, abs=1.1)
        assert swing.back_deg - 0.1 <= turned <= swing.on_deg + 0.1


def test_a_spring_turns_its_cam_down_its_own_energy(contacts: Contacts) -> None:
    rows = contacts.rows_of("cam_a_in")

    def energy_nm(crank: float, cam_deg: float) -> float:
        total = 0.0
        for row in rows:
            lift = float(
                lift_mm(row.group, crank + 2 * cam_deg - row.fires_deg - row.group.centreline_deg)
            )
            total += (
                row.group.valves_each
                * (row.group.spring_n * lift + row.group.spring_n_per_mm * lift**2 / 2)
                / 1000
            )
        return total

    for crank in (0.0, 45.0, 200.0, 410.0):
        slope = (energy_nm(crank, 0.01) - energy_nm(crank, -0.01)) / math.radians(0.02)
        assert cam_torque_nm(rows, crank) == pytest.approx(-slope, abs=0.02)


def test_valves_of_one_cylinder_meet_when_both_are_open_and_unknown_heads_are_touching(
    book: EngineBook,
) -> None:
    pair, witness = pairs(Contacts(book))[0], Witness(book)
    intake, exhaust = (
        next(r for r in witness.rows if r.group is row.group and r.cylinder == row.cylinder)
        for row in (pair.intake, pair.exhaust)
    )
    assert pair.loose_mm == 0
    rng = np.random.default_rng(3)
    at = (
        rng.uniform(-60, 60, 300) + intake.fires + intake.group.centreline_deg,
        rng.uniform(-60, 60, 300) + exhaust.fires + exhaust.group.centreline_deg,
    )
    said = pair.at_mm(intake.at(at[0]), exhaust.at(at[1]))
    seen = witness.heads_room(intake, exhaust, *at)
    apart = said > 0.2
    assert np.abs(said - seen)[apart].max() < 0.1
    assert seen[~apart].max() < 0.8
    view = clearance_view(with_valves(book, head_mm=None))
    assert (view.loose_windows, view.heads.state) == ([], "unknown")
    assert "unknown, treat as touching" in view.words.replace(": treat", ", treat")
    bare = with_valves(BOOKS["tarsel-comfrey"], head_mm=None)
    off = Loosening(Contacts(bare), DriveTrain(bare)).without(("rear_chain",), 60.0)
    assert (off.back_deg, off.on_deg) == (0, 0)
    assert [limit and limit.room_mm for limit in off.limits] == [None, None]


@pytest.mark.parametrize(
    ("crown", "more"),
    [("flat", 0.0), ("pocket", 0.0), ("relief", 0.66), ("domed", 1.238), (None, 1.238)],
)
def test_a_crown_is_met_as_soon_as_its_form_allows(crown: str | None, more: float) -> None:
    engine = BOOKS["quillon-sorrel"].clearance
    assert engine is not None
    group = engine.valves["exhaust"].model_copy(update={"crown": crown, "pocket_mm": 0.66})
    flat = 9.0 * math.cos(math.radians(21))
    assert float(reach_mm(group, 9.0)) == pytest.approx(flat + more, abs=2e-3)


def test_a_lift_from_a_table_and_a_duration_at_a_lift_are_the_law_they_were_taken_from(
    book: EngineBook,
) -> None:
    engine = book.clearance
    assert engine is not None
    group = engine.valves["intake_a"]
    at = np.linspace(-112.0, 112.0, 57)
    table = group.model_copy(
        update={"shape": "table", "lift_table": [(float(a), float(lift_mm(group, a))) for a in at]}
    )
    fine = np.arange(-200.0, 200.0, 0.7)
    assert np.abs(lift_mm(table, fine) - lift_mm(group, fine)).max() < 0.02
    assert np.abs(slope_mm_per_rad(table, fine) - slope_mm_per_rad(group, fine)).max() < 0.6
    at_half = group.model_copy(update={"duration_at_mm": 0.5})
    assert float(lift_mm(at_half, group.duration_deg / 2)) == pytest.approx(0.5)


def test_teeth_to_touch_are_the_first_that_leave_less_than_the_reserve(
    contacts: Contacts, book: EngineBook
) -> None:
    for reach in tooth_reaches(contacts, DriveTrain(book)):
        ends = {
            True: ((-1, reach.early), (1, reach.late)),
            False: ((-1, reach.phased_early), (1, reach.phased_late)),
        }
        for parked, found in ends.items():
            for sign, teeth in found:
                if teeth is not None and reach.meets == "their pistons":
                    at, before = (sign * k * reach.tooth_deg for k in (teeth, teeth - 1))
                    assert piston_room_mm(contacts, reach.row, at, parked) < contacts.reserve_mm
                    room = piston_room_mm(contacts, reach.row, before, parked)
                    assert room >= contacts.reserve_mm
        assert reach.phased_room_mm[3] is not None
        assert reach.phased_room_mm[3] >= contacts.reserve_mm, "as the book has it, it runs"
    intake = next(t for t in tooth_reaches(contacts, DriveTrain(book)) if t.cam == "cam_a_in")
    assert (intake.phased_early, intake.early) == (1, 3), "its 50 degrees of advance count"


def test_a_book_without_clearance_data_is_unknown_and_never_safe(book: EngineBook) -> None:
    bare = without_data(book)
    view = clearance_view(bare)
    assert not view.is_known
    assert "unknown: treat as touching" in view.words
    assert view.loose_windows == []
    assert not map_of(bare).is_known
    assert lobes(bare) == []
    assert valves_off(bare, dict.fromkeys(bare.cams, 0.0)).touches is None
    with pytest.raises(BookError, match="unknown, treat as touching"):
        Contacts(bare)
    assert [c.holds for c in clearance_checks(bare)] == [True]
    assert not clearance_answer(bare).known


def test_an_engine_whose_valves_never_meet_says_so() -> None:
    view = clearance_view(BOOKS["dunmarrow-thistle"])
    assert view.words.startswith("Valves and pistons do not meet")
    assert all(t.early is None and t.late is None for t in view.teeth)


def test_touch_map_stretches_are_the_map_itself(book: EngineBook, contacts: Contacts) -> None:
    found = map_of(book, "cam_a_in")
    for index, grid in enumerate(touch_map(contacts, "cam_a_in")):
        for row, expected in zip(found.rows, grid, strict=True):
            drawn = np.zeros(720, dtype=bool)
            for start, end in (row.touches, row.near)[index]:
                drawn[start:end] = True
            assert (drawn == expected).all()


@every_book
def test_a_lobe_points_at_its_follower_at_full_lift(name: str) -> None:
    book = BOOKS[name]
    assert book.clearance is not None
    found = lobes(book)
    assert {lobe.cylinder for lobe in found} >= {1}
    for lobe in found:
        group = next(
            g
            for g in book.clearance.valves.values()
            if g.cam == lobe.cam and g.kind == lobe.kind and lobe.cylinder in g.cylinders
        )
        full = book.clearance.fires_deg[lobe.cylinder] + group.centreline_deg
        nose = lobe.nose_clock_deg + lobe.clock_per_crank * (full - book.service_position.crank_deg)
        assert math.remainder(nose - group.follower_clock_deg, 360) == pytest.approx(0, abs=0.01)


@pytest.mark.parametrize(
    ("deg", "words"),
    [
        (0, "twelve o'clock"),
        (-0.4, "twelve o'clock"),
        (225, "half past seven"),
        (344, "half past eleven"),
    ],
)
def test_clock_positions_are_said_to_the_half_hour(deg: float, words: str) -> None:
    assert clock_words(deg) == words


def test_valves_bent_by_a_tooth_are_named_with_the_worse_of_parked_and_running() -> None:
    book = BOOKS["ostrey-tansy"]
    early = valves_off(book, {"cam_a_in": -DriveTrain(book).tooth_deg("cam_a_in")})
    assert early.touches
    assert any(
        line
        == "Intake valves A meet their pistons in cylinders 1, 3, 5, running, the phaser anywhere "
        "in its travel: bent."
        for line in early.bent
    )
    room = next(r for r in early.rooms if r.what == "intake_a")
    assert room.parked_mm is not None
    assert room.parked_mm > 1
    assert room.running_mm is not None
    assert room.running_mm < 0
    assert not valves_off(book, {}).touches
    with pytest.raises(BookError, match="no such cam"):
        valves_off(book, {"cam_q": 3.0})
    with pytest.raises(BookError, match="no number"):
        valves_off(book, {"cam_a_in": math.nan})
    bare = with_valves(book, head_mm=None)
    unknown = valves_off(bare, {"cam_b_in": 9.0})
    assert unknown.touches is None, "unknown heads are never clear"
    assert unknown.unknown == [
        "Intake valves B and exhaust valves B of one cylinder may meet each other: unknown: "
        "treat as touching."
    ]
    assert valves_off(bare, {}).touches is False, "as the book has them they run"


def test_both_ends_of_a_range_say_what_ends_them() -> None:
    off = next(
        r for r in clearance_answer(BOOKS["skarne-burdock"]).ranges if r.chains == ["chain_r"]
    )
    assert off.back_deg < 0 < off.on_deg
    assert [limit.turn_deg for limit in off.limits] == [off.back_deg, off.on_deg]
    assert "within 5° of the book when let go" in off.assumes


@every_book
def test_words_never_promise_more_than_was_computed(name: str) -> None:
    view, contacts = clearance_view(BOOKS[name]), Contacts(BOOKS[name])
    for low, high in re.findall(r"(\d+)° to (\d+)°", view.words):
        for crank in (float(low), float(high)):
            assert contacts.at_risk(crank) == {}
    for off in clearance_answer(BOOKS[name]).ranges:
        assert off.back_deg == round(off.back_deg)
        if found := re.search(r"back by (\d+)° or on by (\d+)°", off.words):
            assert (off.back_deg, off.on_deg) == (-float(found[1]), float(found[2]))
        if off.back_deg == off.on_deg == 0:
            assert off.words.startswith("do not turn the crank at all")
        assert off.assumes


@every_book
def test_cylinders_at_risk_hold_for_every_angle_up_to_the_next_line(name: str) -> None:
    contacts, lines = Contacts(BOOKS[name]), clearance_view(BOOKS[name]).risk
    for crank in np.arange(0.0, 360.0, 0.25):
        said = next(line.cylinders for line in reversed(lines) if line.crank_deg <= crank)
        assert set(contacts.at_risk(float(crank))) <= set(said), crank


@pytest.mark.parametrize(
    ("crank", "chains", "held"),
    [
        (math.nan, ("timing",), ()),
        (0.0, ("sail",), ()),
        (0.0, ("timing",), ("cam_q",)),
        (720.0, (), ()),
    ],
)
def test_what_is_no_angle_chain_or_cam_is_refused(
    crank: float, chains: tuple[str, ...], held: tuple[str, ...]
) -> None:
    with pytest.raises(BookError):
        clearance_answer(BOOKS["quillon-sorrel"], crank, chains, held)


def test_the_command_gives_windows_ranges_jumps_teeth_and_the_tightest(
    capsys: pytest.CaptureFixture[str],
) -> None:
    command = [
        "clearance",
        "--engine",
        "engines/ostrey-teasel.yaml",
        "--off",
        "primary,short_a",
        "--held",
        "cam_b_in",
    ]
    assert main([*command, "--teeth", "short_a/short_a_ex=1", "--json"]) == 0
    said = json.loads(capsys.readouterr().out)
    assert said["known"]
    assert said["reserve"]["room_mm"] == 0.8
    assert said["reason"]["what"]
    assert [r["chains"] for r in said["ranges"]] == [["primary", "short_a"]]
    assert {tuple(j["cams"]): j["is_held"] for j in said["jumps"]}["cam_b_in", "cam_b_ex"]
    assert said["teeth_off"]["touches"]
    assert len(said["teeth"]) == 12
    assert main([*command, "--parked"]) == 0
    assert "Reserve: 0.8 mm kept, crank ±2°, cams ±3.5°." in capsys.readouterr().out
    assert main([*command, "--teeth", "short_a=x"]) == 1
    assert "Teeth are read as CONTACT=NUMBER" in capsys.readouterr().err
