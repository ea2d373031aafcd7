"""Choosing what to renew."""

from collections.abc import Iterable

from flaneur.core.errors import PlanError
from flaneur.core.job.change import Change
from flaneur.core.plan.plan import make_plan
from flaneur.core.wording import counted
from flaneur.jobs.work import Work
from flaneur.store.tables import JournalEntry


def choose_scope(work: Work, scope: Iterable[str], kept: Iterable[str] = ()) -> JournalEntry:
    """Choose what to renew, what of it only to set right, and plan it. Raises PlanError once the
    bench has started.
    """
    if work.job.bench_started:
        raise PlanError(
            "The bench has started; its plan stands.",
            advice="Close or reopen steps on the bench instead.",
        )
    plan = make_plan(work.book, scope, kept)
    before = {"before_scope": work.job.scope, "before_plan": work.job.plan}
    work.job.scope, work.job.plan = plan.scope, plan.model_dump(mode="json")
    names, again = (
        ", ".join(work.book.components[c].name for c in plan.scope if (c in plan.kept) is is_kept)
        for is_kept in (False, True)
    )
    off, hours = counted(len(plan.access), "part"), plan.minutes / 60
    right = f" To set right as it is: {again}." if again else ""
    words = f"To renew: {names or 'nothing'}.{right} {off} to come off, about {hours:.1f} h."
    return work.record(Change.SCOPE, words, before)
