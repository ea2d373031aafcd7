"""Handing a job over in the middle of it: how the engine stands, whether it may be left so, and
what whoever takes it over must know.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import timedelta

from flaneur.core.bench.inside import list_words
from flaneur.core.bench.tally import Tally
from flaneur.core.bench.within import Event, EventKind, bolts_done, bolts_of
from flaneur.core.errors import StepError
from flaneur.core.plan.plan import Plan
from flaneur.core.plan.position import CamState, StepState
from flaneur.core.plan.steps import Asked, PlanStep
from flaneur.core.wording import counted


@dataclass(frozen=True)
class Leaving:
    """How an engine stands between two hands: ``stands`` says how, ``against`` why it must not be
    left so (empty: it may), ``mind`` what to know while it stands.
    """

    stands: tuple[str, ...]
    against: tuple[str, ...]
    mind: tuple[str, ...]


def leaving(plan: Plan | None, tally: Tally, events: Sequence[Event], is_stopped: bool) -> Leaving:
    """How a job on the bench may be left. ``events``: what happened within its open steps."""
    steps = plan.steps if plan else []
    closed = [s for s in steps if s.ref in tally.done]
    upcoming = next((s for s in steps if s.ref not in tally.done), None)
    stands = [f"{len(closed)} of {counted(len(steps), 'step')} closed."]
    against, mind = list[str](), list[str]()
    if is_stopped:
        mind.append("A hard stop was felt and its cause is not written: nobody turns the crank.")
    if upcoming is None:
        stands.append("Every step is closed; next is the proof.")
    else:
        number = steps.index(upcoming) + 1
        stands.append(f"Next is step {number}: {upcoming.title}.")
        within = [e for e in events if e.step == upcoming.ref]
        half, between = _bolts(upcoming, within)
        against += half
        mind += [*between, *_timers(upcoming, within)]
    if closed:
        before = steps[: steps.index(upcoming)] if upcoming else steps
        last = before[-1] if before else None
        if last is None or last.state is None:
            against.append(
                "The book does not say how the engine stands here: look at it, and say how it does."
            )
        else:
            stands += last.state.words
            against += _against(last.state)
            mind += _mind(last.state)
    if tally.laid:
        mind.append(f"Laid in by hand: {list_words(tally.laid)}. Nothing turns before it is out.")
    return Leaving(tuple(stands), tuple(against), tuple(mind))


def _bolts(step: PlanStep, events: Sequence[Event]) -> tuple[list[str], list[str]]:
    """Why bolts must not be left as they are, and what to know of those that may."""
    half, reached = list[str](), dict[str | None, tuple[Asked, bool]]()
    for place, asked in enumerate(step.asked):
        if asked.stage is None:
            continue
        count, done = bolts_of(step, asked.fastener), bolts_done(events, place)
        if 0 < done < count:
            half.append(
                f"{asked.ask}: {done} of {count} bolts. Finish the stage first: what they hold "
                "lies askew."
            )
        elif done:
            reached[asked.fastener] = (asked, True)
        elif asked.fastener in reached:
            reached[asked.fastener] = (reached[asked.fastener][0], False)
    between = [
        f"Tightened as far as {a.ask[0].lower()}{a.ask[1:]} only."
        for a, whole in reached.values()
        if not whole
    ]
    return half, between


def _timers(step: PlanStep, events: Sequence[Event]) -> list[str]:
    begun = next((e.at for e in events if e.kind is EventKind.TIMER), None)
    if begun is None or not step.waiting:
        return []
    over = begun + timedelta(minutes=step.waiting)
    return [f"{step.title} waits until {over:%Y-%m-%d %H:%M %Z}; the timer calls."]


def _against(state: StepState) -> list[str]:
    if CamState.UNKNOWN in state.cams.values():
        return ["A cam is loose and nobody knows where it goes: hold it first."]
    return []


def _mind(state: StepState) -> list[str]:
    found = list[str]()
    if CamState.LOADED in state.cams.values():
        found.append("A loose cam stands against its springs: keep hands and tools off it.")
    if state.held_by:
        found.append("Leave the holders on, whatever comes next.")
    if state.crank_arc is None:
        found.append("How far the crank may turn is unknown: no bar stays on it.")
    elif state.slack or state.crank_arc == [0, 0]:
        found.append("No bar stays on the crank, and nobody turns it.")
    return found


def note_fits(note: str, against: Sequence[str]) -> str:
    """The note of whoever hands over. Raises StepError where the engine must not be left as it
    stands and nothing is said of it.
    """
    said = note.strip()
    if against and len(said) < 10:
        raise StepError(
            "The engine must not be left as it stands.",
            read=" ".join(against),
            expected="it mended first, or a note that says why it cannot be",
            advice="Mend it, or write at least ten letters for whoever takes over.",
        )
    return said
