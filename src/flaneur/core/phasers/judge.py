"""What a fitted phaser is: the gravest thing that speaks against it, with the figures."""

from flaneur.core.book.schema import Phaser
from flaneur.core.phasers.found import PhaserState, Response
from flaneur.core.phasers.response import Expected

DRIFT_DEG_S = 0.6
SHIFT_SHARE = 0.35  # park and commanded angles this alike are one shift


def judge(
    phaser: Phaser,
    expected: Expected,
    found: Response,
    park_deg: float | None,
    relearned: bool | None,
) -> tuple[PhaserState, str]:
    """State and words. Crank degrees; ``park_deg`` is where it rests, None when that was not seen;
    ``relearned`` whether the control unit learned its base anew.
    """
    figures = _figures(expected, found)
    unsure = (
        " The base was relearned, so park is only as the control unit states it."
        if relearned
        else ""
    )
    is_shifted = _is_shifted(phaser, found, park_deg)
    if _is_off_park(phaser, park_deg) and not is_shifted:
        return PhaserState.NOT_PARKING, (
            f"Rests {park_deg:+.1f}° from park when not commanded: lock pin or return spring; "
            f"{figures}.{unsure}"
        )
    restless = _restless(phaser, found, figures) or _slow(phaser, expected, found, figures)
    if restless is not None:
        return restless
    if is_shifted:
        return PhaserState.OFF_BASE, (
            f"All its angles stand {park_deg:+.1f}° off, parked and commanded alike: the drive is "
            "off by as much or the base was not learned; the phaser itself follows; "
            f"{figures}."
        )
    off = found.steady_error_deg
    if abs(off) > 2 * phaser.steady_error_deg:
        return PhaserState.OFF_COMMAND, (
            f"Stands {off:+.1f}° from its command, the book allows {phaser.steady_error_deg:g}°; "
            f"{figures}."
        )
    return PhaserState.SOUND, f"Sound: {figures}; steady within {abs(off):.1f}°.{unsure}"


def _figures(expected: Expected, found: Response) -> str:
    return (
        f"dead time {found.dead_time_s * 1000:.0f} ms (book {expected.dead_time_s * 1000:.0f}), "
        f"out {found.rate_out_deg_s:.0f}°/s (book {expected.rate_out_deg_s:.0f}), "
        f"back {found.rate_back_deg_s:.0f}°/s (book {expected.rate_back_deg_s:.0f})"
    )


def _is_off_park(phaser: Phaser, park_deg: float | None) -> bool:
    return park_deg is not None and abs(park_deg) > max(1.5, 3 * phaser.park_tolerance_deg)


def _is_shifted(phaser: Phaser, found: Response, park_deg: float | None) -> bool:
    """Whether it is off by as much parked as commanded: then not the phaser is off."""
    if park_deg is None or not _is_off_park(phaser, park_deg):
        return False
    return abs(found.steady_error_deg - park_deg) < SHIFT_SHARE * abs(park_deg)


def _restless(phaser: Phaser, found: Response, figures: str) -> tuple[PhaserState, str] | None:
    """Swinging about its command, or creeping away from it."""
    allowed = phaser.response.hunting_deg
    if found.hunting_deg is not None and found.hunting_deg > 2 * allowed:
        hz = f" at {found.hunting_hz:.1f} Hz" if found.hunting_hz is not None else ""
        return PhaserState.HUNTING, (
            f"Swings ±{found.hunting_deg:.1f}° about its command{hz}; the book allows "
            f"±{allowed:g}°; {figures}."
        )
    if found.drift_deg_s is not None and abs(found.drift_deg_s) > DRIFT_DEG_S:
        return PhaserState.DRIFTING, (
            f"Creeps {found.drift_deg_s:+.1f}°/s away from a held command: it leaks inside; "
            f"{figures}."
        )
    return None


def _slow(
    phaser: Phaser, expected: Expected, found: Response, figures: str
) -> tuple[PhaserState, str] | None:
    """Slower than the book at this oil, or late to answer."""
    out = found.rate_out_deg_s / expected.rate_out_deg_s
    back = found.rate_back_deg_s / expected.rate_back_deg_s
    if min(out, back) < 1 - phaser.response.rate_tolerance:
        return PhaserState.SLOW, (
            f"Slower than the book at this oil: {figures}. Look at screens, solenoid and oil "
            "before the phaser."
        )
    if found.dead_time_s > expected.dead_time_s * 2 + 0.15:
        return PhaserState.SLOW, (
            f"Answers late: {figures}. Look at solenoid and oil supply first."
        )
    return None
