"""A capture: sensor voltages sampled together."""

from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from flaneur.core.errors import CaptureError
from flaneur.core.record.bounds import printable, unprintable

Samples = NDArray[np.float32]
LONGEST_NAME = 120
MOST_CHANNELS = 64
SLOWEST_HZ, FASTEST_HZ = 1e-3, 1e12  # a time column in another unit than it says is still read


@dataclass(frozen=True)
class Capture:
    """Channels sampled at one rate. ``channels`` maps a sensor's name to volts, float32, all of one
    length. ``unit_open``: the rate comes of a time column that names no unit, and was taken to be
    in seconds.
    """

    rate_hz: float
    channels: dict[str, Samples]
    source: str = "unknown"
    notes: tuple[str, ...] = field(default=())
    unit_open: bool = False

    def __post_init__(self) -> None:
        if not self.channels:
            raise CaptureError(
                "The capture has no channels.",
                expected="a crank channel and at least one cam channel",
            )
        if len(self.channels) > MOST_CHANNELS:
            raise CaptureError(
                "The capture has too many channels.",
                read=str(len(self.channels)),
                expected=f"{MOST_CHANNELS} at most",
            )
        for name in self.channels:
            if len(name) > LONGEST_NAME or unprintable(name) is not None:
                raise CaptureError(
                    "A channel's name cannot be kept.",
                    read=printable(name, 60),
                    expected=f"at most {LONGEST_NAME} characters that can be printed",
                    advice="Name the channels anew where the file was made.",
                )
        if not SLOWEST_HZ <= self.rate_hz <= FASTEST_HZ:
            raise CaptureError(
                "The sample rate makes no sense.",
                read=f"{self.rate_hz:g} Hz",
                expected="some thousand samples a second",
                advice="Look at the unit of its time column, or at the rate it states.",
            )
        lengths = {name: len(x) for name, x in self.channels.items()}
        if len(set(lengths.values())) > 1:
            raise CaptureError(
                "The channels differ in length.", read=str(lengths), expected="one length for all"
            )

    @property
    def samples(self) -> int:
        """Samples of each channel."""
        return len(next(iter(self.channels.values())))

    @property
    def seconds(self) -> float:
        """Length of the capture."""
        return self.samples / self.rate_hz
