"""The made-up V6 with other tone wheels and sensors, and captures of it spoilt in known ways."""

from dataclasses import replace
from pathlib import Path

import numpy as np

from flaneur.core.book.loading import parse_book
from flaneur.core.book.schema import EdgeWheel, EngineBook, Gap, GapWheel, VaneWheel
from flaneur.core.signals.capture import Capture
from flaneur.formats.books import load_book
from flaneur.simulation.motion import Conditions

ENGINES = Path(__file__).parents[1] / "engines"
BOOK = ENGINES / "ostrey-tansy.yaml"


def every_book() -> list[EngineBook]:
    """The seven books of the depot."""
    return [load_book(path) for path in sorted(ENGINES.glob("*.yaml"))]


def tansy() -> EngineBook:
    return parse_book(BOOK.read_text(encoding="utf-8"))


def reluctors(book: EngineBook) -> EngineBook:
    """The same engine with variable-reluctance sensors on every wheel."""
    wheels = {
        k: w.model_copy(
            update={
                "sensor": "vr",
                "pulse_deg": 4.0 if w.kind == "vanes" else 1.2,
                "volts_per_krpm": 1.5,
            }
        )
        for k, w in book.tone_wheels.items()
    }
    return book.model_copy(update={"tone_wheels": wheels})


def with_crank(book: EngineBook, wheel: GapWheel | EdgeWheel) -> EngineBook:
    return book.model_copy(
        update={"tone_wheels": {**book.tone_wheels, book.crank_wheel_key: wheel}}
    )


def crank_wheels(book: EngineBook) -> dict[str, GapWheel | EdgeWheel]:
    """Crank wheels of other patterns in place of 60−2."""
    base = {
        "name": "Crank wheel",
        "shaft": "crank",
        "channel": "crank",
        "tolerance_deg": 0.2,
        "slip_prior": 0.003,
    }
    gap = {**base, "kind": "gap", "first_tooth_deg": 84}
    return {
        "60-2": book.crank_wheel,
        "36-1": GapWheel(**gap, teeth=36, missing=1),
        "48-2-2": GapWheel(**gap, teeth=48, missing=2, more_gaps=[Gap(after=18, missing=2)]),
        "listed": EdgeWheel(
            **base,
            kind="edges",
            teeth_deg=[
                (10, 22),
                (50, 62),
                (90, 102),
                (130, 142),
                (184, 214),
                (250, 262),
                (290, 302),
                (330, 342),
            ],
        ),
    }


COURSES: dict[str, Conditions] = {
    "steady": Conditions(seconds=8, rate_hz=100_000, cycle_scatter_deg=0.0),
    "cranking": Conditions(
        seconds=10,
        rate_hz=50_000,
        rpm=190,
        surge=0.22,
        firing_ripple_deg=0.5,
        cycle_scatter_deg=0.0,
    ),
    "sweep": Conditions(
        seconds=12,
        rate_hz=100_000,
        course=((0, 750), (3, 750), (6, 3200), (8, 3200), (11, 900), (12, 800)),
        cycle_scatter_deg=0.0,
    ),
}


def vane_events(wheel: VaneWheel) -> int:
    return len(wheel.vanes_deg) * (1 if wheel.sensor == "vr" else 2)


DAMAGES = [
    "dropout",
    "spikes",
    "cut",
    "noise burst",
    "clipping",
    "swap",
    "gain step",
    "doubled",
    "dead end",
    "bent vane",
    "slow sampling",
    "missing teeth",
    "interference",
    "stuck high",
    "crosstalk",
    "half file",
    "time reversed",
    "inverted",
    "drift",
    "another engine",
]


def damaged(capture: Capture, kind: str, rng: np.random.Generator) -> Capture:
    """A capture spoilt in one way, at a random place and strength."""
    x = {n: v.copy() for n, v in capture.channels.items()}
    names, n = list(x), capture.samples
    name = names[int(rng.integers(len(names)))]
    a = int(rng.integers(0, n - n // 8))
    b = a + int(rng.integers(n // 2000, n // 8))
    rate = capture.rate_hz
    swing = float(x[name].max() - x[name].min())
    match kind:
        case "dropout":
            x[name][a:b] = x[name].min()
        case "stuck high":
            x[name][a:b] = x[name].max()
        case "spikes":
            at = rng.integers(0, n, int(rng.integers(3, 400)))
            x[name][at] += np.float32(swing) * rng.choice([-1, 1], len(at)).astype(np.float32)
        case "cut":
            x = {k: np.delete(v, slice(a, b)) for k, v in x.items()}
        case "doubled":
            x = {k: np.concatenate([v[:b], v[a:b], v[b:]]) for k, v in x.items()}
        case "noise burst":
            x[name][a:b] += (rng.standard_normal(b - a) * rng.uniform(0.1, 0.6) * swing).astype(
                np.float32
            )
        case "clipping":
            high = np.float32(x[name].min() + rng.uniform(0.55, 0.95) * swing)
            x[name] = np.minimum(x[name], high)
        case "swap":
            other = names[(names.index(name) + int(rng.integers(1, len(names)))) % len(names)]
            x[name], x[other] = x[other], x[name]
        case "gain step":
            x[name][a:] *= np.float32(rng.uniform(0.3, 1.5))
        case "dead end":
            x[name][a:] = 0
        case "slow sampling":
            step = int(rng.integers(8, 120))
            x, rate = {k: np.ascontiguousarray(v[::step]) for k, v in x.items()}, rate / step
        case "interference":
            t = np.arange(n) / rate
            x[name] += (
                rng.uniform(0.05, 0.6) * swing * np.sin(2 * np.pi * rng.uniform(40, 4000) * t)
            ).astype(np.float32)
        case "crosstalk":
            other = names[(names.index(name) + 1) % len(names)]
            x[name] += np.float32(rng.uniform(0.1, 0.7)) * x[other]
        case "half file":
            kept = n // int(rng.integers(2, 40))
            x = {k: v[:kept] for k, v in x.items()}
        case "time reversed":
            x = {k: np.ascontiguousarray(v[::-1]) for k, v in x.items()}
        case "inverted":
            x[name] = np.float32(x[name].max() + x[name].min()) - x[name]
        case "drift":
            x[name] += np.linspace(0, rng.uniform(0.2, 3) * swing, n).astype(np.float32)
        case "missing teeth" | "bent vane" | "another engine":
            pass
    return replace(capture, rate_hz=rate, channels=x)
