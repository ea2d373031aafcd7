"""What stands between an engine that was opened and its starter: it is turned by hand first, to no
hard stop, with nothing left in it.
"""

from collections.abc import Sequence
from datetime import UTC, datetime

from flaneur.core.bench.answers import check_step
from flaneur.core.bench.closing import step_of
from flaneur.core.bench.inside import list_words
from flaneur.core.bench.tally import Answered, Tally, tally
from flaneur.core.book.schema import EngineBook
from flaneur.core.errors import ErrorCode, ReleaseError
from flaneur.core.plan.plan import Plan
from flaneur.core.plan.steps import PlanStep
from flaneur.core.proof.hands import HandTurns, ProofModel
from flaneur.core.proof.release import About, Check, checks_of
from flaneur.core.proof.shown import counted_out, missed_at_bench, with_bench
from flaneur.core.wording import counted

# Steps in which the engine runs, or is cranked by its starter.
RUNNING = frozenset({"prime", "relearn", "ignition_timing", "cold_retest"})
SHOWN_BY_HAND = (About.STOP, About.TURNS, About.MARKS)


class InTheWay(ProofModel):
    """Something to do before the engine may be started. ``step`` of the bench is where it is done,
    ``way`` what stands on the press that leads there; None: Proof asks for it.
    """

    words: str
    step: str | None = None
    way: str = ""


def before_start(
    plan: Plan | None, bench: Tally, hands: HandTurns, checks: Sequence[Check]
) -> list[InTheWay]:
    """All of it, in the order of the work; empty where the engine may be started. While nobody
    worked on it yet it stands as it came. ``checks`` are its conditions of release.
    """
    if not bench.records and not hands.stops:
        return []
    steps = _open_steps(plan, bench)
    # What is not known yet will be shown by those steps; what is wrong is said at once.
    wanting = ("failed",) if steps else ("failed", "unknown")
    return [
        *steps,
        *(
            InTheWay(words=f"{c.name}: {c.words}", step=c.step, way=c.way)
            for c in checks
            if c.about in SHOWN_BY_HAND and c.state in wanting and not c.overridable
        ),
        *_still_inside(bench, hands),
    ]


class Told(ProofModel):
    """A step as somebody answered it: what is asked of it, in order, and why it was left as it is
    where not all of that was right.
    """

    step: str
    answers: list[str]
    departure: str = ""


def told(plan: Plan | None, lines: Sequence[Told]) -> Tally:
    """The bench by what was told of it, in the order it was done. Raises StepError."""
    records = list[Answered]()
    for number, line in enumerate(lines):
        seen = tuple(check_step(step_of(plan, line.step), line.answers))
        is_right, at = all(s.ok for s in seen), datetime.fromtimestamp(number, UTC)
        departure = line.departure or None
        records.append(Answered(number, line.step, seen, is_right, departure, "", at, False))
    return tally(records)


def start_of(book: EngineBook, plan: Plan | None, bench: Tally) -> list[InTheWay]:
    """What stands in the way after such a bench, where nothing more was written at Proof."""
    hands = with_bench(book, plan, bench, HandTurns())
    missed = missed_at_bench(book, plan, bench)
    return before_start(plan, bench, hands, checks_of(book, plan, bench, hands, [], [], missed))


def must_be_startable(in_the_way: Sequence[InTheWay]) -> None:
    """Raise ReleaseError while anything stands in the way of a start."""
    if not in_the_way:
        return
    raise ReleaseError(
        "This engine may not be started yet.",
        read=" ".join(found.words for found in in_the_way),
        expected="every step before the first start closed, the crank turned by hand to no hard "
        "stop, and everything out of it that was put in",
        advice="The starter forces what a hand feels: valves bend. Do what is missing first.",
        code=ErrorCode.START_REFUSED,
    )


def _open_steps(plan: Plan | None, bench: Tally) -> list[InTheWay]:
    """Steps before the first in which it runs that are not closed."""
    steps = plan.steps if plan else []
    first = next((i for i, s in enumerate(steps) if s.template in RUNNING), len(steps))
    left: list[PlanStep] = [s for s in steps[:first] if s.ref not in bench.done]
    if not left:
        return []
    number = steps.index(left[0]) + 1
    are = f"{counted(len(left), 'step')} before the first start {'is' if len(left) == 1 else 'are'}"
    way = f"On to step {number}: {left[0].title}"
    return [InTheWay(words=f"{are} open.", step=left[0].ref, way=way)]


def _still_inside(bench: Tally, hands: HandTurns) -> list[InTheWay]:
    """Pins, wedges and holders that no step counted out, and what was laid in by hand."""
    out = counted_out(bench) if hands.pins_out is None else hands.pins_out
    found = list[InTheWay]()
    if out != bench.pins_in:
        words = f"{bench.pins_in} in, {out} out: no starter while any tool or pin is fitted."
        found.append(InTheWay(words=words))
    if bench.laid:
        found.append(InTheWay(words=f"Still in the engine: {list_words(bench.laid)}."))
    return found
