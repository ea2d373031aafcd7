"""What was written while the server was away, and sent when it was back."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta

from flaneur.core.bench.tally import Answered
from flaneur.core.errors import ErrorCode, StepError

AHEAD = timedelta(minutes=2)
AT_ONCE = timedelta(seconds=30)


def by_our_clock(said: datetime, sent: datetime | None, now: datetime) -> datetime:
    """When something was written: ``said`` by a tablet's clock that showed ``sent`` as it was
    sent, which is ``now`` here. A clock that was set back since tells no more than that.
    """
    return said if sent is None else now - max(timedelta(), sent - said)


@dataclass(frozen=True)
class Later:
    """When an answer was written, by the tablet's clock, and how often its step had been answered
    by then.
    """

    at: datetime
    answered: int

    def must_still_fit(self, title: str, records: Sequence[Answered]) -> None:
        """Raise StepError (code ``step_answered``) where the step was answered since; ``records``
        are all its answers, oldest first.
        """
        if len(records) == self.answered:
            return
        if len(records) < self.answered:
            raise StepError(
                f"“{title}” was answered less often than the tablet knew.",
                read=f"{self.answered} answers known to the tablet, {len(records)} here",
                advice="This database was brought back from a backup. Look at the step again.",
                code=ErrorCode.STEP_ANSWERED,
            )
        last = records[-1]
        said = "; ".join(seen.said for seen in last.seen)
        raise StepError(
            f"“{title}” was recorded by {last.by} meanwhile.",
            read=f"{last.by}, {last.at:%H:%M} UTC: {said}",
            expected="a step nobody has answered since",
            advice="Neither was lost. Compare them, then put yours aside or open the step again.",
            code=ErrorCode.STEP_ANSWERED,
        )

    def words(self, now: datetime) -> str:
        """What the notebook adds; nothing where it came as soon as it was written."""
        if self.at > now + AHEAD:
            ahead = round((self.at - now).total_seconds() / 60)
            return (
                "Written without the network, at an unknown time: the tablet's clock was "
                f"{ahead} min ahead."
            )
        if now - self.at < AT_ONCE:
            return ""
        return f"Written without the network, {self.at:%Y-%m-%d %H:%M %Z} by the tablet's clock."
