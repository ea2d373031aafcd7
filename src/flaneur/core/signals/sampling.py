"""Whether a capture was taken often enough for the speed it was taken at."""

import numpy as np
from numpy.typing import NDArray

from flaneur.core.book.schema import EngineBook, GapWheel
from flaneur.core.book.wheels import crank_events_deg
from flaneur.core.errors import CaptureError
from flaneur.core.signals.capture import Capture

WANTED, FEWEST = (
    8.0,
    4.5,
)  # samples from one crank tooth to the next: to be wanted, to be read at all
LOOK, STANDS_OUT = 32768, 0.15  # samples looked at; share of the power in the teeth's own line


def too_slow(capture: Capture, book: EngineBook) -> CaptureError | None:
    """Why a capture that could not be read could not: the teeth came faster than the samples. None
    where that is not it.
    """
    wheel = book.crank_wheel
    x = capture.channels.get(wheel.channel)
    if x is None:
        return None
    hertz = _teeth_hz(x, capture.rate_hz)
    if hertz is None or capture.rate_hz / hertz >= FEWEST:
        return None
    places = wheel.teeth if isinstance(wheel, GapWheel) else len(crank_events_deg(wheel))
    least = WANTED * hertz
    return CaptureError(
        "The sample rate is too slow for this speed.",
        read=f"{capture.rate_hz / hertz:.1f} samples from one crank tooth to the next, at about "
        f"{60 * hertz / places:.0f} rpm and {capture.rate_hz / 1000:g} kHz",
        expected=f"at least {WANTED:.0f}: {np.ceil(least / 1000):.0f} kHz or more",
        advice="Capture again at a higher rate, or at a lower speed.",
    )


def _teeth_hz(x: NDArray[np.float32], rate_hz: float) -> float | None:
    """How many teeth pass in a second: the strongest line of the channel; None where none stands
    out.
    """
    start = max(0, (len(x) - LOOK) // 2)
    piece = x[start : start + LOOK].astype(np.float64)
    if len(piece) < 512 or not np.isfinite(piece).all():
        return None
    power = np.abs(np.fft.rfft((piece - piece.mean()) * np.hanning(len(piece)))) ** 2
    peak = int(np.argmax(power))
    wide = max(3, len(power) // 100)
    near = float(power[max(0, peak - wide) : peak + wide + 1].sum())
    return peak * rate_hz / len(piece) if near > STANDS_OUT * float(power.sum()) else None
