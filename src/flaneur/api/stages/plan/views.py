"""Choosing what to renew, and the plan that follows."""

from flask import Blueprint
from spectree import Response

from flaneur.api.heavy import takes_a_while
from flaneur.api.kept import kept_while_unchanged
from flaneur.api.models import Changed, ErrorOut, VersionIn
from flaneur.api.security import require
from flaneur.api.spec import checked
from flaneur.api.stages.plan.models import (
    ComponentOut,
    DecidedScope,
    OffersOut,
    PlanOut,
    PlanPreview,
    PositionIn,
    PreviewIn,
    ReadyOut,
    RoadsIn,
    ScopeIn,
)
from flaneur.api.work import JOB, changed, changing, reading
from flaneur.core.decision.actions import ActionKind
from flaneur.core.decision.rates import Parts
from flaneur.core.plan.buying import bought_as, kit_of
from flaneur.core.plan.finder import Finding, find_position
from flaneur.core.plan.offers import offers
from flaneur.core.plan.plan import Plan, make_plan
from flaneur.core.plan.ready import make_ready
from flaneur.core.plan.roads import Roads, lockout_ways, roads
from flaneur.core.stores.at_hand import tools_of
from flaneur.jobs.bench import start_bench
from flaneur.jobs.deciding import decided_option
from flaneur.jobs.judging import proposed
from flaneur.jobs.planning import choose_scope
from flaneur.jobs.resting import stands_at
from flaneur.jobs.stores import at_hand_for
from flaneur.jobs.work import Work
from flaneur.store.plans import plan_of
from flaneur.store.stores import stores_of

blueprint = Blueprint("plan", __name__)
NEEDS_LEAD = "act:choose a road that a lead signs for"


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
        return PlanOut(
            plan=plan_of(work.job),
            components=components,
            measured=found.measured,
            whole_set=found.whole_set,
            decided=_decided(work),
            is_fixed=work.job.bench_started,
        )


@blueprint.post(f"{JOB}/plan/preview")
@takes_a_while
@checked(resp=Response(HTTP_200=Plan, HTTP_422=ErrorOut))
def preview(job_id: int, json: PreviewIn) -> Plan:
    """What a scope would mean, without choosing it."""
    with reading(job_id) as work:
        plan = make_plan(work.book, json.scope, json.kept, json.ways, json.is_quick)
        return bought_as(work.book, plan, json.kit)


@blueprint.post(f"{JOB}/plan/roads")
@takes_a_while
@checked(resp=Response(HTTP_200=Roads, HTTP_422=ErrorOut))
def compare(job_id: int, json: RoadsIn) -> Roads:
    """Every road to a scope, side by side."""
    with reading(job_id) as work:
        return roads(work.book, json.scope, json.kept, tools_of(stores_of(work.session)))


@blueprint.post(f"{JOB}/plan/ready")
@takes_a_while
@checked(resp=Response(HTTP_200=ReadyOut, HTTP_422=ErrorOut))
def ready(job_id: int, json: PlanPreview) -> ReadyOut:
    """What must be there before the engine is opened, parts, kits, tools, torques, and what of it
    is.
    """
    with reading(job_id) as work:
        plan = make_plan(work.book, json.scope, json.kept, json.ways, is_quick=True)
        found = make_ready(work.book, plan, json.kit)
        return ReadyOut(**found.__dict__, at_hand=at_hand_for(work, plan, json.kit))


@blueprint.post(f"{JOB}/plan/offers")
@takes_a_while
@checked(resp=Response(HTTP_200=OffersOut, HTTP_422=ErrorOut))
def open_now(job_id: int, json: PlanPreview) -> OffersOut:
    """What could be renewed while it is open, now against later."""
    with reading(job_id) as work:
        return OffersOut(offers=offers(work.book, json.scope, json.kept, json.ways))


@blueprint.post(f"{JOB}/plan/position")
@checked(resp=Response(HTTP_200=Finding, HTTP_422=ErrorOut))
def position(job_id: int, json: PositionIn) -> Finding:
    """From where the engine stands to the book's position."""
    with reading(job_id) as work:
        now = stands_at(work) if json.now == "capture" else json.now
        return find_position(work.book, now, json.lean_deg)


@blueprint.put(f"{JOB}/plan")
@takes_a_while
@checked(resp=Response(HTTP_200=Changed, HTTP_422=ErrorOut))
def choose(job_id: int, json: ScopeIn) -> Changed:
    """Choose what to renew."""
    with changing(job_id, json.version) as work:
        decided = _decided(work)
        signed = set(decided.ways) if decided else set[str]()
        if any(w.needs_lead for k, w in work.book.ways.items() if k in {*json.ways} - signed):
            require(NEEDS_LEAD)
        return changed(work, choose_scope(work, json.scope, json.kept, json.ways, json.kit))


def _decided(work: Work) -> DecidedScope | None:
    """What a lead decided, with the ways it means (those need nobody's word any more), and the kit
    it is bought as.
    """
    found = decided_option(work)
    if found is None:
        return None
    option, school = found
    is_locked = option.action is ActionKind.LOCKOUT
    ways = lockout_ways(work.book, option.scope) if is_locked else []
    new = set(option.scope) - set(option.kept)
    kit = kit_of(work.book, new, "aftermarket") if school.parts is Parts.AFTERMARKET else ""
    return DecidedScope(name=option.name, scope=option.scope, kept=option.kept, ways=ways, kit=kit)


@blueprint.post(f"{JOB}/plan/start")
@checked(resp=Response(HTTP_200=Changed, HTTP_422=ErrorOut))
def start(job_id: int, json: VersionIn) -> Changed:
    """Start on the bench; the plan is fixed from here."""
    with changing(job_id, json.version) as work:
        return changed(work, start_bench(work))
