"""A hard stop at a known crank angle: which valves can meet there, and what set wrong would do it,
with odds from the geometry and from what the bench recorded.

Every tooth by which a chain can be set wrong is turned on from where the turning began until a
valve first meets something; how near that comes to the angle felt, times how likely that tooth was
before (laid in this job, counted and found right, once found wrong), gives its odds. Something in
the way, which may stop the crank anywhere, stands against all of them.
"""

import math
from collections.abc import Iterator

import numpy as np
from numpy.typing import NDArray

from flaneur.core.bench.tally import Tally
from flaneur.core.book.schema import EngineBook
from flaneur.core.clearance.contact import CYCLE_DEG, Contacts
from flaneur.core.clearance.facing import pairs
from flaneur.core.drive.train import DriveTrain
from flaneur.core.engine.compiled import compiled
from flaneur.core.keys import Contact
from flaneur.core.plan.plan import Plan
from flaneur.core.plan.steps import PlanStep
from flaneur.core.proof.hands import HandTurns, ProofModel
from flaneur.core.wording import joined, teeth_words

TEETH = (-3, -2, -1, 1, 2, 3)
# How likely a tooth, two, three off are beside each other, before anything is known.
SIZES = {1: 1.0, 2: 0.25, 3: 0.08}
TOOTH, IN_THE_WAY = 0.02, 0.02
UNTOUCHED, FOUND_RIGHT, FOUND_WRONG, LEFT_WRONG = 0.03, 0.3, 4.0, 30.0
# An angle read off a disc at the pulley, parts that give, a cam within the book's tolerance.
FELT_DEG = 6.0
SHOWN_ODDS = 0.01
# A cam half a turn out, as where its mark was met on the wrong stroke; beside one tooth.
HALF_A_TURN, HALF_TURN_OUT = 360.0, 0.05


class StopCause(ProofModel):
    """What would stop the crank there. ``contact`` and ``teeth`` (late positive) are a chain set
    wrong, without them something is in the way; ``meets_at_deg`` is where it would stop; ``step``
    the plan's step behind it.
    """

    contact: str | None
    teeth: int
    words: str
    meets_at_deg: float | None
    odds: float
    step: str | None = None


class StopView(ProofModel):
    """A hard stop felt at ``at_deg`` of the crank, turned there from ``from_deg``. ``valves`` can
    meet something there; ``causes`` the likeliest first; ``unknown`` says why nothing is known.
    """

    at_deg: float
    from_deg: float
    valves: list[str]
    causes: list[StopCause]
    unknown: str = ""


def first_meeting(
    contacts: Contacts, late_deg: dict[str, float], from_deg: float
) -> tuple[float, str] | None:
    """Where a valve first meets something, the crank turned forwards from ``from_deg`` with cams
    ``late_deg`` (crank degrees): the angle in the 720° cycle and what meets; None if nothing does.
    """
    turned = np.arange(0.0, CYCLE_DEG, 1.0)
    crank = from_deg + turned
    found = list[tuple[float, str]]()
    for row in contacts.rows:
        late = late_deg.get(row.group.cam, 0.0)
        if late:
            touches = row.gap_mm(crank) <= row.reach_mm(crank - late)
            found += _first(turned, touches, f"{row.name} meets its piston")
    for pair in pairs(contacts):
        lates = [late_deg.get(row.group.cam, 0.0) for row in (pair.intake, pair.exhaust)]
        if pair.is_known and lates[0] != lates[1]:
            at = [(crank - late, crank - late) for late in lates]
            found += _first(turned, pair.over_mm(at[0], at[1]) <= 0, f"{pair.name} meet each other")
    if not found:
        return None
    on, words = min(found)
    return (from_deg + on) % CYCLE_DEG, words


def _first(
    turned: NDArray[np.float64], touches: NDArray[np.bool_], words: str
) -> list[tuple[float, str]]:
    return [(float(turned[int(np.argmax(touches))]), words)] if touches.any() else []


def stop_view(
    book: EngineBook,
    plan: Plan | None,
    tally: Tally,
    at_deg: float,
    from_deg: float | None = None,
) -> StopView:
    """What a hard stop at ``at_deg`` can be, turned there forwards from ``from_deg`` (the service
    position where it is not said); both degrees of the 720° cycle.
    """
    train = compiled(book).train
    from_deg = book.service_position.crank_deg if from_deg is None else from_deg
    if book.clearance is None:
        return StopView(
            at_deg=at_deg,
            from_deg=from_deg,
            valves=[],
            causes=[],
            unknown="The book has no clearance data: take it that any valve may be the one.",
        )
    contacts = Contacts(book)
    valves = [
        f"{joined(sorted(kinds))} of cylinder {cylinder}"
        for cylinder, kinds in contacts.at_risk(at_deg).items()
    ]
    causes = list(_causes(book, contacts, train, plan, tally, at_deg, from_deg))
    whole = sum(cause.odds for cause in causes)
    shown = [c.model_copy(update={"odds": round(c.odds / whole, 4)}) for c in causes]
    shown.sort(key=lambda c: -c.odds)
    return StopView(
        at_deg=at_deg,
        from_deg=from_deg,
        valves=valves,
        causes=[c for c in shown if c.odds >= SHOWN_ODDS],
        unknown=""
        if book.clearance.interference
        else "By the book no valve reaches a piston here: something else is in the way.",
    )


def _causes(
    book: EngineBook,
    contacts: Contacts,
    train: DriveTrain,
    plan: Plan | None,
    tally: Tally,
    at_deg: float,
    from_deg: float,
) -> Iterator[StopCause]:
    on = (at_deg - from_deg) % CYCLE_DEG
    known = dict[tuple[float, ...], tuple[float, str] | None]()
    for contact in train.contacts():
        for teeth in TEETH:
            late = {cam: deg * teeth for cam, deg in train.jump_deg(contact).items()}
            key = tuple(late.values())
            if not any(key):
                continue
            if key not in known:
                known[key] = first_meeting(contacts, late, from_deg)
            meeting = known[key]
            if meeting is None:
                continue
            meets_at, what = meeting
            off = on - (meets_at - from_deg) % CYCLE_DEG
            chain, sprocket = Contact.of(contact)
            yield StopCause(
                contact=contact,
                teeth=teeth,
                words=f"{book.chains[chain].name} {teeth_words(teeth)} at the "
                f"{book.sprockets[sprocket].name}: {what} at {meets_at:.0f}°.",
                meets_at_deg=meets_at,
                odds=before(contact, teeth, plan, tally) * _near(off),
                step=_step_of(plan, book, contact),
            )
    for cam in book.cams:
        meeting = first_meeting(contacts, {cam: HALF_A_TURN}, from_deg)
        if meeting:
            meets_at, what = meeting
            off = on - (meets_at - from_deg) % CYCLE_DEG
            yield StopCause(
                contact=None,
                teeth=0,
                words=f"{book.shafts[cam].name} half a turn out: {what} at {meets_at:.0f}°.",
                meets_at_deg=meets_at,
                odds=TOOTH * HALF_TURN_OUT * _near(off),
            )
    yield StopCause(
        contact=None,
        teeth=0,
        words="Something in the way: a tool, a pin, a plug or a bolt left in, a chain beside its "
        "guide, something in a cylinder.",
        meets_at_deg=None,
        odds=IN_THE_WAY * (1 + 4 * bool(tally.laid)) / CYCLE_DEG,
    )


def _near(off_deg: float) -> float:
    """Density of an angle felt so far from where it would stop, per degree."""
    return math.exp(-0.5 * (off_deg / FELT_DEG) ** 2) / (FELT_DEG * math.sqrt(2 * math.pi))


def before(contact: str, teeth: int, plan: Plan | None, tally: Tally) -> float:
    """How likely a chain is set so many teeth off there before the stop's angle is looked at, from
    what the bench recorded of that contact.
    """
    odds = TOOTH * SIZES[abs(teeth)]
    if plan is None or not any(a.contact == contact for s in plan.steps for a in s.asked):
        odds *= UNTOUCHED
    seen = [s for r in tally.done.values() for s in r.seen if s.contact == contact]
    if seen and seen[-1].teeth == 0:
        odds *= FOUND_RIGHT
    counting = {r.id for r in tally.done.values()}
    earlier = [s for r in tally.records if r.id not in counting for s in r.seen]
    if any(s.contact == contact and s.teeth == teeth for s in earlier):
        odds *= FOUND_WRONG
    if tally.tooth_errors.get(contact) == teeth:
        odds *= LEFT_WRONG
    return odds


def _step_of(plan: Plan | None, book: EngineBook, contact: str) -> str | None:
    """The step in which that contact is set: the first that asks for it, else the one that lays its
    chain.
    """
    chain = Contact.of(contact).chain

    def lays(step: PlanStep) -> bool:
        component = book.components.get(step.about or "")
        return step.verb == "fit" and component is not None and component.part == chain

    steps = plan.steps if plan else []
    asking = (s.ref for s in steps if any(a.contact == contact for a in s.asked))
    return next(asking, None) or next((s.ref for s in steps if lays(s)), None)


def standing_view(
    book: EngineBook, plan: Plan | None, tally: Tally, hands: HandTurns
) -> StopView | None:
    """What the hard stop that stands can be; None where none stands, or nobody said where."""
    last = hands.stops[-1] if hands.stops and hands.is_stopped else None
    if last is None or last.at_deg is None:
        return None
    return stop_view(book, plan, tally, last.at_deg)
