"""Bolts that show one after another as the crank is turned, where each bolt goes, the one turn back
for a tensioner's port, and where an engine came to rest.
"""

from dataclasses import replace
from itertools import combinations, pairwise

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.core.test_book_checks import faults, put
from tests.core.test_engines import BOOKS

from flaneur.core.book.tasks import Shows
from flaneur.core.drive.lash import deg_per_link
from flaneur.core.drive.port import port_turn
from flaneur.core.drive.train import DriveTrain
from flaneur.core.fasteners.bolts import bolt_maps
from flaneur.core.faults.model import Faults
from flaneur.core.plan.finder import find_position
from flaneur.core.plan.order import work_order
from flaneur.core.plan.plan import make_plan
from flaneur.core.plan.tour import shortest_tour
from flaneur.core.plan.walk import walker
from flaneur.core.signals.correlation import correlate
from flaneur.simulation.motion import Conditions, motion_for
from flaneur.simulation.synthesis import synthesise

BURDOCK, QUILLON, FENNEL = (
    BOOKS[n] for n in ("skarne-burdock", "quillon-sorrel", "brindle-fennel")
)
ANGLES = st.lists(st.integers(0, 719), min_size=1, max_size=7)


@given(ANGLES, st.integers(1, 60), st.integers(0, 719), st.booleans())
def test_a_tour_has_as_few_stops_as_there_can_be(
    at: list[int], half: int, start: int, every_turn: bool
) -> None:
    shows = Shows(at_deg=[float(a) for a in at], window_deg=half, every_turn=every_turn)
    tour = shortest_tour("bolts", shows, start)
    period = 360 if every_turn else 720
    first: list[tuple[float, float]] = []  # where each shows the first time, in degrees on
    for a in at:
        opens = (a - half - start) % period
        is_there = opens + 2 * half > period
        first.append((0.0, opens + 2 * half - period) if is_there else (opens, opens + 2 * half))
    fewest = next(
        n
        for n in range(1, len(at) + 1)
        for points in combinations({shuts for _, shuts in first}, n)
        if all(any(o <= p <= s for p in points) for o, s in first)
    )
    assert len(tour.stops) == fewest
    assert sorted(b for s in tour.stops for b in s.bolts) == list(range(1, len(at) + 1))
    gone = 0.0
    for stop in tour.stops:
        gone += stop.on_deg
        assert stop.on_deg >= 0
        assert stop.crank_deg == pytest.approx((start + gone) % 720)
        for bolt in stop.bolts:
            opens, shuts = first[bolt - 1]
            assert opens - 1e-9 <= gone <= shuts + 1e-9
    assert tour.turned_deg == pytest.approx(gone)
    ends = shortest_tour("bolts", shows, start, 0.0)
    assert (start + ends.turned_deg) % 720 == pytest.approx(0.0, abs=1e-6) or (
        start + ends.turned_deg
    ) % 720 == pytest.approx(720)
    assert ends.turned_deg - gone == pytest.approx(ends.on_deg)
    assert 0 <= ends.on_deg < 720


def test_the_second_bolt_of_a_sprocket_is_torqued_a_turn_later_with_its_chain_taut() -> None:
    plan = make_plan(BURDOCK, ["sprocket_f_part"])
    refs = [s.ref for s in plan.steps]
    torque = next(s for s in plan.steps if s.ref == "torque:sprocket_f_part")
    assert torque.tour is not None
    assert [(s.on_deg, s.crank_deg, s.bolts) for s in torque.tour.stops] == [
        (0.0, 0.0, [1]),
        (360.0, 360.0, [2]),
    ]
    assert "Here: bolt 1. 360° on: bolt 2." in torque.text
    assert any("turns the crank" in c for c in torque.cautions)
    assert torque.state is not None
    assert torque.state.crank_deg == 360.0
    at = refs.index
    assert at("op:release_tensioner_f") < at("torque:sprocket_f_part") < at("op:turn_front")
    assert at("op:bolts_f") < at("op:pin_tensioner_f") < at("remove:sprocket_f_part")
    out = next(s for s in plan.steps if s.ref == "op:bolts_f")
    assert out.tour is not None
    assert out.tour.turned_deg == 720.0


def test_a_tour_with_a_slack_chain_is_no_safe_step() -> None:
    order = work_order(BURDOCK, ["sprocket_f_part"])
    order.remove("torque:sprocket_f_part")
    order.insert(order.index("fit:sprocket_f_part") + 1, "torque:sprocket_f_part")
    walked = {w.ref: w for w in walker(BURDOCK).walk(order)}
    assert walked["torque:sprocket_f_part"].concerns
    usual = walker(BURDOCK).walk(work_order(BURDOCK, ["sprocket_f_part"]))
    assert not any(w.concerns for w in usual)


def test_every_cover_says_which_bolt_goes_where() -> None:
    covers = 0
    for book in BOOKS.values():
        for key, component in book.components.items():
            if not any(book.fasteners[f].count > 2 for f in component.fasteners):
                continue
            (drawn,) = bolt_maps(book, key)
            fastener = book.fasteners[drawn.fastener]
            covers += 1
            assert [b.number for b in drawn.bolts] == list(range(1, fastener.count + 1))
            assert {b.length_mm for b in drawn.bolts} == set(fastener.lengths_mm)
            if "crosswise" in fastener.pattern:
                middle = np.mean([(b.x_mm, b.y_mm) for b in drawn.bolts], axis=0)
                rays = [np.array((b.x_mm, b.y_mm)) - middle for b in drawn.bolts]
                across = [float(a @ b) < 0 for a, b in list(pairwise(rays))[::2]]
                assert np.mean(across) > 0.7
    assert covers > 12
    long = [b.number for b in bolt_maps(FENNEL, "front_cover")[0].bolts if b.is_long]
    assert len(long) == 5
    assert {a.name for a in bolt_maps(FENNEL, "front_cover")[0].around} == {
        *("Crank sprocket A", "Cam sprocket A", "Cam sprocket B"),
    } or len(bolt_maps(FENNEL, "front_cover")[0].around) == 3
    steps = {s.ref: s for s in make_plan(FENNEL, ["arm_a"]).steps}
    assert steps["torque:front_cover"].bolts == steps["remove:front_cover"].bolts


BOLTS = ("fasteners", "cover_bolts")


@pytest.mark.parametrize(
    ("change", "said"),
    [
        (put([[0, 0], [40, 0]], *BOLTS, "places", "at_mm"), "2 places, expected 18"),
        (put([3, 40], *BOLTS, "places", "long"), "numbers from 1 to 18"),
        (put([], *BOLTS, "places", "long"), "numbers from 1 to 18"),
        (put("attic", *BOLTS, "places", "plane"), "no drive plane is called attic"),
        (put({"at_deg": [0, 90]}, *BOLTS, "shows"), "2 angles, expected 18"),
        (put([59, 441], *BOLTS, "places", "at_mm", 1), "1 and 2 touch"),
        (
            put({"rounds": "arm_pivot"}, "operations", "crank_hold", "effects"),
            "no fastener that shows is called arm_pivot",
        ),
    ],
)
def test_a_book_that_misplaces_its_bolts_is_told(change: object, said: str) -> None:
    lines = faults("brindle-fennel", change)  # type: ignore[arg-type]
    assert any(said in line for line in lines), lines


def test_a_port_is_reached_before_the_cams_are_dragged_along() -> None:
    train = DriveTrain(QUILLON)
    turn = port_turn(train, "timing")
    assert turn is not None
    drive = train.chains["timing"]
    freed = drive.links_needed(6.0) - drive.links_needed(3.0)
    assert turn.needs_deg == pytest.approx(freed * deg_per_link(train, "timing"))
    assert turn.needs_deg < 3.0 < turn.most_deg
    (port,) = find_position(QUILLON).ports
    assert (port.back_deg, port.needs_deg) == (3.0, turn.needs_deg)
    pin = next(s for s in make_plan(QUILLON, ["arm"]).steps if s.ref == "op:pin_tensioner")
    assert "3° and no further" in pin.text
    assert pin.two_person
    for back in (1, 9):
        change = put(back, "tensioners", "tensioner", "port_back_deg")
        assert any("where the pin goes in" in line for line in faults("quillon-sorrel", change))
    assert find_position(FENNEL).ports == []


@pytest.mark.parametrize("seed", [3, 4])
def test_a_capture_that_ends_in_silence_tells_where_the_engine_stands(seed: int) -> None:
    runs = Conditions(seconds=6, course=((0, 250), (4, 250), (5.6, 40), (6, 40)))
    capture = synthesise(QUILLON, Faults(), runs, np.random.default_rng(seed))
    stood = motion_for(QUILLON, runs, np.random.default_rng(seed)).angle(np.array([6.0]))[0] % 720
    assert correlate(capture, QUILLON).rest is None, "it still turns"
    noise = np.random.default_rng(1).normal(0, 0.05, 30_000).astype(np.float32)
    quiet = {k: np.concatenate([v, v[-1] + noise]) for k, v in capture.channels.items()}
    found = correlate(replace(capture, channels=quiet), QUILLON).rest
    assert found is not None
    assert 0 <= (stood - found.crank_deg) % 720 <= found.within_deg
    told = find_position(QUILLON, f"{found.crank_deg:.0f}deg ± {found.within_deg:.0f}")
    assert told.forwards_deg == [pytest.approx((-round(found.crank_deg)) % 720)]
    assert "±" in told.words
