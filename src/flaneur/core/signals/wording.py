"""The words of what one capture shows of a cam over time, and of the crank wheel."""

from flaneur.core.gauss import Z90
from flaneur.core.signals.camreading import CamCorrelation
from flaneur.core.signals.kept import KeptFingerprint
from flaneur.core.signals.trend import HalfOrder

CLEAR_SD, CLEAR_DEG = 4.0, 0.2  # a wheel's run-out is spoken of above both


def over_time_words(cam: CamCorrelation) -> str:
    """Whether a cam settles, whether it follows the speed, and how far its cycles scatter."""
    s, v = cam.settling, cam.speed
    settles = (
        f"Settles by {abs(s.amplitude_deg):.1f}° with a decay of {s.decay_s:.1f} s, to "
        f"{s.settled_deg:.2f}°."
        if s
        else "Steady from the start."
    )
    speed = (
        f"With speed: {v.deg_per_krpm:+.2f}° ± {Z90 * v.stderr:.2f}° per 1000 rpm "
        f"({v.low_rpm:.0f} to {v.high_rpm:.0f} rpm)."
        if v
        else "One speed only."
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
