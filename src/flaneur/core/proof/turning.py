"""Turning by hand: what was seen, a hard stop, and its cause."""

from flaneur.core.bench.inside import list_words
from flaneur.core.bench.tally import Tally
from flaneur.core.book.schema import EngineBook
from flaneur.core.book.units import parse_quantity
from flaneur.core.errors import ReleaseError
from flaneur.core.proof.hands import HandTurns, HardStop
from flaneur.core.wording import counted

MOST_TURNS = 50
MOST_DEG = 720.0


def turned(
    book: EngineBook,
    before: HandTurns,
    typed_turns: str,
    hard_stop: bool,
    marks: dict[str, bool],
    pins_out: int,
    by: str,
    at: str,
) -> HandTurns:
    """What is known after turning by hand. Raises ReleaseError while a hard stop stands without its
    cause, for a mark the book does not know, and for turns that cannot be.
    """
    turns = parse_quantity(typed_turns, "plain").value
    if not 0 <= turns <= MOST_TURNS:
        raise ReleaseError(
            "That many turns cannot be right.",
            read=typed_turns,
            expected=f"0 to {MOST_TURNS} crank turns",
        )
    must_be_explained(before)
    known = book.proof.mark_checks
    unknown = [mark for mark in marks if mark not in known]
    if unknown:
        raise ReleaseError(
            "The book has no such mark to check.", read=unknown[0], expected="; ".join(known)
        )
    new = [HardStop(by=by, at=at, turns=turns)] if hard_stop else []
    return HandTurns(
        turns=turns,
        hard_stop=hard_stop,
        marks=marks,
        pins_out=pins_out,
        stops=[*before.stops, *new],
    )


def must_be_explained(hands: HandTurns) -> None:
    """Raise ReleaseError while a hard stop stands whose cause nobody has written."""
    if hands.is_stopped:
        raise ReleaseError(
            "A hard stop stands: do not turn on.",
            read=hands.stops[-1].felt if hands.stops else "felt before",
            expected="its cause in writing, and the step behind it opened again",
            advice="Write the cause at the bench or here first.",
        )


def must_be_empty(tally: Tally) -> None:
    """Raise ReleaseError while something laid in by hand is still in the engine."""
    if tally.laid:
        raise ReleaseError(
            "Do not turn: the count is open.",
            read=f"still in the engine: {list_words(tally.laid)}",
            expected="everything counted out before the crank turns",
            advice="Take it out and count it out at the bench, at “In the engine”.",
        )


def turned_words(hands: HandTurns) -> str:
    """What the notebook says of it."""
    missed = [mark for mark, met in hands.marks.items() if not met]
    return (
        f"Turned {counted(hands.turns or 0.0, 'crank turn')} by hand, "
        f"{'a hard stop felt' if hands.hard_stop else 'no hard stop'}. "
        f"{counted(hands.pins_out or 0, 'piece')} counted out. "
        f"{'Marks missed: ' + ', '.join(missed) if missed else 'Marks met'}."
    )


def felt_at_bench(before: HandTurns, by: str, at: str) -> HandTurns:
    """What is known once a step that turns the crank came to a hard stop."""
    stop = HardStop(by=by, at=at, turns=None)
    return before.model_copy(update={"hard_stop": True, "stops": [*before.stops, stop]})


def stop_angle(typed: str) -> float:
    """Where the crank stood, degrees of the 720° cycle. Raises ReleaseError."""
    deg = parse_quantity(typed, "angle", "deg").value
    if not 0 <= deg < MOST_DEG:
        raise ReleaseError(
            "The crank cannot stand there.",
            read=typed,
            expected=f"0° to {MOST_DEG:g}°, counted from the first cylinder's firing",
        )
    return deg


def stopped_at(hands: HandTurns, typed: str) -> HandTurns:
    """The standing hard stop with its angle. Raises ReleaseError."""
    if not hands.is_stopped or not hands.stops:
        raise ReleaseError("No hard stop stands.", expected="a hard stop felt while turning")
    told = hands.stops[-1].model_copy(update={"at_deg": stop_angle(typed)})
    return hands.model_copy(update={"stops": [*hands.stops[:-1], told]})


def standing_stop(hands: HandTurns, by: str, at: str) -> HardStop:
    """The hard stop that stands without its cause. Raises ReleaseError when none does."""
    if not hands.is_stopped:
        raise ReleaseError(
            "No hard stop stands without its cause.",
            expected="a hard stop recorded while turning by hand",
        )
    return hands.stops[-1] if hands.stops else HardStop(by=by, at=at, turns=hands.turns or 0.0)


def may_stand_alone(tally: Tally) -> bool:
    """Whether a cause may name no step: only while none is closed is there none behind it."""
    return not tally.done


def explained(hands: HandTurns, stop: HardStop, cause: str, step: str | None, by: str) -> HandTurns:
    """What is left of the turning once the cause is written: the stops, and nothing else."""
    told = stop.model_copy(update={"cause": cause, "step": step, "cause_by": by})
    return HandTurns(stops=[*hands.stops[:-1], told])
