"""Choosing what to renew."""

from collections.abc import Iterable

from flaneur.core.errors import PlanError
from flaneur.core.job.change import Change
from flaneur.core.plan.buying import bought_as
from flaneur.core.plan.plan import Plan, make_plan
from flaneur.core.plan.roads import road_name
from flaneur.core.wording import counted, within
from flaneur.jobs.work import Work
from flaneur.store.plans import plan_of
from flaneur.store.tables import JournalEntry


def choose_scope(
    work: Work,
    scope: Iterable[str],
    kept: Iterable[str] = (),
    ways: Iterable[str] = (),
    kit: str = "",
) -> JournalEntry:
    """Choose what to renew, what of it only to set right, on which road, and what kit its parts are
    bought in. Raises PlanError once the bench has started.
    """
    if work.job.bench_started:
        raise PlanError(
            "The bench has started; its plan stands.",
            advice="Close or reopen steps on the bench instead.",
        )
    plan = bought_as(work.book, make_plan(work.book, scope, kept, ways), kit)
    before = {"before_scope": work.job.scope, "before_plan": work.job.plan}
    work.job.scope, work.job.plan = plan.scope, plan.model_dump(mode="json")
    names, again = (
        ", ".join(work.book.components[c].name for c in plan.scope if (c in plan.kept) is is_kept)
        for is_kept in (False, True)
    )
    off, hours = counted(len(plan.access), "part"), plan.minutes / 60
    right = f" To set right as it is: {again}." if again else ""
    road = f" Road: {road_name(work.book, plan.ways)}." if plan.ways else ""
    kits = f" Parts: {within(work.book.kits[kit].name)}." if kit else ""
    takes = f" {off} to come off, about {hours:.1f} h."
    words = f"To renew: {names or 'nothing'}.{right}{road}{kits}{takes}"
    return work.record(Change.SCOPE, words, before)


def kept_plan(work: Work) -> Plan:
    """The plan that is kept. Raises PlanError without one."""
    plan = plan_of(work.job)
    if plan is None or not plan.steps:
        raise PlanError("There is no plan yet.", advice="Choose what to renew and keep the plan.")
    return plan
