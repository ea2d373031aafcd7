"""What the bench has shown already: turned by hand, marks read after turning, everything counted
out. Proof asks only for what no step has shown.
"""

from collections.abc import Sequence
from datetime import datetime

from pydantic import computed_field

from flaneur.core.bench.answers import Seen
from flaneur.core.bench.meaning import HARD_STOP
from flaneur.core.bench.tally import Tally
from flaneur.core.book.schema import EngineBook
from flaneur.core.book.tasks import Operation
from flaneur.core.book.ways import on_ways
from flaneur.core.drive.turns import coming_back
from flaneur.core.engine.compiled import compiled
from flaneur.core.keys import CHECK_READ, MARK_READ, StepRef, Verb
from flaneur.core.measuring.marks import shaft_of, timing_marks
from flaneur.core.plan.plan import Plan
from flaneur.core.plan.steps import Asked, PlanStep
from flaneur.core.proof.hands import HandTurns, ProofModel
from flaneur.core.proof.retest import open_retest
from flaneur.core.wording import counted, within

# The question of the templates that turn by hand.
TURNING = "turning"
# What asked for all marks of a step together, in plans made before each had a question of its own.
ALL_MARKS = "marks"


class MissedMark(ProofModel):
    """A mark that was answered to miss; ``is_timing``: by how much it does tells of a chain."""

    mark: str
    name: str
    is_timing: bool


class Turned(ProofModel):
    """A step in which the crank was turned by hand: how many turns, by whom, what was seen;
    ``not_so`` are the questions that were not answered as the book has it.
    """

    step: str
    title: str
    turns: int
    by: str
    is_smooth: bool
    missed: list[MissedMark]
    not_so: list[str]

    @computed_field
    @property
    def is_met(self) -> bool:
        """Whether all of it was as it should be, but how it turned."""
        return not self.not_so

    @computed_field
    @property
    def words(self) -> str:
        """How it turned, and which marks missed."""
        missed = ", ".join(within(m.name) for m in self.missed)
        unmet = f"missed: {missed}" if missed else f"not so: {' '.join(self.not_so)}"
        turned = "smooth" if self.is_smooth else "a hard stop"
        return f"{turned}, {'all met' if self.is_met else unmet}"


class ComesBack(ProofModel):
    """After how many crank turns a chain's coloured links lie on their marks again."""

    chain: str
    name: str
    turns: int
    words: str


def is_hard_stop(asked: Asked, seen: Seen) -> bool:
    """Whether an answer says that the crank came to a hard stop."""
    return asked.code == TURNING and seen.code == HARD_STOP


def turning_by_hand(book: EngineBook, plan: Plan | None) -> list[tuple[PlanStep, int]]:
    """Steps of a plan that turn the crank by hand to prove it, with how many whole turns."""
    if plan is None:
        return []
    there = on_ways(book, tuple(plan.ways))
    return [
        (step, there.operations[key].effects.full_turns)
        for step in plan.steps
        for verb, key in (StepRef.of(step.ref),)
        if verb is Verb.OPERATION
        and key in there.operations
        and any(a.code == TURNING for a in step.asked)
    ]


def turned_at_bench(book: EngineBook, plan: Plan | None, tally: Tally) -> list[Turned]:
    """The closed of those steps, in the plan's order."""
    found: list[Turned] = []
    there = on_ways(book, tuple(plan.ways)) if plan else book
    for step, turns in turning_by_hand(book, plan):
        record = tally.done.get(step.ref)
        if record is None or len(record.seen) != len(step.asked):
            continue
        said = list(zip(step.asked, record.seen, strict=True))
        found.append(
            Turned(
                step=step.ref,
                title=step.title,
                turns=turns,
                by=record.by,
                is_smooth=not any(is_hard_stop(a, s) for a, s in said),
                missed=_missed(book, there.operations[StepRef.of(step.ref).key], said),
                not_so=[a.ask for a, s in said if a.code != TURNING and not s.ok],
            )
        )
    return found


def _missed(
    book: EngineBook, operation: Operation, said: Sequence[tuple[Asked, Seen]]
) -> list[MissedMark]:
    """Marks that missed. Where several were asked for together, or a check position missed, those
    it can be: the timing marks among them.
    """
    codes = {a.code for a, s in said if not s.ok}
    if not codes:
        return []
    timing, marks = timing_marks(book), operation.effects.reads
    missed = {m for m in marks if f"{MARK_READ}{m}" in codes}
    if ALL_MARKS in codes:
        missed |= timing.keys() & set(marks) or set(marks)
    for place, position in enumerate(book.check_positions, start=1):
        if f"{CHECK_READ}{place}" in codes:
            missed |= {m for m, mark in timing.items() if shaft_of(book, mark) in position.cams}
    return [
        MissedMark(mark=key, name=mark.name, is_timing=key in timing)
        for key, mark in book.marks.items()
        if key in missed
    ]


def missed_at_bench(book: EngineBook, plan: Plan | None, tally: Tally) -> dict[str, str]:
    """Marks that were answered to miss where a step was closed all the same, with their names."""
    return {m.mark: m.name for t in turned_at_bench(book, plan, tally) for m in t.missed}


def with_bench(book: EngineBook, plan: Plan | None, tally: Tally, hands: HandTurns) -> HandTurns:
    """What is known of turning by hand: what was written of it at the end, and what the bench has
    shown where nothing was. Once a hard stop was felt only what was turned since then counts.
    """
    steps = turning_by_hand(book, plan)
    turned = turned_at_bench(book, plan, tally)
    if not steps or len(turned) < len(steps) or hands.is_stopped:
        return hands
    felt = [datetime.fromisoformat(stop.at) for stop in hands.stops]
    if felt and min(tally.done[t.step].at for t in turned) < max(felt):
        return hands  # turned before the stop: not since
    is_met = all(t.is_met for t in turned)
    shown = dict.fromkeys(book.proof.mark_checks, is_met)
    retest = open_retest(plan, tally)
    is_through = plan is not None and len(tally.done) + bool(retest) >= len(plan.steps)
    out = counted_out(tally) if is_through else None
    return hands.model_copy(
        update={
            "turns": sum(t.turns for t in turned) if hands.turns is None else hands.turns,
            "hard_stop": not all(t.is_smooth for t in turned)
            if hands.hard_stop is None
            else hands.hard_stop,
            "marks": {**shown, **hands.marks},
            "pins_out": out if hands.pins_out is None else hands.pins_out,
        }
    )


def proven_at(book: EngineBook, plan: Plan | None, tally: Tally) -> datetime | None:
    """When the crank was turned by hand last at the bench; None where no step turned it."""
    at = [tally.done[t.step].at for t in turned_at_bench(book, plan, tally)]
    return max(at, default=None)


def counted_out(tally: Tally) -> int:
    """Pieces that steps counted out again, of all that others put in."""
    return sum(-s.pins for r in tally.done.values() for s in r.seen if s.pins < 0)


def comes_back(book: EngineBook, plan: Plan | None) -> list[ComesBack]:
    """Of every timed chain of a job, when its coloured links agree again: not after the turns that
    are made by hand, as a rule.
    """
    train, turns = compiled(book).train, coming_back(compiled(book).train)
    off = {book.components[c].part for c in plan.access} if plan else set[str | None]()
    return [
        ComesBack(
            chain=chain,
            name=book.chains[chain].name,
            turns=on,
            words=_words(on, book.proof.hand_turns),
        )
        for chain, on in turns.chains.items()
        if train.is_timed(chain) and (not off or chain in off)
    ]


def _words(on: int, made: int) -> str:
    again = f"Your coloured links agree again after {counted(on, 'crank turn')}"
    return f"{again}; they will not after {made}." if on > made else f"{again}."
