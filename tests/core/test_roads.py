"""Ways, roads, and the order that is shortest for people, against brute force; the way to the
position.
"""

import json
import random
from pathlib import Path

import pytest
from bench.plan import brute_cost, needs_of
from tests.core.test_engines import BOOKS, every_book
from tests.support.cluster import ROOT
from tests.support.raw import read_yaml, write_yaml

from flaneur.cli.commands import main
from flaneur.core.book.loading import parse_book
from flaneur.core.book.schema import EngineBook
from flaneur.core.book.ways import on_ways
from flaneur.core.errors import BookError, PlanError
from flaneur.core.plan.finder import find_position
from flaneur.core.plan.order import step_graph
from flaneur.core.plan.ordering import ordered
from flaneur.core.plan.plan import make_plan
from flaneur.core.plan.ready import make_ready
from flaneur.core.plan.roads import is_worse, lockout_ways, road_of, roads
from flaneur.core.plan.shorter import MOST_STATES, Needs, changes_of, shortest
from flaneur.core.plan.walk import walker
from flaneur.formats.books import examine

WAYS = [(name, key) for name, book in BOOKS.items() for key in book.ways]
TANSY = ROOT / "engines" / "ostrey-tansy.yaml"


@pytest.mark.parametrize(("name", "key"), WAYS, ids=[f"{n}-{k}" for n, k in WAYS])
def test_every_way_leads_safely_to_what_it_serves(name: str, key: str) -> None:
    book, way = BOOKS[name], BOOKS[name].ways[key]
    for part in way.serves:
        plan = make_plan(book, [part], ways=[key])
        there = on_ways(book, (key,))
        for walked in walker(there).walk(s.ref for s in plan.steps):
            assert not walked.concerns, walked.concerns
        assert part in plan.access
        assert plan.ways == [key]
        inside = [s.state for s in plan.steps if s.state is not None]
        assert not inside[-1].inside, "what goes in comes out again"


def test_a_road_through_the_cover_leaves_the_front_alone(book: EngineBook) -> None:
    found = roads(book, ["phaser_a_part"], owned=["long bar"])
    short = found.roads[0]
    assert short.ways == ["in_place_a"]
    usual = next(r for r in found.roads if r.is_usual)
    assert short.minutes < 0.5 * usual.minutes
    assert short.expected_minutes == pytest.approx(
        short.minutes + 0.08 * usual.minutes + 0.02 * 120
    )
    assert [d.is_grave for d in short.dangers] == [False, True]
    assert "Primary chain" in short.untouched
    assert "long bar" not in short.tools_missing
    assert "chain wedge with cord" in short.tools_missing
    more = next(r for r in found.roads if r.adds)
    assert more.price > usual.price
    assert more.scope[0] == "phaser_a_part" or "phaser_a_part" in more.scope
    assert [r.needs_lead for r in found.roads if "lockout_a" in r.ways] == [True, True]


def test_ways_compose_field_by_field(book: EngineBook) -> None:
    both = on_ways(book, ("in_place_a", "lockout_a")).components["phaser_a_part"]
    assert both.covered_by == ["cam_cover_a"]
    assert both.price == 65
    assert both.remove.effects.slackens == ["chain_a"]
    assert "kit" in both.fit.text
    assert on_ways(book, ()) is book
    assert lockout_ways(book, ["phaser_b_part", "chain_b_part"]) == ["lockout_b"]


def test_a_road_no_better_anywhere_is_not_shown(book: EngineBook) -> None:
    road = next(r for r in roads(book, ["phaser_a_part"]).roads if r.is_usual)
    dear = road.model_copy(update={"price": road.price + 1})
    assert is_worse(dear, road)
    assert not is_worse(road, dear)
    assert not is_worse(road, road)
    slow_cheap = dear.model_copy(update={"price": road.price - 1, "minutes": road.minutes + 1})
    assert not is_worse(slow_cheap, road)
    assert is_worse(road.model_copy(update={"loses": ["timing"]}), road)


@pytest.mark.parametrize(
    ("ways", "scope", "says"),
    [
        (["nowhere"], ["phaser_a_part"], "does not have"),
        (["in_place_a", "in_place_b"], ["phaser_a_part"], "exclude each other"),
        (["in_place_a"], ["phaser_a_part", "guide_a"], "no way to this"),
        (["in_place_a"], ["chain_p"], "no way to this"),
    ],
)
def test_ways_that_cannot_be_gone_are_refused(
    book: EngineBook, ways: list[str], scope: list[str], says: str
) -> None:
    with pytest.raises(PlanError, match=says) as refused:
        make_plan(book, scope, ways=ways)
    assert refused.value.read
    assert refused.value.expected


def test_a_way_on_which_a_valve_meets_a_piston_is_not_offered() -> None:
    raw = read_yaml(TANSY.read_text(encoding="utf-8"))
    way = raw["ways"]["in_place_a"]
    way["without"] = [*way["without"], "hold_exhaust", "hold_intake"]
    for key in ("hold_exhaust", "hold_intake", "release_intake", "release_exhaust"):
        way["operations"].pop(key)
    way["without"] += ["release_intake", "release_exhaust"]
    text = write_yaml(raw)
    found = roads(parse_book(text), ["phaser_a_part"])
    assert all("in_place_a" not in r.ways for r in found.roads)
    assert any("valve can meet a piston" in n.why for n in found.not_offered)
    wrong = [c.path for c in examine(text).checks if not c.holds]
    assert any(path.startswith("ways.in_place_a") for path in wrong)


def test_a_road_does_not_fall_back_on_one_that_is_not_lawful(book: EngineBook) -> None:
    plan = make_plan(book, ["phaser_a_part"], ways=["in_place_a"])
    with pytest.raises(PlanError, match="fall back on one that is not lawful"):
        road_of(book, plan, None)
    locked = make_plan(book, ["phaser_a_part"], ways=["lockout_a"])
    assert road_of(book, locked, None).dangers[0].minutes == 500


def test_what_a_way_says_of_effects_is_laid_over_field_by_field() -> None:
    raw = read_yaml(TANSY.read_text(encoding="utf-8"))
    part = raw["components"]["phaser_a_part"]
    part["remove"] = {"minutes": 13, "effects": {"slackens": ["primary"], "owes": ["rag"]}}
    there = on_ways(parse_book(write_yaml(raw)), ("in_place_a",))
    task = there.components["phaser_a_part"].remove
    assert (task.minutes, task.effects.slackens, task.effects.owes) == (13, ["chain_a"], ["rag"])
    assert task.effects.works == ["cam_a_in"]


@pytest.mark.parametrize(
    ("field", "value", "path"),
    [
        ("serves", ["phaser_z"], "ways.in_place_a.serves.0"),
        ("without", ["fly"], "ways.in_place_a.without.0"),
        ("operations", {"wedge_a": {"template": "wedge"}}, "ways.in_place_a.operations.wedge_a"),
        ("components", {"phaser_a_part": {"covered_by": ["roof"]}}, "ways.in_place_a.components"),
    ],
)
def test_a_way_that_names_what_is_not_there_is_refused(
    field: str, value: object, path: str
) -> None:
    raw = read_yaml(TANSY.read_text(encoding="utf-8"))
    raw["ways"]["in_place_a"][field] = value
    with pytest.raises(BookError) as refused:
        parse_book(write_yaml(raw))
    assert any(f.path.startswith(path) for f in refused.value.faults), refused.value.faults


def test_orders_are_as_short_as_the_shortest_of_all() -> None:
    rng = random.Random(3)
    for i in range(28):
        book = list(BOOKS.values())[i % len(BOOKS)]
        scope = [rng.choice([k for k, c in book.components.items() if c.renewable])]
        usual = ordered(book, scope, is_quick=True).refs
        refs = [r for r in usual if r in set(rng.sample(usual, min(6, len(usual))))]
        needs = {r: needs_of(book, r) for r in refs}
        graph = step_graph(book, scope)
        best, is_exact = shortest(graph, refs, needs, MOST_STATES)
        assert best is not None
        assert is_exact
        assert changes_of(needs[r] for r in best).cost == brute_cost(graph, refs, needs)


@every_book
def test_the_shortest_order_is_lawful_and_safe(name: str) -> None:
    book = BOOKS[name]
    scope = next([k] for k, c in book.components.items() if c.part in book.chains)
    plan, quick = make_plan(book, scope), make_plan(book, scope, is_quick=True)
    refs = [s.ref for s in plan.steps]
    place = {r: i for i, r in enumerate(refs)}
    graph = step_graph(book, scope)
    assert sorted(refs) == sorted(s.ref for s in quick.steps)
    assert all(place[a] < place[b] for a, b in graph.edges if a in place and b in place)
    assert plan.changes.cost <= plan.usual_changes.cost
    assert plan.usual_changes == quick.changes
    begins = [s.begins for s in plan.steps]
    assert begins == sorted(begins)
    for step in plan.steps:
        for waited in step.waits_for:
            before = plan.steps[place[waited]]
            assert before.begins + before.minutes + before.waiting <= step.begins + 1e-6
            assert step.ref in before.held_up
    assert plan.elapsed_minutes >= plan.minutes
    assert sum(len(s.steps) for s in plan.helper) == plan.two_person_steps


def test_changes_are_counted_between_steps() -> None:
    saw, file = frozenset({"saw"}), frozenset({"file"})
    order = [Needs(saw, "A", True), Needs(), Needs(saw, "A", True), Needs(file, "B"), Needs(saw)]
    assert changes_of(order).model_dump() == {"tools": 3, "places": 2, "helper": 1}


def test_points_of_no_return_are_named_once(book: EngineBook) -> None:
    plan = make_plan(book, ["chain_a_part"])
    told = [s.no_return for s in plan.steps if s.no_return]
    assert any("Secondary chain A" in words or "secondary chain A" in words for words in told)
    assert any("Crank pulley bolt: undone once" in words for words in told)
    assert len(told) == len(set(told))


@pytest.mark.parametrize(
    ("now", "forwards", "stroke"),
    [
        ("212deg", [508.0], "exhaust"),
        ("212°?", [148.0, 508.0], "exhaust or compression"),
        ("-30", [30.0], "compression"),
        ("0", [0.0], "expansion"),
        ("rising", [], "exhaust or compression"),
        ("falling", [], "expansion or intake"),
        ("unknown", [], None),
    ],
)
def test_the_way_to_the_position(
    book: EngineBook, now: str, forwards: list[float], stroke: str | None
) -> None:
    found = find_position(book, now)
    assert found.forwards_deg == forwards
    assert found.stroke == stroke
    assert "never back" in found.words or now == "0"


def test_marks_follow_the_lean_of_the_engine(book: EngineBook) -> None:
    upright, leaning = find_position(book), find_position(book, lean_deg=-30)
    crank = {
        f.lean_deg: next(m for m in f.marks if m.name == "Crank dot") for f in (upright, leaning)
    }
    assert crank[0].clock == "six o'clock"
    assert crank[-30].clock == "five o'clock"
    assert upright.lobes != leaning.lobes
    burdock = find_position(BOOKS["skarne-burdock"])
    assert not any(t.name.startswith("Line R") for t in burdock.tricks), "it stands elsewhere"
    fennel = find_position(BOOKS["brindle-fennel"])
    assert any("The position is 45° further on." in t.how for t in fennel.tricks)
    other = next(m for m in upright.marks if not m.is_timing)
    assert other.meets == "says which bank the sprocket belongs to; not a timing mark"
    assert any("jams" in t.trap for t in upright.tricks)


@pytest.mark.parametrize("now", ["upside down", "99999deg", "12,5 mm"])
def test_a_place_that_cannot_be_read_is_refused(book: EngineBook, now: str) -> None:
    with pytest.raises(PlanError, match="cannot be read"):
        find_position(book, now)
    with pytest.raises(PlanError, match="askew"):
        find_position(book, lean_deg=120)


def test_the_command_gives_roads_and_position(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    ways = tmp_path / "ways.json"
    ways.write_text('{"ways": ["in_place_a"]}', encoding="utf-8")
    asked = ["plan", "--engine", str(TANSY), "--scope", "phaser_a_part", "--ways", str(ways)]
    assert main([*asked, "--now", "212deg", "--json"]) == 0
    found = json.loads(capsys.readouterr().out)
    assert found["road"]["ways"] == ["in_place_a"]
    assert found["position"]["forwards_deg"] == [508.0]
    assert {r["is_usual"] for r in found["roads"]["roads"]} == {True, False}
    assert found["helper"][0]["minutes"] > 0
    ways.write_text('{"way": 3}', encoding="utf-8")
    assert main([*asked, "--json"]) == 1
    assert "in_place_a" in json.loads(capsys.readouterr().out)["error"]["expected"]


def test_kits_are_laid_against_what_the_plan_needs(book: EngineBook) -> None:
    plan = make_plan(book, ["chain_b_part", "tensioner_b", "arm_b", "guide_b"])
    ready = make_ready(book, plan)
    best = ready.kits[0]
    assert best.key == "one_chain_set"
    assert best.missing == ["Front crank seal", "Crank pulley bolt"]
    assert best.superfluous == []
    assert best.total == pytest.approx(best.price + 18 + 4.5)
    assert best.total < ready.price
    other = next(k for k in ready.kits if not k.is_maker)
    assert "Primary chain" in other.superfluous
    assert other.weakness
    both = make_ready(book, make_plan(book, ["phaser_a_part", "phaser_b_part"]))
    assert {k.key for k in both.kits} == {"maker_set", "other_set"}


def test_tools_and_torques_are_named(book: EngineBook) -> None:
    ready = make_ready(book, make_plan(book, ["chain_p"]))
    holders = next(t for t in ready.tools if t.name == "cam holders")
    assert holders.method.startswith("A straight edge")
    assert holders.play_deg == 0.5
    pulley = next(t for t in ready.torques if t.fastener == "Crank pulley bolt")
    assert (pulley.least_nm, pulley.most_nm, pulley.angle_deg) == (60, 60, 150)
    assert (ready.least_nm, ready.most_nm) == (10, 60)


def test_a_kit_of_what_the_book_does_not_have_is_refused() -> None:
    raw = read_yaml(TANSY.read_text(encoding="utf-8"))
    raw["kits"]["maker_set"]["holds"]["sail"] = 1
    with pytest.raises(BookError, match=r"kits\.maker_set\.holds\.sail"):
        parse_book(write_yaml(raw))
