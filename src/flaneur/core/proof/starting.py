"""What stands between an engine that was opened and its starter: it is turned by hand first, to no
hard stop, with nothing left in it.
"""

from collections.abc import Sequence

from flaneur.core.bench.tally import Tally
from flaneur.core.book.schema import EngineBook
from flaneur.core.errors import ErrorCode, ReleaseError
from flaneur.core.plan.plan import Plan
from flaneur.core.plan.steps import PlanStep
from flaneur.core.proof.check import About, Check
from flaneur.core.proof.hands import HandTurns, ProofModel
from flaneur.core.proof.release import checks_of
from flaneur.core.proof.shown import counted_out, missed_at_bench, with_bench
from flaneur.core.wording import counted

# Steps in which the engine runs, or is cranked by its starter.
RUNNING = frozenset({"prime", "relearn", "ignition_timing", "cold_retest"})
SHOWN_BY_HAND = (About.STOP, About.TURNS, About.MARKS)
WAITED_FOR = (About.STEPS, *SHOWN_BY_HAND, About.PINS)


class InTheWay(ProofModel):
    """Something to do before the engine may be started. ``step`` of the bench is where it is done,
    None where no one step does it; ``way`` is what stands on the press that leads there.
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
        *_still_inside(bench, hands, checks),
    ]


def start_of(
    book: EngineBook, plan: Plan | None, bench: Tally, typed: HandTurns | None = None
) -> list[InTheWay]:
    """What stands in the way after such a bench, with what was ``typed`` at Proof and nothing
    measured since.
    """
    hands = with_bench(book, plan, bench, typed or HandTurns())
    missed = missed_at_bench(book, plan, bench)
    return before_start(plan, bench, hands, checks_of(book, plan, bench, hands, [], [], missed))


def shown_before(checks: Sequence[Check]) -> list[str]:
    """What is shown already of all that a start waits for, in words."""
    return [f"{c.name}: {c.words}" for c in checks if c.about in WAITED_FOR and c.state == "met"]


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


def _still_inside(bench: Tally, hands: HandTurns, checks: Sequence[Check]) -> list[InTheWay]:
    """What was found missing when it was counted out, and before it was, what no step took out."""
    wrong = [c for c in checks if c.about is About.PINS and c.state == "failed"]
    found = [InTheWay(words=c.words, step=c.step, way=c.way) for c in wrong]
    out = counted_out(bench)
    if hands.pins_out is None and out != bench.pins_in:
        words = f"{bench.pins_in} in, {out} out: no starter while any tool or pin is fitted."
        found.append(InTheWay(words=words))
    return found
