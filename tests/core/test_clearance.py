"""Pistons and valves: motion against textbook forms, contact against brute force, jumps against spring energy."""

import math
import re

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.core.test_engines import BOOKS, every_book

from flaneur.core.book.schema import EngineBook
from flaneur.core.book.valves import Holding
from flaneur.core.clearance.check import clearance_checks
from flaneur.core.clearance.contact import LATE_DEG, Contacts
from flaneur.core.clearance.lobes import clock_words, lobes
from flaneur.core.clearance.motion import lift_mm, piston_drop_mm, slope_mm_per_rad
from flaneur.core.clearance.off import valves_off
from flaneur.core.clearance.springs import cam_torque_nm, jump
from flaneur.core.clearance.teeth import tooth_reaches
from flaneur.core.clearance.view import clearance_view, touch_map
from flaneur.core.drive.train import DriveTrain
from flaneur.core.errors import BookError


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
@given(st.sampled_from(["harmonic", "cycloidal", "poly_345"]), st.floats(-170, 170), st.floats(200, 300))
def test_lift_laws_have_their_own_slopes(shape: str, at: float, duration: float) -> None:
    assert BOOKS["ostrey-tansy"].clearance is not None
    group = next(iter(BOOKS["ostrey-tansy"].clearance.valves.values())).model_copy(update={"shape": shape, "duration_deg": duration})
    assert lift_mm(group, 0.0) == pytest.approx(group.max_lift_mm)
    assert lift_mm(group, duration / 2) == pytest.approx(0, abs=1e-12)
    step = 1e-4
    numeric = float(lift_mm(group, at + step) - lift_mm(group, at - step)) / (2 * math.radians(step) / 2)
    if abs(at) > 0.01 and abs(abs(at) - duration / 2) > 0.01:
        assert float(slope_mm_per_rad(group, at)) == pytest.approx(numeric, abs=1e-3)


def test_the_touch_map_is_what_every_point_says_by_itself(contacts: Contacts) -> None:
    found = contacts.touch_map()
    assert found.shape == (241, 720)
    rng = np.random.default_rng(5)
    for _ in range(400):
        i, crank = int(rng.integers(241)), int(rng.integers(720))
        margins = [float(contacts.margin_mm(row, np.array([float(crank)]), float(LATE_DEG[i]))[0]) for row in contacts.rows]
        assert found[i, crank] == (min(margins) < 0), (LATE_DEG[i], crank)
    assert 0.05 < found.mean() < 0.8


@every_book
def test_nothing_touches_where_the_book_has_the_cams(name: str) -> None:
    assert not Contacts(BOOKS[name]).touch_map()[120].any()


@every_book
def test_in_a_safe_window_no_cam_angle_touches_and_outside_one_does(name: str) -> None:
    contacts = Contacts(BOOKS[name])
    column = contacts.touch_map().any(axis=0)
    for row in contacts.rows:
        column |= contacts.margin_mm(row, np.arange(720.0), 0.0) < 0
    safe = np.zeros(720, dtype=bool)
    for start, end in contacts.loose_windows():
        for turn in (-360, 0, 360):
            safe |= (np.arange(720) >= start + turn) & (np.arange(720) <= end + turn)
    assert not (column & safe).any()
    # Lateness goes by three degrees, so that within a degree or two of a window's end the map may miss a touch.
    unsafe_but_clear = ~column & ~safe
    assert unsafe_but_clear.sum() <= 4 * 2 * len(contacts.loose_windows()) + 4


def test_the_crank_may_turn_until_just_before_a_standing_cam_is_met(contacts: Contacts, book: EngineBook) -> None:
    cams = DriveTrain(book).cams_of("chain_a")
    back, on = contacts.turn_range(0.0, cams)
    assert back < 0 < on < 360

    def least(turn: float) -> float:
        return min(float(contacts.margin_mm(row, np.array([turn]), turn)[0]) for row in contacts.rows if row.group.cam in cams)

    assert least(on) > 0 >= least(on + 0.25)
    assert least(back) > 0 >= least(back - 0.25)


def test_a_spring_turns_its_cam_down_its_own_energy(contacts: Contacts) -> None:
    rows = contacts.rows_of("cam_a_in")

    def energy_nm(crank: float, cam_deg: float) -> float:
        total = 0.0
        for row in rows:
            lift = float(lift_mm(row.group, crank + 2 * cam_deg - row.fires_deg - row.group.centreline_deg))
            total += row.group.valves_each * (row.group.spring_n * lift + row.group.spring_n_per_mm * lift**2 / 2) / 1000
        return total

    for crank in (0.0, 45.0, 200.0, 410.0):
        slope = (energy_nm(crank, 0.01) - energy_nm(crank, -0.01)) / math.radians(0.02)
        assert cam_torque_nm(rows, crank) == pytest.approx(-slope, abs=0.02)


def test_a_let_go_cam_turns_the_way_its_springs_push_until_friction_holds() -> None:
    contacts = Contacts(BOOKS["ostrey-teasel"])
    for cam in BOOKS["ostrey-teasel"].cams:
        found = jump(contacts, cam, 60.0)
        assert abs(found.torque_nm) > contacts.engine.cam_friction_nm
        assert found.turn_deg * found.torque_nm > 0
        assert abs(cam_torque_nm(contacts.rows_of(cam), 60.0, found.turn_deg)) <= contacts.engine.cam_friction_nm + 1.0


def test_what_holds_a_cam_keeps_it_and_followers_out_leave_no_spring() -> None:
    contacts = Contacts(BOOKS["brindle-fennel"])
    every = {key: group.cylinders for key, group in contacts.engine.valves.items()}
    held = Holding(school="chain_tied", name="tied", text="", cams=["cam_a"])
    out = Holding(school="followers_out", name="out", text="", followers_out=every)
    assert jump(contacts, "cam_a", 45.0, held).turn_deg == 0
    assert jump(contacts, "cam_b", 45.0, held).turn_deg != 0
    assert jump(contacts, "cam_b", 45.0, out).torque_nm == 0


def test_a_cam_that_would_meet_a_piston_on_its_way_says_which() -> None:
    contacts = Contacts(BOOKS["brindle-fennel"])
    found = jump(contacts, "cam_a", 260.0)
    assert found.touches == ("intake of cylinder 3",)
    row = next(r for r in contacts.rows if r.name == found.touches[0])
    swept = np.arange(0.0, found.turn_deg + 0.5, 0.5)
    assert contacts.margin_mm(row, np.full(swept.shape, 260.0), -2 * swept).min() < 0
    assert jump(contacts, "cam_a", 45.0).touches == ()


def test_teeth_to_touch_are_the_first_that_leave_no_room(contacts: Contacts, book: EngineBook) -> None:
    for reach in tooth_reaches(contacts, DriveTrain(book)):
        for sign, teeth in ((-1, reach.early), (1, reach.late)):
            if teeth is not None:
                assert contacts.least_margin_mm(reach.row, sign * teeth * reach.tooth_deg) <= 0
                assert contacts.least_margin_mm(reach.row, sign * (teeth - 1) * reach.tooth_deg) > 0
        assert reach.room_mm[3] == pytest.approx(contacts.least_margin_mm(reach.row, 0.0), abs=1e-3)


def test_a_book_without_clearance_data_is_unknown_and_never_safe(book: EngineBook) -> None:
    bare = without_data(book)
    view = clearance_view(bare)
    assert not view.is_known
    assert "unknown: treat as touching" in view.words
    assert view.loose_windows == []
    assert not touch_map(bare).is_known
    assert lobes(bare) == []
    assert valves_off(bare, dict.fromkeys(bare.cams, 0.0)).touches is None
    with pytest.raises(BookError, match="unknown, treat as touching"):
        Contacts(bare)
    assert [c.holds for c in clearance_checks(bare)] == [True]


def test_deeper_pockets_widen_what_is_safe(book: EngineBook) -> None:
    engine = book.clearance
    assert engine is not None

    def safe(pocket: float) -> float:
        valves = {k: v.model_copy(update={"pocket_mm": pocket}) for k, v in engine.valves.items()}
        changed = book.model_copy(update={"clearance": engine.model_copy(update={"valves": valves})})
        return sum(b - a for a, b in Contacts(changed).loose_windows())

    assert safe(0.0) < safe(3.0) < safe(6.0)
    assert safe(20.0) == 360


def test_an_engine_whose_valves_never_meet_says_so() -> None:
    view = clearance_view(BOOKS["dunmarrow-thistle"])
    assert view.words.startswith("Valves and pistons do not meet")
    assert all(t.early is None and t.late is None for t in view.teeth)


def test_touch_map_stretches_are_the_map_itself(book: EngineBook, contacts: Contacts) -> None:
    found = touch_map(book, "cam_a_in")
    grid = contacts.touch_map("cam_a_in")
    for row, expected in zip(found.rows, grid, strict=True):
        drawn = np.zeros(720, dtype=bool)
        for start, end in row.touches:
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
            g for g in book.clearance.valves.values() if g.cam == lobe.cam and g.kind == lobe.kind and lobe.cylinder in g.cylinders
        )
        full = book.clearance.fires_deg[lobe.cylinder] + group.centreline_deg
        nose = lobe.nose_clock_deg + lobe.clock_per_crank * (full - book.service_position.crank_deg)
        assert math.remainder(nose - group.follower_clock_deg, 360) == pytest.approx(0, abs=0.01)


@pytest.mark.parametrize(
    ("deg", "words"), [(0, "twelve o'clock"), (-0.4, "twelve o'clock"), (225, "half past seven"), (344, "half past eleven")]
)
def test_clock_positions_are_said_to_the_half_hour(deg: float, words: str) -> None:
    assert clock_words(deg) == words


def test_valves_bent_by_a_tooth_are_named() -> None:
    book = BOOKS["brindle-fennel"]
    early = valves_off(book, {"cam_a": -17.14, "cam_b": 0.0})
    assert early.touches
    assert any("Intake valves A meet their pistons in cylinders 1, 3, 5, 7" in w for w in early.bent)
    assert not valves_off(book, {"cam_a": 0.0, "cam_b": 0.0}).touches


@every_book
def test_words_never_promise_more_than_was_computed(name: str) -> None:
    view, contacts = clearance_view(BOOKS[name]), Contacts(BOOKS[name])
    for low, high in re.findall(r"(\d+)° to (\d+)°", view.words):
        for crank in (float(low), float(high)):
            assert contacts.at_risk(crank) == {}
    for off in view.chains_off:
        if found := re.search(r"back by (\d+)° or on by (\d+)°", off.words):
            assert off.back_deg <= -float(found[1])
            assert float(found[2]) <= off.on_deg


@every_book
def test_cylinders_at_risk_hold_for_every_angle_up_to_the_next_line(name: str) -> None:
    contacts, lines = Contacts(BOOKS[name]), clearance_view(BOOKS[name]).risk
    for crank in np.arange(0.0, 360.0, 0.25):
        said = next(line.cylinders for line in reversed(lines) if line.crank_deg <= crank)
        assert set(contacts.at_risk(float(crank))) <= set(said), crank
