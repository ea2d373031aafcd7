"""The words of what one capture shows of a cam over time, and of the crank wheel."""

from collections.abc import Sequence

from flaneur.core.gauss import Z90
from flaneur.core.signals.camreading import CamCorrelation, EdgeReading
from flaneur.core.signals.kept import KeptFingerprint
from flaneur.core.signals.trend import HalfOrder
from flaneur.core.wording import late_words

CLEAR_SD, CLEAR_DEG = 4.0, 0.2  # a wheel's run-out is spoken of above both


def over_time_words(cam: CamCorrelation) -> str:
    """Whether a cam settles or moves, whether it follows the speed, and how far its cycles
    scatter.
    """
    s, m, v = cam.settling, cam.moved, cam.speed
    settles = "Steady from the start."
    if s:
        settles = (
            f"Settles by {abs(s.amplitude_deg):.1f}° with a decay of {s.decay_s:.1f} s, to "
            f"{s.settled_deg:.2f}°."
        )
    elif m:
        settles = (
            f"Moves from {late_words(m.from_deg)} to {late_words(m.to_deg)} between {m.from_s:.1f} "
            f"and {m.to_s:.1f} s; the figure is where it stands afterwards."
        )
    speed = (
        f"With speed: {v.deg_per_krpm:+.2f}° ± {Z90 * v.stderr:.2f}° per 1000 rpm "
        f"({v.low_rpm:.0f} to {v.high_rpm:.0f} rpm)."
        if v
        else "One speed only."
    )
    if cam.delay and cam.delay.told:
        speed += (
            f" Its sensor answers {cam.delay.delay_us:+.0f} ± {Z90 * cam.delay.stderr_us:.0f} µs "
            "against the crank's; taken out."
        )
    return f"{settles} {speed} Scatter {cam.scatter_deg:.2f}° over {cam.cycles} cycles."


def half_order_words(found: HalfOrder) -> str:
    """What a cam wheel does once per cycle."""
    is_clear = found.amplitude_deg > max(CLEAR_SD * found.stderr_deg, CLEAR_DEG)
    return f"Once per cycle: ±{found.amplitude_deg:.2f}° " + (
        f"with its peak at {found.peak_deg:.0f}°: the wheel may run out"
        if is_clear
        else "(nothing to speak of)"
    )


def edges_words(edges: Sequence[EdgeReading]) -> str:
    """Whether the edges of a cam wheel agree: then what is off is the cam, else the wheel."""
    missing = [e for e in edges if e.deviation_deg is None]
    off = [e for e in edges if e.is_off and e.deviation_deg is not None]
    if missing:
        return f"Never came: {_named(missing)}. The wheel, its sensor or its wiring."
    if off:
        most = max(abs(e.deviation_deg or 0.0) for e in off)
        return (
            f"Apart from the others by up to {most:.2f}°: {_named(off)}. That is the wheel, or a "
            "sensor that runs away with the speed; the cam as a whole moves all of them."
        )
    most = max((abs(e.deviation_deg or 0.0) for e in edges), default=0.0)
    return (
        f"All {len(edges)} edges agree within {most:.2f}°: whatever this cam is off by is the cam "
        "or its drive, not a tooth of its wheel."
    )


def _named(edges: Sequence[EdgeReading]) -> str:
    return ", ".join(
        f"the {'rising' if e.rising else 'falling'} edge at {e.expected_deg:.0f}°" for e in edges
    )


def fingerprint_words(found: KeptFingerprint) -> str:
    """How even the crank wheel's teeth are."""
    if not found.is_clear:
        return (
            f"Crank wheel over {found.turns} turns: teeth even within {4 * found.stderr_deg:.3f}°."
        )
    worst = max(abs(v) for v in found.error_deg)
    return (
        f"Crank wheel over {found.turns} turns: its teeth are up to {worst:.2f}° off, which is "
        "taken out and kept as this engine's fingerprint."
    )
