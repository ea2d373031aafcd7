"""What the walk of a plan stands on: positions, sight, loose cams, words and cautions of a step."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.core.test_engines import BOOKS

from flaneur.core.book.schema import EngineBook
from flaneur.core.plan.access import closed_set
from flaneur.core.plan.cautions import ONCE, Cautions
from flaneur.core.plan.loose import WHOLE, LooseCams
from flaneur.core.plan.order import work_order
from flaneur.core.plan.plan import make_plan
from flaneur.core.plan.position import CamState, Inside, Position, StepState
from flaneur.core.plan.reasons import Reasons
from flaneur.core.plan.sight import behind, covers_of, is_seen, seen
from flaneur.core.plan.stepping import is_near
from flaneur.core.plan.walk import walker
from flaneur.core.plan.wording import state_words

TANSY, TEASEL, QUILLON = (BOOKS[n] for n in ("ostrey-tansy", "ostrey-teasel", "quillon-sorrel"))
FENNEL, BURDOCK, COMFREY = (
    BOOKS[n] for n in ("brindle-fennel", "skarne-burdock", "tarsel-comfrey")
)
THISTLE = BOOKS["dunmarrow-thistle"]


def standing(crank: float = 0.0, **more: object) -> Position:
    return Position(crank_deg=crank, **more)  # type: ignore[arg-type]


def state(**more: object) -> StepState:
    told: dict[str, object] = {
        "crank_deg": 0.0,
        "is_locked": False,
        "crank_arc": [-360.0, 360.0],
        "ends": "",
        "chains_off": [],
        "slack": [],
        "cams": dict.fromkeys(TANSY.cams, CamState.DRIVEN),
        "held_by": {},
        "jumps": {},
        "seen": [],
        "inside": {},
    }
    return StepState.model_validate({**told, **more})


# Any scope of any engine --------------------------------------------------------------------


@settings(max_examples=60, deadline=None)
@given(
    name=st.sampled_from(sorted(BOOKS)), chosen=st.sets(st.integers(0, 40), min_size=1, max_size=5)
)
def test_no_scope_of_any_engine_has_a_step_wrong_where_it_stands(
    name: str, chosen: set[int]
) -> None:
    book = BOOKS[name]
    parts = [k for k, c in book.components.items() if c.renewable]
    scope = sorted({parts[i % len(parts)] for i in chosen})
    walked = walker(book).walk(work_order(book, scope))
    assert [c for w in walked for c in w.concerns] == []
    last = walked[-1].after
    assert (last.inside, last.off, last.untorqued, last.owed) == ({}, set(), set(), set())
    assert (last.chains_off, last.slack, last.taper, last.held) == (set(), set(), set(), {})
    assert not last.is_turn_due
    assert not last.is_locked
    assert set(walker(book).state(last).cams.values()) == {CamState.DRIVEN}


@settings(max_examples=30, deadline=None)
@given(
    name=st.sampled_from(sorted(BOOKS)), chosen=st.sets(st.integers(0, 40), min_size=1, max_size=4)
)
def test_what_comes_off_goes_on_and_every_step_says_why(name: str, chosen: set[int]) -> None:
    book = BOOKS[name]
    parts = [k for k, c in book.components.items() if c.renewable]
    scope = sorted({parts[i % len(parts)] for i in chosen})
    plan = make_plan(book, scope)
    refs = [s.ref for s in plan.steps]
    off = {r.removeprefix("remove:") for r in refs if r.startswith("remove:")}
    assert off == {r.removeprefix("fit:") for r in refs if r.startswith("fit:")}
    assert off == set(closed_set(book, scope))
    assert all(s.why for s in plan.steps)
    assert plan.waiting_minutes == sum(s.waiting for s in plan.steps)
    soaked = {s.ref for s in plan.steps if s.template == "soak"}
    assert len(soaked) <= len(
        {c for c in plan.renewed if book.components[c].part in book.tensioners}
    )


# Positions ----------------------------------------------------------------------------------


def test_what_goes_in_is_counted_and_comes_out_again() -> None:
    at = standing().put_in("pins", 2, ("lid",)).put_in("pins", 1, ("lid", "cover"))
    assert at.inside == {"pins": Inside(3, ("lid", "cover"))}
    assert at.take_out("pins", 1).inside["pins"].count == 2
    assert at.take_out("pins", 3).inside == {}
    assert standing().take_out("pins", 1).inside == {}


def test_two_angles_are_near_across_the_turn_of_the_cycle() -> None:
    assert is_near(719, 1)
    assert is_near(412, 412)
    assert not is_near(0, 360)
    assert not is_near(10, 14)


# Sight --------------------------------------------------------------------------------------


def test_covers_lie_over_whatever_is_under_what_they_cover() -> None:
    assert set(covers_of(TANSY, "guide_a")) == {"cam_cover_a", "front_cover"}
    assert covers_of(TANSY, "crank_pulley") == ()
    assert covers_of(BURDOCK, "tensioner_f") == (), "it comes out from outside"


def test_a_mark_is_seen_when_its_covers_are_off_and_its_part_is_on() -> None:
    closed, opened = frozenset[str](), frozenset({"cam_cover_a", "front_cover"})
    assert not is_seen(TANSY, "dot_a_in", closed)
    assert is_seen(TANSY, "dot_a_in", opened)
    assert not is_seen(TANSY, "dot_a_in", opened | {"phaser_a_part"}), "it went with its phaser"
    assert is_seen(TANSY, "line_pulley", closed)
    assert not is_seen(TANSY, "line_pulley", frozenset({"crank_pulley"}))
    assert not is_seen(TANSY, "line_pulley", frozenset({"front_cover"})), "no pointer"
    assert "number_a" not in seen(TANSY, opened), "it times nothing"


def test_a_mark_of_a_gear_lies_behind_what_covers_the_chains() -> None:
    assert "front_cover" in behind(TANSY, TANSY.marks["line_balance"])
    assert behind(BURDOCK, BURDOCK.marks["line_f"]) == ()


# Loose cams ---------------------------------------------------------------------------------


def test_a_seated_tool_holds_closer_than_a_clamp_and_a_phaser_nobody_felt_is_anywhere() -> None:
    loose = LooseCams(TANSY)
    low, high = loose.held_place(standing(), "cam_a_in", "holders", 0.0)
    assert (low, high) == (-3.0, 3.0), "play of half a degree each way, and the crank's two"
    low, high = loose.held_place(standing(), "cam_a_ex", "clamps", 0.0)
    assert (low, high) == (-5.5, 5.5), "as far off as the book allows"
    low, high = loose.held_place(standing(), "cam_a_in", None, 0.0)
    assert (low, high) == (-5.5, 55.5), "advanced by the whole of its travel"
    felt = standing(phasers_locked=frozenset({"phaser_a"}))
    assert loose.held_place(felt, "cam_a_in", None, 0.0) == (-5.5, 5.5)


def test_cams_move_in_groups_that_chains_left_on_tie() -> None:
    loose = LooseCams(TANSY)
    assert loose.groups(standing()) == []
    assert loose.groups(standing(slack=frozenset({"primary"}))) == [tuple(TANSY.cams)]
    split = loose.groups(standing(chains_off=frozenset({"primary", "chain_a"})))
    assert sorted(map(len, split)) == [1, 1, 2]
    tapered = LooseCams(QUILLON).groups(standing(taper=frozenset({"cam_in"})))
    assert tapered == [("cam_in",)], "its taper grips nothing, though the chain is taut"


def test_a_driven_engine_may_turn_and_held_cams_leave_an_arc() -> None:
    loose = LooseCams(QUILLON)
    assert loose.arc(standing()) == WHOLE
    places = {cam: (-3.0, 3.0) for cam in QUILLON.cams}
    held = dict.fromkeys(QUILLON.cams, "cam_bar")
    arc = loose.arc(standing(chains_off=frozenset({"timing"}), places=places, held=held))
    assert -180 < arc.back_deg < -90
    assert 90 < arc.on_deg < 180
    assert all(limit is not None for limit in arc.limits)


def test_a_cam_that_slips_is_taken_to_go_where_its_springs_drive_it() -> None:
    loose = LooseCams(TANSY)
    off = frozenset({"chain_a"})
    locked = frozenset(TANSY.phasers)
    held = {"cam_a_in": "holders", "cam_a_ex": "clamps"}
    places = {"cam_a_in": (-3.0, 3.0), "cam_a_ex": (-5.5, 5.5)}
    top = standing(chains_off=off, phasers_locked=locked, held=held, places=places)
    met = loose.slipped(top, "cam_a_in")
    assert met is not None
    assert met.room_mm is not None
    assert met.room_mm < 0.8


# Words and cautions -------------------------------------------------------------------------


def test_a_closed_engine_has_nothing_to_say_and_an_open_one_how_far_it_may_turn() -> None:
    assert state_words(TANSY, state()) == []
    cams = {**dict.fromkeys(TANSY.cams, CamState.DRIVEN), "cam_a_in": CamState.HELD}
    said = state_words(
        TANSY,
        state(
            cams=cams,
            crank_arc=[-87.0, 84.0],
            ends="exhaust of cylinder 5",
            held_by={"cam_a_in": "holders"},
            inside={"crank": 1, "holders": 2, "tensioner_a": 1, "followers_a": 8},
        ),
    )
    assert said == [
        "The crank may turn 87° back and 84° on, no further: next is the exhaust of cylinder 5.",
        "Held by the cam holders: Intake A.",
        "In the engine: 1 × lock of the crank, 2 × cam holders, 1 × pin of tensioner A (1-3-5), "
        "8 × followers a.",
    ]


@pytest.mark.parametrize(
    ("told", "words"),
    [
        ({"crank_deg": None, "crank_arc": None}, "Nobody knows yet where the crank stands"),
        ({"crank_arc": None}, "Clearance unknown: do not turn the crank."),
        ({}, "The crank may turn: no valve can meet a piston here."),
        ({"crank_arc": [0.0, 0.0]}, "The crank may not turn: a held cam hangs on it."),
        ({"crank_arc": [0.0, 0.0], "ends": "intake of cylinder 1"}, "next is the intake of cylin"),
    ],
)
def test_how_far_the_crank_may_turn_is_said_and_unknown_is_never_safe(
    told: dict[str, object], words: str
) -> None:
    cams = dict.fromkeys(TANSY.cams, CamState.FREE)
    said = state_words(TANSY, state(cams=cams, **told))
    assert words in said[0]
    assert said[1] == "Loose, at rest: Intake A, Exhaust A, Intake B, Exhaust B."


def test_loose_cams_say_which_way_they_jump_and_unknown_ones_to_be_held() -> None:
    cams = dict.fromkeys(BURDOCK.cams, CamState.LOADED)
    said = state_words(BURDOCK, state(cams=cams, jumps={"cam_r": [0.0, 51.5]}))
    assert "Loose, may swing +0° to +52°: Cam, rear head." in said
    said = state_words(BURDOCK, state(cams=dict.fromkeys(BURDOCK.cams, CamState.UNKNOWN)))
    assert said[-1].startswith("Loose, unknown where it goes: Cam, front head, Cam, rear head.")


def cautions(book: EngineBook, *steps: tuple[str, StepState]) -> list[list[str]]:
    along = Cautions(book)
    known = {words: key for key, words in book.cautions.items()}
    return [[known[c] for c in along.at(ref, at)] for ref, at in steps]


def test_what_holds_for_the_whole_job_is_cautioned_once() -> None:
    plan = make_plan(TANSY, [k for k, c in TANSY.components.items() if c.renewable])
    cried = [c for step in plan.steps for c in step.cautions]
    for key in ONCE:
        assert cried.count(TANSY.cautions[key]) == 1, key
    assert cried.count(TANSY.cautions["springs"]) == 6, "each tensioner pinned and let go"


def test_pistons_and_springs_are_cautioned_of_where_they_can_do_something() -> None:
    open_, quiet = state(crank_arc=[-360.0, 84.0]), state()
    limited_back = state(crank_arc=[-47.0, 360.0])
    off = "remove:chain_a_part"
    assert cautions(TANSY, (off, quiet), (off, quiet)) == [["interference", "jump"], []]
    assert cautions(TANSY, (off, quiet), (off, open_)) == [
        ["interference", "jump"],
        ["interference"],
    ]
    assert cautions(TANSY, (off, quiet), (off, limited_back))[1] == ["interference"]
    loaded = state(cams={**dict.fromkeys(TANSY.cams, CamState.DRIVEN), "cam_a_in": CamState.LOADED})
    assert cautions(TANSY, (off, quiet), (off, loaded))[1] == ["jump"]
    phaser = "remove:phaser_a_part"
    assert cautions(TANSY, (phaser, quiet), (phaser, quiet))[1] == ["jump"], "its bolt may jerk it"


def test_stretched_bolts_are_cautioned_of_when_torqued_only() -> None:
    plan = make_plan(TANSY, ["phaser_a_part"])
    words = TANSY.cautions["one_use"]
    assert {s.ref for s in plan.steps if words in s.cautions} == {
        "torque:phaser_a_part",
        "torque:crank_pulley",
    }


def test_why_each_part_comes_off() -> None:
    scope = ["timing_part"]
    why = Reasons(THISTLE, scope, closed_set(THISTLE, scope), [*scope, "front_seal"])
    assert why.of("remove:timing_part") == "chosen to be renewed"
    assert why.of("fit:cam_sprocket_part") == "comes off together with the timing chain"
    assert why.of("remove:front_cover") == "covers the oil thrower"
    assert why.of("fit:front_seal") == "renewed whenever it is uncovered"
    assert why.of("op:plugs_out") == "for the timing chain"
    assert why.of("op:battery_off") == "for every job on this engine"
    kept = Reasons(THISTLE, scope, closed_set(THISTLE, scope), [])
    assert kept.of("remove:timing_part") == "set right at its marks"


def test_supplies_are_counted() -> None:
    supplies = make_plan(TANSY, ["chain_a_part"]).supplies
    assert "2 × new gasket and plug well seals" in supplies
    assert "Oil filter" in supplies


# Where a step is done -----------------------------------------------------------------------


def test_a_cam_let_go_before_the_crank_is_found_is_treated_as_touching() -> None:
    order = work_order(TANSY, ["tensioner_a"])
    for step in ("op:service_position", "op:hold_intake", "op:hold_exhaust"):
        order.remove(step)
    found = [c for w in walker(TANSY).walk(order) for c in w.concerns]
    first = next(c for c in found if c.step == "op:pin_a")
    assert first.bends
    assert "nobody knows where" in first.found
    assert first.room_mm is None


def test_a_sprocket_hung_back_into_its_chain_stands_where_the_chain_is_timed() -> None:
    order = work_order(BURDOCK, ["sprocket_r_part"])
    assert [c for w in walker(BURDOCK).walk(order) for c in w.concerns] == []
    order.insert(order.index("fit:sprocket_r_part"), "op:line_f_up")
    found = [c for w in walker(BURDOCK).walk(order) for c in w.concerns]
    assert any(c.step == "fit:sprocket_r_part" and "412°" in c.expected for c in found)


def test_a_chain_without_tension_is_not_dragged_along() -> None:
    order = work_order(TEASEL, ["tensioner_p"])
    order.insert(order.index("fit:tensioner_p"), "op:turn_open")
    found = [c.found for w in walker(TEASEL).walk(order) for c in w.concerns]
    assert "the primary chain is on without tension" in found


def test_what_a_tool_holds_is_not_turned_by_the_crank() -> None:
    order = work_order(COMFREY, ["belt_part"])
    order.remove("op:release_intake")
    order.insert(order.index("op:turn_closed") + 1, "op:release_intake")
    found = [c.found for w in walker(COMFREY).walk(order) for c in w.concerns]
    assert "intake peg holds intake cam, which the crank drives" in found


def test_followers_out_leave_a_cam_free_and_their_valves_shut() -> None:
    steps = {s.ref: s.state for s in make_plan(FENNEL, ["tensioner_a"]).steps}
    pinned = steps["op:pin_tensioner_a"]
    assert pinned is not None
    assert pinned.cams["cam_a"] is CamState.FREE
    assert pinned.cams["cam_b"] is CamState.DRIVEN
    assert pinned.jumps == {}


def test_a_mended_engine_that_was_never_opened_needs_no_position() -> None:
    plan = make_plan(TANSY, ["accessory_belt"])
    assert [s.ref for s in plan.steps] == [
        "op:battery_off",
        "remove:accessory_belt",
        "fit:accessory_belt",
        "op:battery_on",
    ]
