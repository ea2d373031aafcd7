"""A second look: a colleague is sent a step with its photographs, and what they answer is kept."""

from datetime import datetime, timedelta
from enum import StrEnum

from flaneur.core.errors import StepError

# Templates of steps whose marks, or order, nobody finds again once they are gone.
PHOTOGRAPHED = frozenset({"mark_links", "read_before", "followers_out", "recheck"})
GOOD_FOR = timedelta(days=1)


class Opinion(StrEnum):
    """What a colleague makes of it."""

    RIGHT = "right"
    WRONG = "wrong"
    UNSURE = "unsure"


OPINION_WORDS = {
    Opinion.RIGHT: "looks right",
    Opinion.WRONG: "does not look right",
    Opinion.UNSURE: "cannot say from here",
}


def must_be_open(until: datetime, answered_at: datetime | None, now: datetime) -> None:
    """Raise StepError for a second look that was answered, or is too old to be."""
    if answered_at is not None:
        raise StepError(
            "This was answered already.",
            read=f"answered {answered_at:%Y-%m-%d %H:%M %Z}",
            expected="one answer to one question",
            advice="Ask whoever sent the link for another.",
        )
    if now >= until:
        raise StepError(
            "This link is too old.",
            read=f"it was good until {until:%Y-%m-%d %H:%M %Z}",
            expected="an answer within a day",
            advice="Ask whoever sent the link for another.",
        )
