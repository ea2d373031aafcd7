"""One measured figure with the bar it must hold, and how fast the machine is that measures it."""

import time
from collections.abc import Callable
from dataclasses import asdict, dataclass

import numpy as np

# What the fixed work took on the machine that the bars in ms were set on.
REFERENCE_S = 0.020


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


def for_information(subject: str, name: str, value: float) -> Figure:
    """A figure without a bar."""
    return Figure(subject, f"{name}, for information", float(value), 0.0, True)


def ratio(work: Callable[[], object], baseline: Callable[[], object], times: int = 5) -> float:
    """How much longer ``work`` takes than ``baseline``: both warmed up, then taken alternately, the
    best of each.
    """
    work()
    baseline()
    taken = [(_timed(work), _timed(baseline)) for _ in range(times)]
    return min(a for a, _ in taken) / min(b for _, b in taken)


def factor_of(work: Callable[[], object], times: int = 5) -> tuple[float, float]:
    """Milliseconds of ``work`` and the factor of this machine, taken alternately, the best of each:
    both see the same weather.
    """
    work()
    taken = [(_timed(work), _timed(_fixed_work)) for _ in range(times)]
    return 1000 * min(a for a, _ in taken), min(b for _, b in taken) / REFERENCE_S


def machine_factor() -> float:
    """How much slower this machine is than the one bars in ms were set on: fixed work in Python and
    numpy, best of five.
    """
    return min(_timed(_fixed_work) for _ in range(5)) / REFERENCE_S


def _timed(work: Callable[[], object]) -> float:
    begun = time.perf_counter()
    work()
    return time.perf_counter() - begun


def _fixed_work() -> int:
    at = np.random.default_rng(1).random((100, 1000))
    total = 0
    for i in range(300_000):
        total += i % 7
    for _ in range(4):
        at = np.sort(np.sin(at * 3.0), axis=1)[:, ::-1] + 0.1 * at
    return total
