"""Sheets of a job's plan: what stands on each."""

from dataclasses import dataclass

from flaneur.core.decision.estimate import Estimate
from flaneur.core.plan.cheat import cheat_of
from flaneur.core.plan.plan import make_plan
from flaneur.core.plan.ready import make_ready
from flaneur.formats.sheets import SheetContent, SheetHead, SheetKind
from flaneur.jobs.agreeing import agreed_of, estimate_of
from flaneur.jobs.judging import verdict_of
from flaneur.jobs.planning import kept_plan
from flaneur.jobs.stores import at_hand_for, today
from flaneur.jobs.work import Work
from flaneur.store.shop import shop_of
from flaneur.store.units import engine_by_id, unit_by_id


@dataclass(frozen=True)
class EstimatePage(SheetHead):
    """The estimate with its head, and what its beginning waits for."""

    estimate: Estimate
    held_by: list[str]


def estimate_page(work: Work) -> EstimatePage:
    """The estimate of the plan that is kept. Raises PlanError without one."""
    hand, head = at_hand_for(work, kept_plan(work)), _head(work)
    return EstimatePage(**head.__dict__, estimate=estimate_of(work, hand), held_by=hand.held_by)


def sheet_content(work: Work, kind: SheetKind) -> SheetContent:
    """What a sheet of the plan that is kept says. Raises PlanError without one."""
    plan, head = kept_plan(work), _head(work)
    if kind is SheetKind.ESTIMATE:
        agreed = agreed_of(work)
        said = agreed.words if agreed else ""
        return SheetContent(head, plan, estimate=estimate_of(work), agreed=said)
    if kind is SheetKind.PARTS:
        singly = make_plan(work.book, plan.scope, plan.kept, plan.ways, is_quick=True)
        ready = make_ready(work.book, singly, plan.kit)
        return SheetContent(head, plan, ready=ready, at_hand=at_hand_for(work, plan))
    if kind is SheetKind.MARKS:
        return SheetContent(head, plan, cheat=cheat_of(work.book, plan))
    return SheetContent(head, plan)


def _head(work: Work) -> SheetHead:
    unit, shop = unit_by_id(work.session, work.job.unit_id), shop_of(work.session)
    engine = engine_by_id(work.session, work.job.engine_id).number
    return SheetHead(
        number=work.job.number,
        unit=f"{unit.name}, {unit.tag}",
        engine=f"{work.book.name}, engine {engine}",
        complaint=str(work.job.intake.get("complaint", "")),
        headline=verdict_of(work, with_evidence=False).headline,
        currency=shop.currency,
        shop=shop.name,
        today=today(work.session),
    )
