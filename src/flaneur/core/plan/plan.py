"""A plan: parts, tools, time and steps for a scope of renewal."""

import math
from collections import Counter
from collections.abc import Iterable, Mapping
from functools import lru_cache

from pydantic import BaseModel, ConfigDict, computed_field

from flaneur.core.book.revised import with_revised
from flaneur.core.book.schema import EngineBook
from flaneur.core.book.ways import check_ways, on_ways
from flaneur.core.gauss import Z90
from flaneur.core.plan.access import closed_set, renewed_set
from flaneur.core.plan.cautions import Cautions
from flaneur.core.plan.making import step_of
from flaneur.core.plan.order import steps_of
from flaneur.core.plan.ordering import Ordered, ordered
from flaneur.core.plan.parts import Part, parts_of
from flaneur.core.plan.position import StepState
from flaneur.core.plan.reasons import Reasons
from flaneur.core.plan.returns import no_returns
from flaneur.core.plan.shorter import Changes
from flaneur.core.plan.steps import PlanStep
from flaneur.core.plan.timeline import Stretch
from flaneur.core.plan.tour import tour_of, tour_words
from flaneur.core.plan.walk import walker
from flaneur.core.plan.wording import state_words
from flaneur.core.wording import within

PLANS_KEPT = 256


class Plan(BaseModel):
    """Steps in order, with what comes off (``access``), parts, tools, working time and its spread
    in minutes. ``kept``: what of the scope goes on again as it came off, set right at its marks.

    ``ways`` it goes on beside the book's usual one; ``kit`` its parts are bought in, none: singly;
    ``elapsed_minutes`` until the last wait is over; ``helper``: stretches for two; ``changes`` of
    tool, place and helper along the order, and ``usual_changes`` in the order of the book;
    ``is_shortest``: every lawful order was searched.
    """

    model_config = ConfigDict(frozen=True)

    engine: str
    scope: list[str]
    kept: list[str] = []
    ways: list[str] = []
    kit: str = ""
    access: list[str]
    renewed: list[str]
    steps: list[PlanStep]
    parts: list[Part]
    tools: list[str]
    minutes: float
    spread_minutes: float
    waiting_minutes: float = 0.0
    elapsed_minutes: float = 0.0
    two_person_steps: int
    helper: list[Stretch] = []
    changes: Changes = Changes()
    usual_changes: Changes = Changes()
    is_shortest: bool = False
    supplies: list[str] = []
    price: float
    notice: str

    @computed_field
    @property
    def low_minutes(self) -> float:
        """Lower end of the 90 % interval of the working time."""
        return max(0.0, self.minutes - Z90 * self.spread_minutes)

    @computed_field
    @property
    def high_minutes(self) -> float:
        """Upper end of the 90 % interval of the working time."""
        return self.minutes + Z90 * self.spread_minutes


def make_plan(
    book: EngineBook,
    scope: Iterable[str],
    kept: Iterable[str] = (),
    ways: Iterable[str] = (),
    is_quick: bool = False,
) -> Plan:
    """Plan a renewal on these ways; what is ``kept`` of the scope is set right and not renewed.
    ``is_quick``: in the book's own order, without searching for the shortest. Raises PlanError when
    the book gives no lawful order or does not know a part or a way.
    """
    asked = list(dict.fromkeys(scope))
    wanted = [k for k in book.components if k in asked] + [
        k for k in asked if k not in book.components
    ]
    again = [k for k in wanted if k in set(kept)]
    return planned(book, tuple(wanted), tuple(again), tuple(sorted(set(ways))), is_quick)


@lru_cache(maxsize=PLANS_KEPT)
def planned(
    book: EngineBook,
    scope: tuple[str, ...],
    kept: tuple[str, ...],
    chosen: tuple[str, ...],
    is_quick: bool,
) -> Plan:
    """What ``make_plan`` makes; the same question is worked out once."""
    check_ways(book, chosen, set(scope))
    there = on_ways(book, chosen)
    wanted, again = list(scope), list(kept)
    access = closed_set(there, wanted)
    order = ordered(there, wanted, again, is_quick)
    renewed = renewed_set(there, wanted, again)
    fitted = with_revised(there, renewed)
    locked = {part for way in chosen for part in book.ways[way].locks_out}
    turns = no_returns(there, order.refs, locked)
    steps = _steps(there, fitted, Reasons(there, wanted, access, renewed), order, turns)
    parts = parts_of(fitted, wanted, renewed, access)
    return Plan(
        engine=book.name,
        scope=wanted,
        kept=again,
        ways=list(chosen),
        access=access,
        renewed=renewed,
        steps=steps,
        parts=parts,
        tools=sorted({t for s in steps for t in s.tools}),
        minutes=sum(s.minutes for s in steps),
        spread_minutes=math.sqrt(sum(s.spread_minutes**2 for s in steps)),
        waiting_minutes=sum(s.waiting for s in steps),
        elapsed_minutes=order.elapsed_minutes,
        two_person_steps=sum(s.two_person for s in steps),
        helper=order.helper,
        changes=order.changes,
        usual_changes=order.usual_changes,
        is_shortest=order.is_shortest,
        supplies=_supplies(steps),
        price=sum(p.price * p.count for p in parts),
        notice=book.notice,
    )


def _steps(
    book: EngineBook,
    fitted: EngineBook,
    reasons: Reasons,
    order: Ordered,
    turns: Mapping[str, str],
) -> list[PlanStep]:
    """Every step of an order; ``fitted`` is the book with what is renewed as it is made now."""
    cautions, states = Cautions(book), _states(book, order)
    stood = {walked.ref: walked.before.crank_deg for walked in order.walked}
    steps: list[PlanStep] = []
    for ref in order.refs:
        state = states.get(ref)
        said = {
            "why": reasons.of(ref),
            "state": state,
            "cautions": cautions.at(ref, state),
            "begins": order.begins[ref],
            "place": order.places[ref],
            "waits_for": order.waits_for[ref],
            "held_up": order.held_up[ref],
            "no_return": turns.get(ref, ""),
        }
        step, tour = step_of(fitted, ref), tour_of(book, ref, stood.get(ref))
        if tour is not None:
            said |= {"tour": tour, "text": f"{step.text} {tour_words(tour)}"}
        steps.append(step.model_copy(update=said))
    return steps


def _states(book: EngineBook, order: Ordered) -> dict[str, StepState]:
    """The engine after each step, where the book says what its steps do."""
    states = {walked.ref: walker(book).state(walked.after) for walked in order.walked}
    return {
        ref: state.model_copy(update={"words": state_words(book, state)})
        for ref, state in states.items()
    }


def effort(
    book: EngineBook, scope: Iterable[str], kept: Iterable[str] = ()
) -> tuple[float, float, float]:
    """Working and waiting minutes of a scope, and the price of its parts, without putting its steps
    in order. Raises PlanError for a part the book does not have.
    """
    wanted, again = list(scope), list(kept)
    renewed = renewed_set(book, wanted, again)
    there = with_revised(book, renewed)
    steps = [step_of(there, ref) for ref in steps_of(book, wanted, again)]
    parts = parts_of(there, wanted, renewed, closed_set(book, wanted))
    price = sum(p.price * p.count for p in parts)
    return sum(s.minutes for s in steps), sum(s.waiting for s in steps), price


def _supplies(steps: list[PlanStep]) -> list[str]:
    """What the steps use up, each with its number where it is more than one."""
    used = Counter(supply for step in steps for supply in step.supplies)
    return [f"{n} × {within(name)}" if n > 1 else name for name, n in used.items()]
