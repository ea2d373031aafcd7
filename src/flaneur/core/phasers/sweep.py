"""The guided sweep: what each phaser is commanded to, and when."""

from collections.abc import Sequence
from dataclasses import dataclass

from flaneur.core.book.schema import EngineBook


@dataclass(frozen=True)
class Command:
    """From ``at_s`` on, ``phaser`` is commanded to ``deg`` crank degrees away from park."""

    at_s: float
    phaser: str
    deg: float


def sweep_commands(book: EngineBook, phasers: Sequence[str]) -> tuple[list[Command], float]:
    """The guided sweep: each phaser in turn out to six tenths and nine tenths of its travel and
    back, held each time.

    Returns the commands and how long it takes, seconds.
    """
    commands: list[Command] = []
    t = 3.0
    for key in phasers:
        for share in (0.6, 0.9, 0.3):
            commands += [
                Command(t, key, round(share * book.phasers[key].range_deg, 1)),
                Command(t + 4.0, key, 0.0),
            ]
            t += 8.0
    return commands, t + 1.0
