"""One measured figure with the bar it must hold, and how fast the machine is that measures it."""

import time
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


def machine_factor() -> float:
    """How much slower this machine is than the one bars in ms were set on: fixed work in Python and
    numpy, best of five.
    """
    return min(_fixed_work() for _ in range(5)) / REFERENCE_S


def _fixed_work() -> float:
    at = np.random.default_rng(1).random((100, 1000))
    begun = time.perf_counter()
    total = 0
    for i in range(300_000):
        total += i % 7
    for _ in range(4):
        at = np.sort(np.sin(at * 3.0), axis=1)[:, ::-1] + 0.1 * at
    return time.perf_counter() - begun
