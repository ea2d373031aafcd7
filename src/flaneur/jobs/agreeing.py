"""The owner's estimate of a job, the owner's go-ahead, and a lead's at points of no return."""

from dataclasses import dataclass
from datetime import date

from flaneur.core.decision.estimate import Estimate, estimate, price_of
from flaneur.core.errors import PlanError, StepError
from flaneur.core.job.agreement import Agreed, Agreeing, GoAheadMissing, agreed_or_refused
from flaneur.core.job.change import Change
from flaneur.core.plan.roads import road_of, roads, usual_plan
from flaneur.core.plan.steps import PlanStep
from flaneur.core.stores.at_hand import AtHand
from flaneur.core.wording import counted
from flaneur.jobs.deciding import rates_of
from flaneur.jobs.planning import kept_plan
from flaneur.jobs.stores import at_hand_for, today
from flaneur.jobs.work import Work
from flaneur.store.changes import standing_entries
from flaneur.store.jobs import agreed_of_each
from flaneur.store.plans import plan_of
from flaneur.store.tables import JournalEntry


@dataclass(frozen=True)
class Standing:
    """What stands of both go-aheads: the owner's, why it does not cover the plan (empty: it does),
    and who gave the lead's; ``needs_go``: the plan has points of no return.
    """

    agreed: Agreed | None
    why_not: str
    needs_go: bool
    go_by: str | None


def estimate_of(work: Work, hand: AtHand | None = None) -> Estimate:
    """The estimate of the plan that is kept; ``hand`` is what of it is at hand, where that is known
    already. Raises PlanError without a plan.
    """
    plan, book = kept_plan(work), work.book
    road = road_of(book, plan, usual_plan(book, plan.scope, plan.kept))
    every = roads(book, plan.scope, plan.kept)
    return estimate(
        book, plan, road, every, rates_of(work.session), (hand or at_hand_for(work, plan)).starts_on
    )


def agreed_of(work: Work) -> Agreed | None:
    """The owner's go-ahead that was written down last and not taken back."""
    return agreed_of_each(work.session, [work.job_id]).get(work.job_id)


def go_aheads(work: Work) -> Standing:
    """Both go-aheads as they stand for the plan that is kept."""
    plan, agreed = plan_of(work.job), agreed_of(work)
    price = price_of(plan, rates_of(work.session)) if plan else 0.0
    why = agreed.why_not(plan, price) if agreed and plan else ""
    return Standing(agreed, why, bool(plan and any(s.no_return for s in plan.steps)), go_by(work))


def agree(work: Work, owner: str, how: Agreeing, on: date, most: float) -> JournalEntry:
    """Write the owner's go-ahead down for the plan that is kept. Raises PlanError, and
    GoAheadMissing for one that does not reach the estimate.
    """
    plan = kept_plan(work)
    if work.job.bench_started:
        raise PlanError("The bench has started already.", advice="Go on at the bench.")
    if on > today(work.session):
        raise GoAheadMissing(
            "Nobody has said yes yet on a day that is still to come.",
            read=str(on),
            expected="the day on which the owner said yes",
            field="on",
        )
    price = price_of(plan, rates_of(work.session))
    agreed = Agreed(
        owner=owner.strip(),
        how=how,
        on=on,
        price=price,
        most=most,
        scope=plan.scope,
        kept=plan.kept,
        ways=plan.ways,
        kit=plan.kit,
    )
    agreed_or_refused(agreed, plan, price)
    return work.record(
        Change.AGREED,
        f"{agreed.words} Estimate: {price:.2f}.",
        agreed.model_dump(mode="json"),
    )


def give_go(work: Work) -> JournalEntry:
    """A lead's go past the plan's points of no return. Raises PlanError where there is none."""
    plan = kept_plan(work)
    points = [s for s in plan.steps if s.no_return]
    if not points:
        raise PlanError("This plan has no point of no return.", advice="Nobody need give a go.")
    words = (
        f"{counted(len(points), 'point')} of no return passed as right: first {points[0].title}."
    )
    data = {"scope": plan.scope, "kept": plan.kept, "ways": plan.ways}
    return work.record(Change.GO, words, data)


def must_be_agreed(work: Work) -> None:
    """Raises GoAheadMissing where the owner has not said yes to the plan that is kept."""
    plan = kept_plan(work)
    agreed_or_refused(agreed_of(work), plan, price_of(plan, rates_of(work.session)))


def must_have_go(work: Work, step: PlanStep) -> None:
    """Raises StepError at a point of no return that no lead has passed."""
    if not step.no_return:
        return
    if go_by(work) is None:
        raise StepError(
            "This is a point of no return, and no lead has given the go.",
            code=GoAheadMissing.code,
            read=f"{step.title}: {step.no_return}",
            expected="a lead's go",
            advice="Leave the step as it is, show a lead the engine, and have the go given here.",
        )


def go_by(work: Work) -> str | None:
    """Who gave the go for the plan as it is; None while nobody did."""
    found = standing_entries(work.session, [work.job_id], Change.GO)
    entry = found.get((work.job_id, Change.GO))
    plan = plan_of(work.job)
    if entry is None or plan is None:
        return None
    is_same = all(getattr(plan, key) == entry.data.get(key) for key in ("scope", "kept", "ways"))
    return entry.by if is_same else None
