"""What a plan buys, what else could be renewed, what it costs, and whether that was agreed to."""

import json
from datetime import date
from pathlib import Path

import pytest
from tests.support.cluster import ROOT

from flaneur.cli import main
from flaneur.core.book.schema import EngineBook
from flaneur.core.decision.estimate import Estimate, estimate
from flaneur.core.decision.rates import Rates
from flaneur.core.errors import PlanError
from flaneur.core.job.agreement import Agreed, Agreeing, GoAheadMissing, agreed_or_refused
from flaneur.core.plan.buying import bought_as, needed, useful_kits
from flaneur.core.plan.cheat import cheat_of
from flaneur.core.plan.offers import offers
from flaneur.core.plan.plan import Plan, make_plan
from flaneur.core.plan.ready import make_ready
from flaneur.core.plan.roads import road_of, roads, usual_plan
from flaneur.formats.books import load_book

SORREL = load_book(ROOT / "engines" / "quillon-sorrel.yaml")
SET_B = ["tensioner_b", "arm_b", "chain_b_part", "guide_b"]


def whole(book: EngineBook) -> list[str]:
    return [k for k, c in book.components.items() if c.part and c.renewable]


def test_a_kit_and_what_it_lacks_are_all_that_is_needed(book: EngineBook) -> None:
    singly = make_plan(book, SET_B, is_quick=True)
    for kit in useful_kits(book, singly):
        plan = bought_as(book, singly, kit)
        held = book.kits[kit].holds
        assert plan.price == pytest.approx(sum(p.price * p.count for p in plan.parts))
        assert plan.parts[0].price == book.kits[kit].price
        beside = {p.key: p.count for p in plan.parts[1:]}
        for key, count in needed(singly).items():
            assert beside.get(key, 0) == max(0, count - held.get(key, 0)), key
        assert plan.steps == singly.steps


def test_a_kit_of_nothing_is_refused(book: EngineBook) -> None:
    plan = make_plan(book, ["phaser_a_part"], is_quick=True)
    with pytest.raises(PlanError, match="no such kit"):
        bought_as(book, plan, "golden_set")
    with pytest.raises(PlanError, match="holds nothing that this plan needs"):
        bought_as(book, plan, "one_chain_set")


def test_kits_are_roads_of_their_own(book: EngineBook) -> None:
    found = roads(book, whole(book)).roads
    usual = [r for r in found if not r.ways and not r.adds]
    assert {r.kit for r in usual} == {"maker_set", "other_set"}, "singly is dearer than the set"
    other = next(r for r in usual if r.kit == "other_set")
    assert other.weakness == book.kits["other_set"].weakness
    assert other.price < next(r for r in usual if r.kit == "maker_set").price
    one = [r for r in roads(book, ["guide_b"]).roads if not r.adds]
    assert {r.kit for r in one} == {""}, "no set for one guide"


def test_a_revised_part_brings_its_bolts_and_their_program() -> None:
    plan = make_plan(SORREL, ["tensioner"], is_quick=True)
    parts = {p.key: p for p in plan.parts}
    assert parts["tensioner"].name == "Tensioner, revised"
    assert parts["tensioner"].price == 66
    bolts = parts["tensioner_bolts_long"]
    assert (bolts.count, bolts.size) == (2, "M6 × 45 mm, dry")
    assert "does not hold with the old ones" in bolts.first
    step = next(s for s in plan.steps if s.ref == "torque:tensioner")
    assert "45 mm" in step.text
    assert {a.fastener for a in step.asked} == {"tensioner_bolts_long"}
    ready = {t.fastener for t in make_ready(SORREL, plan).torques}
    assert "Long tensioner bolts" in ready


def test_an_old_part_that_goes_on_again_keeps_its_bolts() -> None:
    plan = make_plan(SORREL, ["timing_part"], is_quick=True)
    assert "tensioner" in plan.access
    assert not {"tensioner", "tensioner_bolts_long"} & {p.key for p in plan.parts}
    step = next(s for s in plan.steps if s.ref == "torque:tensioner")
    assert "40 mm" in step.text


def test_what_is_offered_costs_less_now_than_later(book: EngineBook) -> None:
    plan = make_plan(book, ["chain_p"], is_quick=True)
    found = offers(book, ["chain_p"])
    assert found
    assert not {o.component for o in found} & {*plan.scope, *plan.renewed}
    for offer in found:
        both = make_plan(book, ["chain_p", offer.component], is_quick=True)
        alone = make_plan(book, [offer.component], is_quick=True)
        assert plan.price + offer.price == pytest.approx(both.price)
        assert (offer.later_minutes, offer.later_price) == (alone.minutes, alone.price)
        assert offer.minutes < 0.3 * offer.later_minutes
    off = next(o for o in found if o.component == "arm_p")
    assert (off.is_off, off.price) == (True, 39)


def estimated(book: EngineBook, scope: list[str], rates: Rates) -> tuple[Plan, Estimate]:
    plan = make_plan(book, scope)
    road = road_of(book, plan, usual_plan(book, scope))
    return plan, estimate(book, plan, road, roads(book, scope), rates, date(2026, 12, 4))


def test_an_estimate_adds_up(book: EngineBook) -> None:
    rates = Rates(labour_per_h=60)
    plan, found = estimated(book, ["chain_b_part"], rates)
    assert found.price == pytest.approx(sum(x.price for x in found.lines if x.price is not None))
    helper = sum(s.minutes for s in plan.helper)
    assert found.price == pytest.approx(plan.minutes + helper + plan.price)
    assert found.high_price - found.price == pytest.approx(plan.high_minutes - plan.minutes)
    assert [x.price for x in found.lines].count(None) == len(plan.supplies)
    assert found.starts_on == date(2026, 12, 4)
    days = -(-plan.elapsed_minutes // 480)
    assert found.days == days
    assert found.done_on is not None
    assert found.done_on > found.starts_on, "over a week-end"
    assert len(found.no_returns) == sum(bool(s.no_return) for s in plan.steps) > 0
    assert found.road not in {o.name for o in found.others}


def agreed(plan: Plan, most: float) -> Agreed:
    return Agreed(
        owner="Harbour office",
        how=Agreeing.TELEPHONE,
        on=date(2026, 12, 4),
        price=most,
        most=most,
        scope=plan.scope,
        kept=plan.kept,
        ways=plan.ways,
        kit=plan.kit,
    )


def test_a_yes_covers_the_plan_it_was_said_to(book: EngineBook) -> None:
    plan, other = (make_plan(book, [c], is_quick=True) for c in ("chain_b_part", "guide_b"))
    yes = agreed(plan, 900.0)
    assert agreed_or_refused(yes, plan, 899.0) == yes
    assert yes.words == "Harbour office said yes by telephone on 2026-12-04, up to 900.00."
    for what, price, said in (
        (plan, 901.0, "it would cost 901.00, and 900.00 were agreed to"),
        (other, 10.0, "the plan is another one since"),
    ):
        with pytest.raises(GoAheadMissing, match=said):
            agreed_or_refused(yes, what, price)
    with pytest.raises(GoAheadMissing, match="has not said yes"):
        agreed_or_refused(None, plan, 1.0)


def test_the_cheat_sheet_has_the_chains_that_come_off(book: EngineBook) -> None:
    found = cheat_of(book, make_plan(book, ["chain_b_part"], is_quick=True))
    chains = {c.chain for c in found.counts}
    assert "Secondary chain B (2-4-6)" in chains
    assert all(0 <= m.clock_deg < 360 for m in found.marks)
    traps = [m for m in found.marks if m.trap]
    assert traps
    assert all(not m.meets for m in traps)
    lengths = {c.name: c.links for c in book.chains.values()}
    for chain in chains:
        assert sum(c.links for c in found.counts if c.chain == chain) == lengths[chain], chain


def test_the_command_holds_a_plan_against_the_lists(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    (tmp_path / "stock.csv").write_text("item,count\nTensioner revised,1\n", encoding="utf-8")
    (tmp_path / "rates.json").write_text('{"labour_per_h": 60}', encoding="utf-8")
    book = ROOT / "engines" / "quillon-sorrel.yaml"
    asked = ["plan", "--engine", str(book), "--scope", "tensioner", "--today", "2026-12-04"]
    asked += ["--stores", str(tmp_path), "--json"]
    assert main([*asked, "--rates", str(tmp_path / "rates.json"), "--kit", "other_set"]) == 0
    found = json.loads(capsys.readouterr().out)
    assert found["estimate"]["lines"][0]["words"].endswith("at 60 an hour")
    assert found["kit"] == found["road"]["kit"] == "other_set"
    assert found["at_hand"]["unknown"] == ["tools", "wrenches"]
    assert found["at_hand"]["starts_on"] is None, "nobody sells what is lacking"
    assert found["cheat"]["counts"]
    (tmp_path / "stock.csv").write_text("item,count\nTensioner,some\n", encoding="utf-8")
    assert main(asked) == 1
    assert "count: some" in capsys.readouterr().err
    (tmp_path / "stock.csv").unlink()
    assert main(asked) == 1
    assert "none of the shop's lists" in capsys.readouterr().err
