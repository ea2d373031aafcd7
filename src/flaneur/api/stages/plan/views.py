"""Choosing what to renew, and the plan that follows."""

from flask import Blueprint
from spectree import Response

from flaneur.api.kept import kept_while_unchanged
from flaneur.api.models import Changed, ErrorOut, VersionIn
from flaneur.api.spec import checked
from flaneur.api.stages.plan.models import ComponentOut, DecidedScope, PlanOut, PlanPreview, ScopeIn
from flaneur.api.work import JOB, changed, changing, reading
from flaneur.core.plan.plan import Plan, make_plan
from flaneur.jobs.bench import start_bench
from flaneur.jobs.deciding import decided_option
from flaneur.jobs.judging import proposed
from flaneur.jobs.planning import choose_scope
from flaneur.store.jobs import plan_of

blueprint = Blueprint("plan", __name__)


@blueprint.get(f"{JOB}/plan")
@kept_while_unchanged()
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
        found = proposed(work, with_evidence=False)
        option = decided_option(work)
        return PlanOut(
            plan=plan_of(work.job),
            components=components,
            measured=found.measured,
            whole_set=found.whole_set,
            decided=DecidedScope(name=option.name, scope=option.scope, kept=option.kept)
            if option
            else None,
            is_fixed=work.job.bench_started,
        )


@blueprint.post(f"{JOB}/plan/preview")
@checked(resp=Response(HTTP_200=Plan, HTTP_422=ErrorOut))
def preview(job_id: int, json: PlanPreview) -> Plan:
    """What a scope would mean, without choosing it."""
    with reading(job_id) as work:
        return make_plan(work.book, json.scope, json.kept)


@blueprint.put(f"{JOB}/plan")
@checked(resp=Response(HTTP_200=Changed, HTTP_422=ErrorOut))
def choose(job_id: int, json: ScopeIn) -> Changed:
    """Choose what to renew."""
    with changing(job_id, json.version) as work:
        return changed(work, choose_scope(work, json.scope, json.kept))


@blueprint.post(f"{JOB}/plan/start")
@checked(resp=Response(HTTP_200=Changed, HTTP_422=ErrorOut))
def start(job_id: int, json: VersionIn) -> Changed:
    """Start on the bench; the plan is fixed from here."""
    with changing(job_id, json.version) as work:
        return changed(work, start_bench(work))
