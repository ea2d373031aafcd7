"""What is due after a job: the cold start that was left for later, a reading to be taken again."""

from datetime import datetime
from enum import StrEnum

from flaneur.core.errors import StepError
from flaneur.core.job.ending import SHORTEST_REASON
from flaneur.core.wording import counted


class FollowKind(StrEnum):
    """What is to be done later."""

    COLD_START = "cold_start"
    REMEASURE = "remeasure"


class Outcome(StrEnum):
    """What came of it."""

    QUIET = "quiet"
    RATTLES = "rattles"
    DONE = "done"
    DROPPED = "dropped"


OUTCOMES: dict[FollowKind, tuple[Outcome, ...]] = {
    FollowKind.COLD_START: (Outcome.QUIET, Outcome.RATTLES, Outcome.DROPPED),
    FollowKind.REMEASURE: (Outcome.DONE, Outcome.DROPPED),
}
OUTCOME_WORDS: dict[Outcome, str] = {
    Outcome.QUIET: "quiet from the first second",
    Outcome.RATTLES: "it rattles",
    Outcome.DONE: "done",
    Outcome.DROPPED: "not done",
}
TITLES: dict[FollowKind, str] = {
    FollowKind.COLD_START: "Cold start after the repair",
    FollowKind.REMEASURE: "Measure again",
}


def must_fit(kind: FollowKind, outcome: Outcome, note: str, is_open: bool) -> None:
    """Raise StepError for an outcome that kind does not have, one that was answered before, or one
    dropped without a reason.
    """
    if not is_open:
        raise StepError("This was answered already.", read=TITLES[kind], expected="what is open")
    if outcome not in OUTCOMES[kind]:
        raise StepError(
            "This cannot have come of it.",
            read=OUTCOME_WORDS[outcome],
            expected=", ".join(OUTCOME_WORDS[o] for o in OUTCOMES[kind]),
        )
    if outcome is Outcome.DROPPED and len(note.strip()) < SHORTEST_REASON:
        raise StepError(
            "Why it is not done is not said.",
            read=f"“{note.strip()}”",
            expected=f"a reason of at least {SHORTEST_REASON} letters",
        )


def outcome_words(kind: FollowKind, outcome: Outcome, note: str) -> str:
    """What the record says of it."""
    more = f" {note.strip().rstrip('.')}." if note.strip() else ""
    return f"{TITLES[kind]}: {OUTCOME_WORDS[outcome]}.{more}"


def due_words(due: datetime, now: datetime) -> str:
    """How long it is due, or how long it still stands."""
    hours = round((due - now).total_seconds() / 3600)
    if hours > 48:
        return f"in {counted(round(hours / 24), 'day')}"
    if hours > 0:
        return f"in {counted(hours, 'hour')}"
    if hours > -2:
        return "now"
    return (
        f"since {counted(-hours, 'hour')}"
        if hours > -48
        else f"since {counted(-hours // 24, 'day')}"
    )
