"""Words that more than one part of the house says: ranges, lateness, teeth, shares."""

from collections.abc import Iterable, Sequence


def range_words(low: float | None, high: float | None, unit: str) -> str:
    """A range in words; an end that is not given is not named."""
    if low is None and high is None:
        return "no limit given"
    if low is None:
        return f"at most {high:g} {unit}"
    if high is None:
        return f"at least {low:g} {unit}"
    return f"{low:g} to {high:g} {unit}"


def counted(number: float, one: str, many: str = "") -> str:
    """So many of something: ``1 step``, ``2 steps``; ``many`` where it is no plain plural."""
    return f"{number:g} {one if number == 1 else many or one + 's'}"


def joined(words: Iterable[str]) -> str:
    """Names one after another: “a”, “a and b”, “a, b and c”."""
    said = list(words)
    return " and ".join([", ".join(said[:-1]), said[-1]] if len(said) > 1 else said)


def within(name: str) -> str:
    """A name within a sentence: without its capital, unless that is all of its first word."""
    first = name.split(" ")[0]
    return name if len(first) == 1 or first[1:2].isupper() else name[:1].lower() + name[1:]


def late_words(deg: float, digits: int = 1) -> str:
    """A deviation as the trade says it: so many degrees late or early; nought is neither."""
    return " ".join(word for word in late_parts(deg, digits) if word)


def late_parts(deg: float, digits: int = 1) -> tuple[str, str]:
    """The size of a deviation and its way, for who sets them apart; nought has no way."""
    size = f"{abs(deg):.{digits}f}"
    if float(size) == 0:
        return f"{size}°", ""
    return f"{size}°", "late" if deg > 0 else "early"


def teeth_words(teeth: int) -> str:
    """Teeth off, late positive, such as “2 teeth late”."""
    return f"{counted(abs(teeth), 'tooth', 'teeth')} {'late' if teeth > 0 else 'early'}"


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
