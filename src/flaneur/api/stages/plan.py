"""Choosing what to renew, and the plan that follows."""

from flask import Blueprint
from spectree import Response

from flaneur.api.models import (
    Changed,
    ComponentOut,
    ErrorOut,
    PlanOut,
    PlanPreview,
    ScopeIn,
    VersionIn,
)
from flaneur.api.spec import checked
from flaneur.api.stages.verdict import proposals
from flaneur.api.work import JOB, changing, reading
from flaneur.core.errors import PlanError
from flaneur.core.plan.plan import Plan, make_plan
from flaneur.store.changes import record
from flaneur.store.jobs import plan_of

blueprint = Blueprint("plan", __name__)


@blueprint.get(f"{JOB}/plan")
@checked(resp=Response(HTTP_200=PlanOut))
def get_plan(job_id: int) -> PlanOut:
    """The plan as it stands, the book's components, and the verdict's proposals."""
    with reading(job_id) as work:
        components = [
            ComponentOut(
                id=k,
                name=c.name,
                price=c.price,
                is_renewable=c.renewable,
                is_one_use=c.one_use,
                part=c.part,
            )
            for k, c in work.book.components.items()
        ]
        return PlanOut(
            plan=plan_of(work.job),
            components=components,
            proposals=proposals(work, with_evidence=False),
            is_fixed=work.job.bench_started,
        )


@blueprint.post(f"{JOB}/plan/preview")
@checked(resp=Response(HTTP_200=Plan, HTTP_422=ErrorOut))
def preview(job_id: int, json: PlanPreview) -> Plan:
    """What a scope would mean, without choosing it."""
    with reading(job_id) as work:
        return make_plan(work.book, json.scope)


@blueprint.put(f"{JOB}/plan")
@checked(resp=Response(HTTP_200=Changed, HTTP_422=ErrorOut))
def choose(job_id: int, json: ScopeIn) -> Changed:
    """Choose what to renew."""
    with changing(job_id, json.version) as work:
        if work.job.bench_started:
            raise PlanError(
                "The bench has started; its plan stands.",
                advice="Close or reopen steps on the bench instead.",
            )
        plan = make_plan(work.book, json.scope)
        before = {"before_scope": work.job.scope, "before_plan": work.job.plan}
        work.job.scope, work.job.plan = plan.scope, plan.model_dump(mode="json")
        names = ", ".join(work.book.components[c].name for c in plan.scope) or "nothing"
        words = (
            f"To renew: {names}. {len(plan.access)} parts come off, about "
            f"{plan.minutes / 60:.1f} h."
        )
        return work.changed(record(work.session, work.job, work.by, "scope", words, before))


@blueprint.post(f"{JOB}/plan/start")
@checked(resp=Response(HTTP_200=Changed, HTTP_422=ErrorOut))
def start(job_id: int, json: VersionIn) -> Changed:
    """Start on the bench; the plan is fixed from here."""
    with changing(job_id, json.version) as work:
        plan = plan_of(work.job)
        if plan is None or not plan.steps:
            raise PlanError("There is no plan yet.", advice="Choose what to renew first.")
        if work.job.bench_started:
            raise PlanError("The bench has started already.", advice="Go on at the bench.")
        work.job.bench_started = True
        return work.changed(
            record(
                work.session, work.job, work.by, "bench", f"Bench started: {len(plan.steps)} steps."
            )
        )
