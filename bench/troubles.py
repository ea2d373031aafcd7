"""Captures with the troubles a workshop records every day, each with what is true of it."""

from collections.abc import Callable
from dataclasses import dataclass, field, replace

import numpy as np

from flaneur.core.book.schema import EngineBook
from flaneur.core.book.wheels import crank_events_deg
from flaneur.core.faults.model import Faults
from flaneur.core.signals.capture import Capture
from flaneur.simulation.motion import Conditions
from flaneur.simulation.synthesis import synthesise, true_deviation_deg

Generator = np.random.Generator


@dataclass(frozen=True)
class Trouble:
    """One spoilt capture: the book it is of, what each cam truly reads (crank degrees; where it
    moves, from and to), what was done to it, and what the sensors' delays add to each cam at the
    speed it ran at.
    """

    kind: str
    book: EngineBook
    capture: Capture
    true_deg: dict[str, float]
    said: dict[str, float] = field(default_factory=dict[str, float])
    moved: dict[str, tuple[float, float]] = field(default_factory=dict[str, tuple[float, float]])
    delayed_deg: dict[str, float] = field(default_factory=dict[str, float])


def worn(book: EngineBook, rng: Generator) -> Faults:
    """A moderately worn engine of any book."""
    return Faults(
        elongation_pct={
            chain: float(rng.uniform(0, 1.1 * drive.limit_elongation_pct))
            for chain, drive in book.chains.items()
        },
        phaser_offset_deg={phaser: -float(rng.uniform(0, 6)) for phaser in book.phasers},
    )


def ordinary(rng: Generator, **more: object) -> Conditions:
    """A warm engine at idle as it is usually recorded."""
    plain = Conditions(
        seconds=float(rng.uniform(5, 8)),
        rate_hz=float(rng.choice([50_000, 100_000])),
        rpm=float(rng.uniform(650, 950)),
        noise_v=0.05,
    )
    return replace(plain, **more)  # type: ignore[arg-type]


def recorded(
    book: EngineBook, conditions: Conditions, rng: Generator, kind: str, **said: float
) -> Trouble:
    """A capture of a worn engine; sensors answer unlike each other, as the book allows."""
    faults = worn(book, rng)
    delays = {
        w.channel: w.delay_us + float(rng.normal(0, w.delay_tolerance_us))
        for w in book.tone_wheels.values()
    }
    conditions = replace(conditions, delay_us=conditions.delay_us or delays)
    capture = synthesise(book, faults, conditions, rng)
    first = delays[book.crank_wheel.channel]
    beyond = {
        w.shaft: 6e-6
        * conditions.rpm
        * (delays[c] - w.delay_us - first + book.crank_wheel.delay_us)
        for c, w in book.cam_wheels.items()
    }
    true = true_deviation_deg(book, faults)
    return Trouble(kind, book, capture, true, said, delayed_deg=beyond)


def spiky(book: EngineBook, rng: Generator) -> Trouble:
    """Interference: short pulses of some volts on one channel or on all of them."""
    found = recorded(book, ordinary(rng), rng, "spikes")
    a_second = float(rng.choice([5, 15, 50, 100, 200]))
    names = list(found.capture.channels)
    hit = names if rng.random() < 0.5 else [str(rng.choice(names))]
    channels = dict(found.capture.channels)
    for name in hit:
        channels[name] = channels[name] + _spikes(found.capture, a_second, rng)
    return replace(
        found,
        capture=replace(found.capture, channels=channels),
        said={"a_second": a_second, "channels": float(len(hit))},
    )


def _spikes(capture: Capture, a_second: float, rng: Generator) -> np.ndarray:
    """Pulses that rise at once and ring or die away within some tens of µs, volts per sample."""
    level = np.zeros(capture.samples, dtype=np.float32)
    number = int(rng.poisson(a_second * capture.seconds))
    span = int(200e-6 * capture.rate_hz) + 2
    for at in rng.integers(0, capture.samples, number).tolist():
        t = np.arange(span) / capture.rate_hz
        tall, dies = rng.uniform(1.5, 8.0) * rng.choice([-1, 1]), rng.uniform(8e-6, 40e-6)
        shape = tall * np.exp(-t / dies)
        if rng.random() < 0.4:
            shape *= np.cos(2 * np.pi * rng.uniform(15e3, 60e3) * t)
        end = min(span, capture.samples - at)
        level[at : at + end] += shape[:end].astype(np.float32)
    return level


def teeth_lost(book: EngineBook, rng: Generator) -> Trouble:
    """One to five crank teeth lost, or pulses added that are none, here and there."""
    conditions = ordinary(rng)
    found = recorded(book, conditions, rng, "lost teeth")
    name, x = book.crank_wheel.channel, found.capture.channels[book.crank_wheel.channel].copy()
    number, rate = int(rng.integers(1, 6)), found.capture.rate_hz
    pitch_s = 60.0 / conditions.rpm / len(crank_events_deg(book.crank_wheel))
    adds = rng.random() < 0.5
    rest = float(np.median(x)) if book.crank_wheel.sensor == "vr" else float(x.min())
    for at in rng.uniform(0.3, found.capture.seconds - 0.3, number):
        a = int(at * rate)
        if adds:
            t = (np.arange(int(pitch_s * rate)) / rate - pitch_s / 2) / (0.06 * pitch_s)
            top = float(np.ptp(x)) * (0.9 if book.crank_wheel.sensor == "hall" else 0.35)
            bump = (
                -t * np.exp(0.5 - t * t / 2)
                if book.crank_wheel.sensor == "vr"
                else (np.abs(t) < 2.0)
            )
            x[a : a + len(t)] += (top * bump).astype(np.float32)
            if book.crank_wheel.sensor == "hall":
                x[a : a + len(t)] = np.minimum(x[a : a + len(t)], x.max())
        else:
            x[a : a + int(1.0 * pitch_s * rate)] = rest
    channels = {**found.capture.channels, name: x}
    return replace(
        found,
        capture=replace(found.capture, channels=channels),
        said={"number": float(number), "adds": float(adds)},
    )


def bent(book: EngineBook, rng: Generator) -> Trouble:
    """Two bent teeth on the crank wheel."""
    count = len(crank_events_deg(book.crank_wheel))
    error = np.zeros(count)
    pick = rng.choice(count, 2, replace=False)
    error[pick] = rng.uniform(0.8, 1.4, 2) * rng.choice([-1, 1], 2)
    return recorded(
        book,
        ordinary(rng, crank_tooth_deg=tuple(error.tolist()), seconds=8.0),
        rng,
        "bent teeth",
        first=float(pick[0]),
        second=float(pick[1]),
    )


def cranked(book: EngineBook, rng: Generator) -> Trouble:
    """Cranking by the starter, compression braking it by 30 to 70 % of its speed, unequally, and
    now and then with a cylinder that does not brake at all.
    """
    share = float(rng.uniform(0.3, 0.7))
    each = share * rng.uniform(0.8, 1.0, book.cylinders)
    misfires = rng.random() < 0.4
    if misfires:
        each[int(rng.integers(book.cylinders))] *= 0.15
    conditions = Conditions(
        seconds=8.0,
        rate_hz=50_000,
        rpm=float(rng.uniform(170, 260)),
        brakes=tuple(each.tolist()),
        noise_v=0.05,
    )
    return recorded(book, conditions, rng, "cranking", share=share, misfires=float(misfires))


def humming(book: EngineBook, rng: Generator) -> Trouble:
    """Mains hum on one channel or all, 0.5 to 2 V."""
    found = recorded(book, ordinary(rng), rng, "hum")
    volts, mains = float(rng.uniform(0.5, 2.0)), float(rng.choice([50, 60])) * rng.normal(1, 1e-3)
    names = list(found.capture.channels)
    hit = names if rng.random() < 0.5 else [str(rng.choice(names))]
    t, channels = (
        np.arange(found.capture.samples) / found.capture.rate_hz,
        dict(found.capture.channels),
    )
    for name in hit:
        wave = volts * np.sin(2 * np.pi * mains * t + rng.uniform(0, 6.28))
        channels[name] = channels[name] + wave.astype(np.float32)
    return replace(found, capture=replace(found.capture, channels=channels), said={"volts": volts})


def too_slow(book: EngineBook, rng: Generator) -> Trouble:
    """A sample rate that cannot show the teeth at this speed."""
    teeth = len(crank_events_deg(book.crank_wheel))
    rpm = float(rng.uniform(4500, 6500))
    rate = teeth * rpm / 60 * float(rng.uniform(2.0, 3.2))
    conditions = Conditions(seconds=5.0, rate_hz=rate, rpm=rpm, noise_v=0.05)
    return recorded(book, conditions, rng, "too slow")


def moving(book: EngineBook, rng: Generator) -> Trouble:
    """One cam moves in the middle: a step, or a slow ramp."""
    cam = str(rng.choice(list(w.shaft for w in book.cam_wheels.values())))
    by = float(rng.choice([2.0, 6.0]) * rng.choice([-1, 1]) * rng.uniform(0.9, 1.2))
    conditions = ordinary(rng, seconds=9.0)
    at, takes = float(rng.uniform(2.5, 5.0)), float(rng.choice([0.05, 0.2, 2.0]))
    conditions = replace(conditions, moves_deg={cam: ((0, 0), (at, 0), (at + takes, by), (99, by))})
    found = recorded(book, conditions, rng, "moves", at_s=at, takes_s=takes, by=by)
    return replace(found, moved={cam: (found.true_deg[cam], found.true_deg[cam] + by)})


def wandering(book: EngineBook, rng: Generator) -> Trouble:
    """Every cam wanders slowly about where it stands."""
    return recorded(
        book,
        ordinary(
            rng,
            seconds=float(rng.uniform(8, 15)),
            wander_deg=float(rng.uniform(0.2, 0.6)),
            wander_cycles=float(rng.uniform(3, 12)),
        ),
        rng,
        "wanders",
    )


def fast(book: EngineBook, rng: Generator) -> Trouble:
    """At speed, where a slow sensor is worth degrees."""
    conditions = ordinary(rng, rpm=float(rng.uniform(2500, 4500)), rate_hz=200_000.0, seconds=4.0)
    return recorded(book, conditions, rng, "fast")


def swept(book: EngineBook, rng: Generator) -> Trouble:
    """From idle to speed and back: what a sensor's delay adds grows with the speed."""
    conditions = ordinary(
        rng,
        seconds=9.0,
        rate_hz=200_000.0,
        course=((0, 800), (2, 800), (5, 3500), (6.5, 3500), (9, 900)),
    )
    return recorded(book, conditions, rng, "sweep")


READ: dict[str, Callable[[EngineBook, Generator], Trouble]] = {
    "spikes": spiky,
    "lost teeth": teeth_lost,
    "bent teeth": bent,
    "cranking": cranked,
    "hum": humming,
    "moves": moving,
    "wanders": wandering,
    "fast": fast,
    "sweep": swept,
}
REFUSED: dict[str, tuple[Callable[[EngineBook, Generator], Trouble], str]] = {
    "too slow": (too_slow, "sample rate is too slow"),
}
