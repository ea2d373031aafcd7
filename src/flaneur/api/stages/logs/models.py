"""What crosses the network here: one model a message."""

from datetime import datetime
from typing import Annotated, Literal

from pydantic import Field

from flaneur.api.models import In, Line, Named, Out, Version
from flaneur.core.phasers.drivelog import LogKind
from flaneur.core.phasers.found import PhaserResponseFit
from flaneur.jobs.linking import LinkTask


class SweepIn(In):
    version: Version
    phasers: Annotated[list[Line], Field(min_length=1, max_length=8)]
    oil: Literal["hot", "cold"]


class LinkIn(In):
    """What is asked of the control unit."""

    version: Version
    task: LinkTask


class LogOut(Out):
    """A log of the vehicle: what must be known before it is believed, and each phaser fitted."""

    id: int
    source: str
    kind: LogKind
    oil: str
    seconds: float
    rate_hz: float
    taken_by: str
    taken_at: datetime
    words: list[str]
    fits: list[PhaserResponseFit]


class FitAtOil(Out):
    """A phaser's answer at one state of the oil."""

    oil: str
    fit: PhaserResponseFit


class PhaserByOil(Out):
    """One phaser in every log, the newest first; ``worst`` is what it is judged by."""

    id: str
    name: str
    worst: PhaserResponseFit | None
    gravity: int
    fits: list[FitAtOil]

    @classmethod
    def of(cls, phaser: Named, logs: list[LogOut]) -> "PhaserByOil":
        """Gather a phaser's fits. Of two equally grave ones the newer counts."""
        fits = [
            FitAtOil(oil=log.oil, fit=fit)
            for log in reversed(logs)
            for fit in log.fits
            if fit.phaser == phaser.id
        ]
        worst = max((f.fit for f in fits), key=lambda f: f.state.gravity, default=None)
        gravity = worst.state.gravity if worst else 0
        return cls(id=phaser.id, name=phaser.name, worst=worst, gravity=gravity, fits=fits)


class LogsOut(Out):
    logs: list[LogOut]
    phasers: list[Named]
    by_oil: list[PhaserByOil]
    advice: str
