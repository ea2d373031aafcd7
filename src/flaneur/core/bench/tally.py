"""What is in the engine and what is closed, from the answers given at the bench."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from flaneur.core.bench.answers import Seen
from flaneur.core.bench.inside import Laid, still_in


@dataclass(frozen=True)
class Answered:
    """One time a step was answered. Reopened, it stays readable and no longer counts."""

    id: int
    step: str
    seen: tuple[Seen, ...]
    is_right: bool
    departure: str | None
    by: str
    at: datetime
    is_reopened: bool

    @property
    def is_closed(self) -> bool:
        """Whether this answer closes its step: right, or left as it is for a written reason."""
        return not self.is_reopened and (self.is_right or bool(self.departure))


@dataclass(frozen=True)
class Tally:
    """Answers that count by step, pins put in, teeth set wrong and left in the engine (late
    positive, by contact), departures, and all answers ever given; ``laid``: what was laid in by
    hand and is still there.
    """

    done: dict[str, Answered]
    records: tuple[Answered, ...]
    pins_in: int
    tooth_errors: dict[str, int]
    departures: tuple[Answered, ...]
    laid: tuple[Laid, ...] = ()


def tally(records: Sequence[Answered], laid: Sequence[Laid] = ()) -> Tally:
    """Tally the answers of a job in the order they were given, and what was ``laid`` in by hand and
    taken out again.
    """
    done = {r.step: r for r in records if r.is_closed}
    errors: dict[str, int] = {}
    pins = 0
    for record in sorted(done.values(), key=lambda r: r.id):
        for seen in record.seen:
            pins += max(0, seen.pins)
            if seen.contact and seen.teeth is not None:
                # What was seen last counts: a contact found on its mark has no tooth left in it.
                errors[seen.contact] = seen.teeth
    return Tally(
        done,
        tuple(records),
        pins,
        {contact: teeth for contact, teeth in errors.items() if teeth},
        tuple(r for r in done.values() if r.departure),
        tuple(still_in(laid)),
    )
