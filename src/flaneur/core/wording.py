"""Words that more than one part of the house says: ranges, lateness, teeth, shares."""

from collections.abc import Sequence


def range_words(low: float | None, high: float | None, unit: str) -> str:
    """A range in words; an end that is not given is not named."""
    if low is None and high is None:
        return "no limit given"
    if low is None:
        return f"at most {high:g} {unit}"
    if high is None:
        return f"at least {low:g} {unit}"
    return f"{low:g} to {high:g} {unit}"


def late_words(deg: float, digits: int = 1) -> str:
    """A deviation as the trade says it: so many degrees late or early."""
    return f"{abs(deg):.{digits}f}° {'late' if deg >= 0 else 'early'}"


def teeth_words(teeth: int) -> str:
    """Teeth off, late positive, such as “2 teeth late”."""
    number = abs(teeth)
    way = "late" if teeth > 0 else "early"
    return f"{number} {'tooth' if number == 1 else 'teeth'} {way}"


def clock_words(clock_deg: float) -> str:
    """A clock position to the half hour: ``half past seven``, ``twelve o'clock``."""
    names = (
        "twelve",
        "one",
        "two",
        "three",
        "four",
        "five",
        "six",
        "seven",
        "eight",
        "nine",
        "ten",
        "eleven",
    )
    halves = round((clock_deg % 360) / 15) % 24
    name = names[halves // 2]
    return f"half past {name}" if halves % 2 else f"{name} o'clock"


def windows_words(windows: Sequence[Sequence[int]]) -> str:
    """Stretches of the crank in words."""
    return ", ".join(f"{low}° to {high}°" for low, high in windows) or "nowhere"
