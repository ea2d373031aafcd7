"""A job that ends without a repair: nothing is taken apart, and the report says why."""

from flaneur.core.choices import Worded
from flaneur.core.errors import StepError
from flaneur.core.wording import counted

SHORTEST_REASON, MOST_DAYS = 10, 1825


class Ending(Worded):
    """How a job ends without a repair."""

    LEFT = "left", "left as it is, to be measured again"
    NO_FAULT = "no_fault", "no fault found"
    REFUSED = "refused", "the owner does not want it done"
    RETIRED = "retired", "the engine is retired"
    WRONG_UNIT = "wrong_unit", "opened on the wrong unit"


def must_fit(ending: Ending, reason: str, again_in_days: int | None, is_begun: bool) -> None:
    """Raise StepError for a job that is at the bench, a reason that says nothing, or an engine that
    is left without a day it is looked at again.
    """
    if is_begun:
        raise StepError(
            "The bench has begun: this engine is not left so.",
            read="a job at the bench",
            expected="a job of which nothing was taken apart",
            advice="Finish what was begun, or take the start back.",
        )
    if len(reason.strip()) < SHORTEST_REASON:
        raise StepError(
            "Why it ends so is not said.",
            read=f"“{reason.strip()}”",
            expected=f"a reason of at least {SHORTEST_REASON} letters",
            field="reason",
        )
    if (ending is Ending.LEFT) != (again_in_days is not None):
        raise StepError(
            "An engine that is left is measured again on a day."
            if ending is Ending.LEFT
            else "There is nothing to measure again here.",
            read="no day" if again_in_days is None else counted(again_in_days, "day"),
            expected=f"1 to {MOST_DAYS} days" if ending is Ending.LEFT else "no day",
            field="again_in_days",
        )


def ending_words(ending: Ending, reason: str) -> str:
    """What the notebook and the report say of it."""
    return f"Ended without a repair: {ending.words}. {reason.strip().rstrip('.')}."
