"""A capture: sensor voltages sampled together."""

from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from flaneur.core.errors import CaptureError

Samples = NDArray[np.float32]


@dataclass(frozen=True)
class Capture:
    """Channels sampled at one rate. ``channels`` maps a sensor's name to volts, float32, all of one length."""

    rate_hz: float
    channels: dict[str, Samples]
    source: str = "unknown"
    notes: tuple[str, ...] = field(default=())

    def __post_init__(self) -> None:
        if not self.channels:
            raise CaptureError("The capture has no channels.", expected="a crank channel and at least one cam channel")
        if not (np.isfinite(self.rate_hz) and self.rate_hz > 0):
            raise CaptureError("The sample rate makes no sense.", read=f"{self.rate_hz} Hz", expected="a positive rate")
        lengths = {name: len(x) for name, x in self.channels.items()}
        if len(set(lengths.values())) > 1:
            raise CaptureError("The channels differ in length.", read=str(lengths), expected="one length for all")

    @property
    def samples(self) -> int:
        return len(next(iter(self.channels.values())))

    @property
    def seconds(self) -> float:
        return self.samples / self.rate_hz
