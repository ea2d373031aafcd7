"""The first start after a repair, watched: how long it rattled, when oil pressure was there, and
how soon each cam stood in its tolerance for good.
"""

from collections.abc import Mapping, Sequence

from flaneur.core.measuring.looks import BeltOff, Level, NoiseAt, NoiseWhen
from flaneur.core.wording import joined

STEADY_S = 1.0  # so long in tolerance before it is said to have settled
LONG_RATTLE_S, LATE_PRESSURE_S = 5.0, 8.0
LONG_RATTLE = "a tensioner that does not fill, or is not released"
LATE_PRESSURE = "look at filter, pump and pickup"


def settled_s(history: Sequence[tuple[float, float]], tolerance_deg: float) -> float | None:
    """Seconds from the start after which a cam stayed in its tolerance, from its readings as
    (seconds, degrees late); None while it has not, or not for long enough.
    """
    if not history or abs(history[-1][1]) > tolerance_deg:
        return None
    outside = [at for at, deg in history if abs(deg) > tolerance_deg]
    since = next(at for at, _ in history if not outside or at > outside[-1])
    return since if history[-1][0] - since >= STEADY_S else None


def settled_words(settled: Mapping[str, float | None]) -> str:
    """How soon cams settled, by name."""
    still = [name for name, at in settled.items() if at is None]
    if still:
        return f"not settled in their tolerance: {joined(still)}"
    if not settled:
        return "no cam was read"
    return f"every cam in its tolerance after {max(at or 0.0 for at in settled.values()):.1f} s"


def noise_fields(rattle_s: float | None, standing: str, note: str) -> dict[str, str]:
    """The first start as the worksheet of noises takes it; ``rattle_s`` None: it did not rattle."""
    when = NoiseWhen.NOT_HEARD if rattle_s is None else NoiseWhen.COLD_START
    return {
        "when": when,
        "seconds": "" if rattle_s is None else f"{rattle_s:.1f} s",
        "place": NoiseAt.UNKNOWN,
        "standing": standing,
        "belt": BeltOff.NOT_TRIED,
        "note": f"First start: {note}.",
    }


def oil_fields(pressure: str, rpm: float | None) -> dict[str, str]:
    """Its oil pressure as the worksheet of the oil takes it."""
    speed = "" if rpm is None else f"{rpm:.0f} rpm"
    return {"level": Level.NOT_LOOKED, "age": "", "pressure": pressure, "speed": speed, "warm": ""}


def cautions(rattle_s: float | None, pressure_s: float | None) -> list[str]:
    """What was seen, or not, that a technician stops for."""
    found: list[str] = []
    if pressure_s is None:
        found.append("nobody said that oil pressure came: see it before the engine runs on")
    elif pressure_s > LATE_PRESSURE_S:
        found.append(f"oil pressure came after {pressure_s:.0f} s: {LATE_PRESSURE}")
    if rattle_s is not None and rattle_s > LONG_RATTLE_S:
        found.append(f"it rattled for {rattle_s:.0f} s: {LONG_RATTLE}")
    return found
