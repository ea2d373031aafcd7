"""Every way a book's work can be wrong: said with its path, its figure and the way out; and no plan
is offered in which a valve meets a piston.
"""

import json

import jsonschema_rs
import pytest
from tests.core.test_book_checks import Change, drop, earlier, faults, put
from tests.core.test_engines import BOOKS, every_book
from tests.support.cluster import ROOT
from tests.support.raw import read_yaml, write_yaml

from flaneur.cli import main
from flaneur.core.book.loading import parse_book
from flaneur.core.book.schema import EngineBook
from flaneur.core.errors import PlanError
from flaneur.core.plan.order import work_order
from flaneur.core.plan.plan import make_plan
from flaneur.core.plan.position import CamState, ConcernKind
from flaneur.core.plan.walk import walker

TANSY, TEASEL, QUILLON = "ostrey-tansy", "ostrey-teasel", "quillon-sorrel"
BURDOCK, COMFREY, THISTLE, FENNEL = (
    "skarne-burdock",
    "tarsel-comfrey",
    "dunmarrow-thistle",
    "brindle-fennel",
)


def all_of(*changes: Change) -> Change:
    def change(raw: dict) -> None:
        for one in changes:
            one(raw)

    return change


def without(*operations: str) -> Change:
    """A book without these operations, and without a word of them."""

    def change(raw: dict) -> None:
        raw.pop("ways", None)  # they change what is taken out here
        for key in operations:
            del raw["operations"][key]
        for operation in raw["operations"].values():
            for field in ("before", "after"):
                if field in operation:
                    gone = {f"op:{key}" for key in operations}
                    operation[field] = [r for r in operation[field] if r not in gone]

    return change


WRONG: list[tuple[str, str, Change, str, str]] = [
    (
        "an exhaust cam that nothing holds",
        TANSY,
        without("hold_exhaust", "release_exhaust"),
        "operations.pin_a: jumps: exhaust cam, bank A (1-3-5) may swing",
        "held, or its followers out. Hold it first.",
    ),
    (
        "a loose cam whose valves meet",
        TANSY,
        without("hold_exhaust", "release_exhaust"),
        "operations.pin_a: touches: a cam is loose here: ",
        "at least 0.8 mm. Hold the cam",
    ),
    (
        "a crank rolled too far",
        QUILLON,
        put(160, "operations", "roll_back", "deg"),
        "operations.roll_back: turns_too_far: turns -160°, ",
        "from -157° to +157°",
    ),
    (
        "a phaser bolt broken loose at the top",
        TANSY,
        without("break_a"),
        "components.phaser_a_part.remove: slips: intake cam, bank A (1-3-5) may slip while",
        "Roll the crank away from the top first.",
    ),
    (
        "a chain laid away from its mark",
        QUILLON,
        without("roll_on", "stop_in_again"),
        "components.timing_part.fit: out_of_place: the crank stands at 680°",
        "0°, where the timing chain is timed",
    ),
    (
        "a mark read through its cover",
        TANSY,
        put(["key_crank"], "operations", "service_position", "marks"),
        "operations.service_position: unseen: the crank keyway cannot be seen here",
        "Take the cover off first",
    ),
    (
        "a crank turned by a pulley that is off",
        TANSY,
        put({"turned_by": "crank_pulley"}, "operations", "turn_open", "effects"),
        "operations.turn_open: unreached: crank pulley is off",
        "the old bolt with a spacer",
    ),
    (
        "a cover that closes before the engine was turned",
        TANSY,
        without("turn_open"),
        "components.front_cover.fit: not_turned: the engine has not been turned by hand",
        "two crank turns by hand",
    ),
    (
        "a cover that closes over a bar",
        COMFREY,
        without("release_exhaust"),
        "components.rear_cover.fit: closed_over: rear bar is still in (1)",
        "Take the rear bar out first.",
    ),
    (
        "a crank turned with its pin in",
        FENNEL,
        without("crank_hold_off"),
        "operations.turn_open: still_in: the crank is locked",
        "its lock out before it turns",
    ),
    (
        "followers that are never put back",
        FENNEL,
        without("followers_a_in"),
        "operations.turn_open: still_in: still in the engine: followers_a",
        "everything counted out before the crank turns",
    ),
    (
        "a short chain's cam let go",
        TEASEL,
        without("hold_exhaust_b", "release_exhaust_b"),
        "operations.pin_tensioner_b: jumps: exhaust cam, bank B (2-4-6) may swing",
        "Hold it first.",
    ),
    (
        "a rear head set at the front line",
        BURDOCK,
        put(0, "operations", "line_r_up", "at"),
        "operations.pin_tensioner_r: jumps: cam, rear head may swing",
        "Hold it first.",
    ),
    (
        "a marked tooth out of mesh",
        COMFREY,
        all_of(
            put(0, "sprockets", "crank", "mark_clock_deg"),
            put([], "chains", "belt", "marked_links"),
            put([{"start": "crank", "end": "belt_in", "links": 39}], "chains", "belt", "counts"),
        ),
        "sprockets.crank.mark_clock_deg: the marked tooth stands -4.7 teeth before",
        "0 to 9.7, in mesh",
    ),
    (
        "a plunger at its stop before the limit",
        FENNEL,
        put(24, "tensioners", "tensioner_a", "max_plunger_mm"),
        "tensioners.tensioner_a.max_plunger_mm: at its stop at the chain's limit of 0.5 %",
        "give it more, or bow the chain deeper",
    ),
    (
        "a chain too short to be lifted alone",
        TEASEL,
        put(["shoe_a"], "components", "short_a_part", "covered_by"),
        "components.short_a_part: 0.5 mm of the Short chain A (1-3-5) to spare",
        "3.2 mm to lift it over the teeth",
    ),
    (
        "wear that is usual over its limit",
        COMFREY,
        put(0.1, "arms", "roller", "limit_wear_mm"),
        "arms.roller.wear.typical: 0.15 mm at 4000 h",
        "well under the limit of 0.1",
    ),
    (
        "bolts that no fastener stands for",
        QUILLON,
        put([], "components", "arm", "fasteners"),
        "components.arm.remove: undoes bolts, and the component names no fasteners",
        "its fasteners, or other words",
    ),
    (
        "fasteners that nothing uses",
        QUILLON,
        put([], "components", "arm", "fasteners"),
        "fasteners.arm_pivot: no component uses them",
        "a component's fasteners",
    ),
    (
        "words of another engine",
        THISTLE,
        put("Pin the tensioner.", "operations", "turn_open", "text"),
        "operations.turn_open: speaks of “tensioner”",
        "it has not a tensioner",
    ),
    (
        "a bolt on a key",
        THISTLE,
        put(["sprocket_bolt"], "components", "crank_sprocket_part", "fasteners"),
        "components.crank_sprocket_part.fasteners: bolts for Crank sprocket, which sits on a key",
        "none",
    ),
    (
        "links that come back sooner",
        FENNEL,
        put(2, "operations", "turn_open", "coming_back"),
        "operations.turn_open.coming_back: 2 turns",
        "22 turns until its coloured links come back",
    ),
    (
        "a check at another angle that nobody makes",
        FENNEL,
        drop("check_positions", 1, "ask"),
        "check_positions.1: Cam B, at 135°, is read in no step",
        "give it an ask",
    ),
]


@pytest.mark.parametrize("case", WRONG, ids=[w[0] for w in WRONG])
def test_work_that_is_wrong_is_said_with_its_place_and_the_way_out(case) -> None:
    _, name, change, found, expected = case
    said = faults(name, change)
    assert any(line.startswith(found) and expected in line for line in said), said


TEMPLATED: list[tuple[Change, str]] = [
    (
        put("wax", "operations", "fill", "template"),
        "operations.fill.template: nothing is called wax",
    ),
    (put("lid", "components", "front_cover", "kind"), "components.front_cover.kind: nothing is ca"),
    (drop("operations", "plugs_out", "n"), "operations.plugs_out.n: missing, expected how many pl"),
    (put(3, "operations", "plugs_out", "m"), "operations.plugs_out.m: nothing asks for it, expec"),
    (put("x", "components", "arm_a", "lid"), "components.arm_a.lid: nothing asks for it"),
    (
        put(["60 pounds"], "fasteners", "arm_pivot", "stages"),
        "fasteners.arm_pivot.stages.0: “60 pounds”, expected such as 60 Nm",
    ),
]


@pytest.mark.parametrize(("change", "found"), TEMPLATED, ids=[t[1][:40] for t in TEMPLATED])
def test_a_template_used_wrongly_is_said_with_its_place(change: Change, found: str) -> None:
    said = faults(TANSY, change)
    assert any(line.startswith(found) for line in said), said


PUBLISHED = json.loads(
    (ROOT / "docs" / "formats" / "engine-book.schema.json").read_text(encoding="utf-8")
)


@every_book
def test_a_book_on_templates_fits_the_published_schema(name: str) -> None:
    raw = read_yaml((ROOT / "engines" / f"{name}.yaml").read_text(encoding="utf-8"))
    validator = jsonschema_rs.validator_for(PUBLISHED)
    assert validator.is_valid(json.loads(json.dumps(raw)))
    del raw["operations"]["plugs_out"]["n"]
    assert not validator.is_valid(json.loads(json.dumps(raw))), "a parameter is missing"


def test_stages_may_be_written_short() -> None:
    bolt = BOOKS[TANSY].fasteners["pulley_bolt"]
    assert [(s.kind, s.value, s.tolerance) for s in bolt.stages] == [
        ("torque", 60, 3),
        ("angle", 90, 5),
        ("angle", 60, 5),
    ]
    raw = read_yaml((ROOT / "engines" / f"{TANSY}.yaml").read_text(encoding="utf-8"))
    raw["fasteners"]["pulley_bolt"]["stages"] = ["40 Nm", "back 90°"]
    read = parse_book(write_yaml(raw)).fasteners["pulley_bolt"].stages
    assert [(s.kind, s.value, s.tolerance) for s in read] == [
        ("torque", 40, 3),
        ("back_off", 90, 5),
    ]


@every_book
def test_no_text_has_a_hole_or_words_of_nothing(name: str) -> None:
    book = BOOKS[name]
    plan = make_plan(book, [k for k, c in book.components.items() if c.renewable])
    for step in plan.steps:
        said = [step.title, step.text, step.looks_right, step.remedy, *step.cautions, step.why]
        said += [a.ask for a in step.asked]
        for text in said:
            assert not set("{}|") & set(text), text
            assert not text[:1].islower() or text == step.why, text
        assert step.asked, step.ref
        assert step.template


def test_a_book_may_write_an_operation_of_its_own() -> None:
    raw = read_yaml((ROOT / "engines" / f"{TANSY}.yaml").read_text(encoding="utf-8"))
    raw["operations"]["battery_off"] = {
        "name": "Both batteries off",
        "phase": "prepare",
        "text": "Two of them.",
        "looks_right": "Dead.",
        "remedy": "Look for the third.",
        "minutes": 6,
        "observe": {"kind": "count", "ask": "Batteries", "expected": 2},
    }
    raw["operations"]["fill"]["text"] = "Fill it."
    book = parse_book(write_yaml(raw))
    first = make_plan(book, ["front_cover"]).steps[0]
    assert (first.title, first.template) == ("Both batteries off", None)
    assert book.operations["fill"].text == "Fill it."
    assert book.operations["fill"].looks_right == "Levels right, joints dry."


def changed(name: str, change: Change) -> EngineBook:
    raw = read_yaml((ROOT / "engines" / f"{name}.yaml").read_text(encoding="utf-8"))
    change(raw)
    return parse_book(write_yaml(raw))


def test_a_plan_in_which_a_valve_meets_a_piston_is_not_offered() -> None:
    book = changed(TANSY, without("hold_exhaust", "release_exhaust"))
    with pytest.raises(PlanError, match="a valve can meet a piston") as refused:
        make_plan(book, ["chain_a_part"])
    assert "Pin tensioner A" in refused.value.message
    assert "room" in refused.value.read
    assert "not offered" in refused.value.advice


def test_the_makers_own_word_lets_such_a_step_stand_and_says_so() -> None:
    said = "The maker's order: the valves of cylinder 1 touch lightly here. Never force it."

    def change(raw: dict) -> None:
        raw["components"]["phaser_a_part"]["remove"] = {"maker_touches": said}

    bare = without("break_a")
    with pytest.raises(PlanError, match="Phaser A"):
        make_plan(changed(TANSY, bare), ["phaser_a_part"])
    plan = make_plan(changed(TANSY, all_of(bare, change)), ["phaser_a_part"])
    step = next(s for s in plan.steps if s.ref == "remove:phaser_a_part")
    assert step.cautions[0] == said


def test_a_bolt_left_loose_under_what_covers_it_is_seen() -> None:
    book = BOOKS[TANSY]
    order = work_order(book, ["guide_a"])
    order.remove("torque:guide_a")
    order.insert(order.index("fit:front_cover"), "torque:guide_a")
    concerns = [c for w in walker(book).walk(order) for c in w.concerns]
    assert [c.kind for c in concerns] == [ConcernKind.UNTORQUED]
    assert concerns[0].step == "fit:chain_a_part"


def test_the_state_of_a_step_says_what_holds_and_how_far_to_turn() -> None:
    steps = {s.ref: s for s in make_plan(BOOKS[QUILLON], ["phaser_in_part"]).steps}
    rolled = steps["op:roll_back"].state
    assert rolled is not None
    assert rolled.crank_deg == 680
    assert rolled.chains_off == ["timing"]
    assert rolled.held_by == {"cam_in": "cam_bar", "cam_ex": "cam_bar"}
    assert rolled.inside == {"cam_bar": 1, "tensioner": 1}
    assert rolled.crank_arc is not None
    assert rolled.crank_arc[1] >= 40, "the way back to the mark"
    assert rolled.words[0].startswith("The crank may turn 117° back and 197° on, no further")
    assert "key_crank" in rolled.seen
    assert "line_pulley" not in rolled.seen, "its pulley is off"
    last = list(steps.values())[-1].state
    assert last is not None
    assert set(last.cams.values()) == {CamState.DRIVEN}
    assert last.inside == {}


def test_a_cam_at_rest_is_free_and_one_on_its_springs_is_loaded() -> None:
    book = BOOKS[BURDOCK]
    at_rest = walker(book).walk(work_order(book, ["tensioner_r"]))
    states = [walker(book).state(w.after) for w in at_rest]
    assert any(s.cams["cam_r"] is CamState.FREE for s in states)
    wrong = changed(BURDOCK, put(0, "operations", "line_r_up", "at"))
    let_go = walker(wrong).walk(work_order(wrong, ["tensioner_r"]))
    loaded = [walker(wrong).state(w.after) for w in let_go]
    jumps = next(s.jumps["cam_r"] for s in loaded if s.cams["cam_r"] is CamState.LOADED)
    assert jumps[1] > 20, "the rear cam jumps on"


def test_a_book_without_clearance_lets_no_cam_be_loose_while_the_crank_turns() -> None:
    book = changed(TANSY, drop("clearance"))
    rolls = changed(QUILLON, drop("clearance"))
    with pytest.raises(PlanError, match="a valve can meet a piston") as refused:
        make_plan(rolls, ["phaser_in_part"])
    assert "nobody knows how far" in refused.value.read
    states = [s.state for s in make_plan(book, ["chain_a_part"]).steps]
    held = [s for s in states if s and s.chains_off]
    assert held
    assert all(s.crank_arc is None for s in held), "unknown is no arc"


def test_a_book_of_an_earlier_day_still_plans_and_its_states_are_unknown() -> None:
    plan = make_plan(parse_book(write_yaml(earlier(TANSY))), ["guide_a"])
    assert plan.steps
    assert all(step.state is None for step in plan.steps)


def test_what_cannot_be_lifted_brings_along_what_it_runs_over() -> None:
    plan = make_plan(BOOKS[TEASEL], ["short_a_part"])
    why = {s.ref: s.why for s in plan.steps}
    assert why["remove:phaser_a_ex_part"] == "covers the short chain A (1-3-5)"
    assert "remove:front_cover" not in why, "one cam cover is enough"
    assert plan.supplies.count("new gasket and plug well seals") == 1
    assert "op:soak_a" not in why, "the tensioner is not a new one"
    assert "op:soak_a" in {s.ref for s in make_plan(BOOKS[TEASEL], ["tensioner_a"]).steps}


def test_the_plan_command_gives_every_step_its_state(capsys: pytest.CaptureFixture[str]) -> None:
    command = ["plan", "--engine", str(ROOT / "engines" / f"{THISTLE}.yaml"), "--json", "--scope"]
    assert main([*command, "timing_part"]) == 0
    steps = json.loads(capsys.readouterr().out)["steps"]
    wanted = {"ref", "template", "why", "state", "cautions", "two_person", "minutes", "waiting"}
    assert all(wanted <= set(step) for step in steps)
    state = next(s["state"] for s in steps if s["ref"] == "remove:timing_part")
    assert state["crank_arc"] == [-360, 360], "its valves never meet a piston"
    assert state["cams"] == {"cam": "free"}
    assert {"chains_off", "seen", "inside"} <= set(state)
    assert main([*command, ","]) == 1
    assert "Nothing is chosen to be renewed" in capsys.readouterr().err
