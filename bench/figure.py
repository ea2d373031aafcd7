"""One measured figure with the bar it must hold."""

from dataclasses import asdict, dataclass


@dataclass(frozen=True)
class Figure:
    """``bar`` is the most or the least the value may be; ``name`` says which."""

    subject: str
    name: str
    value: float
    bar: float
    holds: bool

    def as_dict(self) -> dict[str, object]:
        return asdict(self)


def at_most(subject: str, name: str, value: float, bar: float) -> Figure:
    return Figure(subject, f"{name}, at most", float(value), bar, bool(value <= bar))


def at_least(subject: str, name: str, value: float, bar: float) -> Figure:
    return Figure(subject, f"{name}, at least", float(value), bar, bool(value >= bar))
