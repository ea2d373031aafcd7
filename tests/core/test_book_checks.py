"""Every way a book can be wrong about its drive: refused in one line that says where, what was
found, what was expected.
"""

import json
from collections.abc import Callable
from typing import Any

import pytest
from tests.support.cluster import ROOT
from tests.support.raw import read_yaml, write_yaml

from flaneur.core.book.loading import parse_book
from flaneur.formats.books import examine

Change = Callable[[dict[str, Any]], None]


def faults(name: str, change: Change) -> list[str]:
    raw = read_yaml((ROOT / "engines" / f"{name}.yaml").read_text(encoding="utf-8"))
    change(raw)
    text = write_yaml(raw)
    return [fault.line for fault in examine(text).faults]


def put(value: object, *path: str | int) -> Change:
    def change(raw: dict[str, Any]) -> None:
        place: Any = raw
        for key in path[:-1]:
            place = place[key]
        place[path[-1]] = value

    return change


def drop(*path: str | int) -> Change:
    def change(raw: dict[str, Any]) -> None:
        place: Any = raw
        for key in path[:-1]:
            place = place[key]
        del place[path[-1]]

    return change


TANSY, COMFREY, THISTLE, FENNEL = (
    "ostrey-tansy",
    "tarsel-comfrey",
    "dunmarrow-thistle",
    "brindle-fennel",
)
WRONG: list[tuple[str, Change, str]] = [
    (
        TANSY,
        put([0, 95], "gears", "gear_balance", "at_mm"),
        "meshes.0: gear_crank and gear_balance are 95.00 mm apart, expected 88.00 mm",
    ),
    (
        TANSY,
        put(46, "gears", "gear_balance", "teeth"),
        "shafts.balance: turns once in 1.045 crank turns, expected once in 1",
    ),
    (
        TANSY,
        put([0, 190], "sprockets", "idler_a", "at_mm"),
        "idler_a.at_mm: (0.0, 190.0), expected (0.0, 194.5), where idler_in sits",
    ),
    (
        TANSY,
        put(None, "components", "guide_p", "part"),
        "guides.guide_p: no component stands for the Primary guide",
    ),
    (
        TANSY,
        put(None, "marks", "dot_idler", "meets"),
        "marks.dot_idler.meets: nothing, expected what this timing mark stands against",
    ),
    (
        TANSY,
        drop("marks", "number_a", "purpose"),
        "marks.number_a.purpose: nothing, expected what this mark is for",
    ),
    (
        TANSY,
        put(4, "tensioners", "tensioner_p", "max_plunger_mm"),
        "chains.primary.links: 66 links close with the plunger at 6.00 mm",
    ),
    (
        TANSY,
        put("cam_q", "chains", "primary", "marked_links", 0, "meets"),
        "chains.primary.marked_links.0.meets: cam_q, expected a sprocket",
    ),
    (
        TANSY,
        put([], "meshes"),
        "shafts.balance: no chain or gear turns it, expected turned from the crankshaft",
    ),
    (TANSY, put("gear_q", "meshes", 0, "driven"), "meshes.0: no gear is called gear_q"),
    (
        TANSY,
        put(["cam_q"], "tools", "holders", "holds"),
        "tools.holders.holds: no shaft is called cam_q",
    ),
    (
        TANSY,
        put("bar", "check_positions", 0, "tool"),
        "check_positions.0.tool: no tool is called bar",
    ),
    (
        TANSY,
        put(["cam_q"], "check_positions", 1, "cams"),
        "check_positions.1.cams: no cam is called cam_q",
    ),
    (
        TANSY,
        put([9], "clearance", "valves", "intake_a", "cylinders"),
        "clearance.valves.intake_a.cylinders: there is no cylinder 9",
    ),
    (
        TANSY,
        put("cam_q", "clearance", "valves", "intake_a", "cam"),
        "clearance.valves.intake_a.cam: no cam is called cam_q",
    ),
    (
        TANSY,
        put(["cam_q"], "clearance", "holding", 0, "cams"),
        "clearance.holding.0.cams: no cam is called cam_q",
    ),
    (
        TANSY,
        put(30, "clearance", "rod_mm"),
        "clearance.rod_mm: 30 mm, expected 105.3 to 210.6 mm: 1.3 to 2.6 strokes, eye to eye",
    ),
    (
        TANSY,
        put(120, "clearance", "fires_deg", 4),
        "clearance.fires_deg: 0° from cylinder 2 to the next, expected about 120° apart",
    ),
    (
        TANSY,
        drop("clearance", "valves", "exhaust_b"),
        "clearance.valves: cylinder 2 has intake, expected intake and exhaust",
    ),
    (
        FENNEL,
        put({"q": [1]}, "clearance", "holding", 0, "followers_out"),
        "clearance.holding.0.followers_out: no valve group is called q",
    ),
    (
        FENNEL,
        put({"intake_a": [12]}, "clearance", "holding", 0, "followers_out"),
        "followers_out.intake_a: there is no cylinder 12",
    ),
    (
        COMFREY,
        put("left", "sprockets", "rear_ex", "plane"),
        "sprockets.rear_ex.plane: no drive plane is called left",
    ),
    (
        COMFREY,
        put("main", "sprockets", "rear_ex", "plane"),
        "chains.rear_chain.loop: its sprockets lie in main, rear, expected one drive plane",
    ),
    (
        THISTLE,
        put(66, "chains", "timing", "links"),
        "expected 0 to 0.75 of a link to spare, there being no tensioner",
    ),
    (THISTLE, put(62, "chains", "timing", "links"), "62 links, the taut loop takes 63.75"),
]


@pytest.mark.parametrize(("name", "change", "words"), WRONG, ids=[w[2][:50] for w in WRONG])
def test_what_is_wrong_is_said_with_its_place(name: str, change: Change, words: str) -> None:
    said = faults(name, change)
    assert any(words in line for line in said), said


def test_a_component_that_nothing_reaches_is_named() -> None:
    def change(raw: dict[str, Any]) -> None:
        raw["components"]["guide_p"]["covered_by"] = ["chain_p"]
        raw["components"]["chain_p"]["covered_by"].append("guide_p")

    assert any(
        line.startswith("components: their rules go round in a circle")
        for line in faults(TANSY, change)
    )


def test_two_faults_are_two_lines() -> None:
    def change(raw: dict[str, Any]) -> None:
        put([0, 95], "gears", "gear_balance", "at_mm")(raw)
        put(30, "clearance", "rod_mm")(raw)

    assert len(faults(TANSY, change)) == 2


def earlier(name: str) -> dict[str, Any]:
    """A book as one was written in full, before there were templates and effects."""
    text = (ROOT / "engines" / f"{name}.yaml").read_text(encoding="utf-8")
    raw = json.loads(parse_book(text).model_dump_json(exclude_defaults=True))
    parts = [part[half] for part in raw["components"].values() for half in ("remove", "fit")]
    for task in [*parts, *raw["operations"].values()]:
        for new in ("effects", "template"):
            task.pop(new, None)
    for component in raw["components"].values():
        component.pop("kind")
    raw.pop("ways", None)
    return raw


def test_a_book_of_an_earlier_day_without_the_new_facts_is_still_read() -> None:
    raw = earlier(TANSY)
    for key in ("clearance", "marks", "tools", "check_positions", "gears", "meshes"):
        raw.pop(key, None)
    raw["shafts"].pop("balance")
    raw["fasteners"]["pulley_bolt"].pop("note")  # it speaks of a pin that is no tool any more
    gone = {"op:crank_pin", "op:crank_pin_out"}  # and so do these
    raw["operations"] = {k: o for k, o in raw["operations"].items() if f"op:{k}" not in gone}
    for operation in raw["operations"].values():
        for side in ("before", "after"):
            operation[side] = [r for r in operation.get(side, []) if r not in gone]
    examined = examine(write_yaml(raw))
    assert [fault.line for fault in examined.faults] == []


Broken = tuple[str, list[str | int], object, str]
BROKEN: list[Broken] = [
    (
        "a loop that cannot close",
        ["chains", "timing", "links"],
        160,
        "close at no extension from 0 to 28 mm",
    ),
    (
        "an impossible tooth count",
        ["sprockets", "cam_in", "teeth"],
        35,
        "turns once in 1.944 crank turns, expected once in 2",
    ),
    (
        "no such tooth count at all",
        ["sprockets", "cam_in", "teeth"],
        3,
        "sprockets.cam_in.teeth: Input should be greater than or equal to 8",
    ),
    (
        "overlapping sprockets",
        ["sprockets", "cam_ex", "at_mm"],
        [30.0, 338.0],
        "sprockets.cam_ex.at_mm: overlaps cam_in",
    ),
    (
        "a mark on a missing link",
        ["chains", "timing", "marked_links", 1, "link"],
        128,
        "link 128, expected 0 to 127: the chain has 128 links",
    ),
    (
        "a mark on the wrong link",
        ["chains", "timing", "marked_links", 1, "link"],
        57,
        "link 57 lies -1.00 links from the mark of cam_ex",
    ),
    (
        "a negative clearance at rest",
        ["clearance", "valves", "intake", "rest_gap_mm"],
        -3.0,
        "above 0 mm: a closed valve cannot stand in the piston",
    ),
    (
        "valves that meet in running",
        ["clearance", "valves", "exhaust", "centreline_deg"],
        290,
        "at least in running",
    ),
    (
        "a figure ten times too large",
        ["clearance", "valves", "intake", "rest_gap_mm"],
        8.0,
        "rest_gap_mm: 8 mm, expected -6 to 3 mm",
    ),
    (
        "a figure ten times too small",
        ["clearance", "valves", "intake", "max_lift_mm"],
        0.96,
        "max_lift_mm: 0.96 mm, expected 4.8 to 16.1 mm",
    ),
    (
        "a pocket through the crown",
        ["clearance", "valves", "intake", "pocket_mm"],
        50,
        "pocket_mm: 50 mm, expected 0 to 8 mm",
    ),
    (
        "a rod shorter than its stroke",
        ["clearance", "rod_mm"],
        48,
        "rod_mm: 48 mm, expected 121.2 to 242.3 mm",
    ),
    (
        "a valve that lies down",
        ["clearance", "valves", "intake", "angle_to_bore_deg"],
        55,
        "angle_to_bore_deg: 55 °, expected 0 to 35 °",
    ),
    (
        "exhaust called intake",
        ["clearance", "valves", "exhaust", "kind"],
        "intake",
        "centreline_deg: 236 °, expected 420 to 545 °",
    ),
    (
        "a centreline a turn off",
        ["clearance", "valves", "exhaust", "centreline_deg"],
        596,
        "centreline_deg: 596 °, expected 175 to 300 °",
    ),
    (
        "firing angles of the cams",
        ["clearance", "fires_deg"],
        {1: 0, 3: 90, 4: 180, 2: 270},
        "cam degrees are half of it",
    ),
    (
        "a wrong firing order",
        ["clearance", "fires_deg"],
        {1: 0, 3: 180, 2: 360, 4: 540},
        "fires_deg has 1, 3, 2, 4, expected 1, 3, 4, 2",
    ),
    (
        "an angle that is none",
        ["clearance", "fires_deg", 2],
        float("nan"),
        "fires_deg.2: Input should be a finite number",
    ),
    (
        "seats that do not fit the bore",
        ["clearance", "seats", "bridge_mm"],
        30,
        "heads and bridge 87.5 mm across, expected at most 85.3",
    ),
    (
        "an engine said never to touch",
        ["clearance", "interference"],
        False,
        "a fully open valve reaches its piston",
    ),
    (
        "a table that does not rise",
        ["clearance", "valves", "intake", "shape"],
        "table",
        "7 points or more from 0 mm up",
    ),
    (
        "a cylinder that never fires",
        ["clearance", "fires_deg"],
        {1: 0, 3: 180, 4: 360},
        "gives cylinders [1, 3, 4], expected [1, 2, 3, 4]",
    ),
    (
        "a count that does not come out",
        ["chains", "timing", "counts", 0, "links"],
        55,
        "the geometry gives 56.00 from crank to cam_ex, expected 55",
    ),
    (
        "a mark on nothing",
        ["marks", "dot_in", "wheel"],
        "cam_q",
        "marks.dot_in.wheel: no sprocket or gear is called cam_q",
    ),
]


@pytest.mark.parametrize("case", BROKEN, ids=[b[0] for b in BROKEN])
def test_a_broken_book_is_refused_in_words(case: Broken) -> None:
    _, path, value, words = case
    said = faults("quillon-sorrel", put(value, *path))
    assert any(words in line for line in said), said
