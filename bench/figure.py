"""One measured figure with the bar it must hold."""

from dataclasses import asdict, dataclass


@dataclass(frozen=True)
class Figure:
    subject: str
    name: str
    value: float
    bar: str
    holds: bool

    def as_dict(self) -> dict[str, object]:
        return asdict(self)


def at_most(subject: str, name: str, value: float, bar: float) -> Figure:
    return Figure(subject, name, float(value), f"<= {bar:g}", bool(value <= bar))


def at_least(subject: str, name: str, value: float, bar: float) -> Figure:
    return Figure(subject, name, float(value), f">= {bar:g}", bool(value >= bar))


def between(subject: str, name: str, value: float, low: float, high: float) -> Figure:
    return Figure(subject, name, float(value), f"{low:g} to {high:g}", bool(low <= value <= high))
