"""The cold start after the repair: it may come after the release, and is then due."""

from datetime import datetime, timedelta

from flaneur.core.bench.tally import Tally
from flaneur.core.plan.plan import Plan
from flaneur.core.plan.steps import PlanStep

TEMPLATE = "cold_retest"


def open_retest(plan: Plan | None, tally: Tally) -> PlanStep | None:
    """The plan's cold start that was not done yet; None where there is none, or it was done."""
    steps = plan.steps if plan else []
    return next((s for s in steps if s.template == TEMPLATE and s.ref not in tally.done), None)


def due_at(step: PlanStep, since: datetime) -> datetime:
    """When it is due: after so many hours of standing."""
    return since + timedelta(minutes=step.waiting)
