"""Reading captures: error against the Cramér–Rao bound for every kind of run, and never a confident
wrong answer.

The bound takes the crank's motion as free at every tooth and straight between two: a cam edge's
angle then has variance ω²(σ_e² + ((1−f)² + f²)·σ_c²), f its place between the teeth. σ² of a Hall
edge is σ_n²/(fs·∫s′²dt) for a Gaussian step; of a reluctor's crossing the same for its pulse, whose
height follows the speed. Cycles of unlike speed are weighted by their information.
"""

import sys
import tempfile
import tracemalloc
from collections.abc import Iterator
from dataclasses import replace
from functools import partial
from pathlib import Path

import numpy as np
import pyarrow.csv as pacsv

from bench.figure import Figure, at_most, for_information, ratio
from bench.variants import COURSES, DAMAGES, damaged, reluctors, tansy
from flaneur.core.book.schema import EngineBook, ToneWheel
from flaneur.core.book.wheels import cam_events_deg, crank_events_deg
from flaneur.core.errors import CaptureError
from flaneur.core.faults.model import Faults
from flaneur.core.signals.capture import Capture
from flaneur.core.signals.correlation import correlate
from flaneur.simulation.motion import Conditions
from flaneur.simulation.synthesis import RISE_TO_SIGMA, synthesise, true_deviation_deg

PER_COURSE = 48
DAMAGED = 500


def event_variance_s2(
    book: EngineBook, wheel: ToneWheel, conditions: Conditions, rpm: np.ndarray
) -> np.ndarray:
    """Cramér–Rao variance of one event's time at given speeds, s²."""
    noise = conditions.noise_v**2 / conditions.rate_hz
    if wheel.sensor == "hall":
        sigma = book.signals.edge_rise_us * 1e-6 / RISE_TO_SIGMA
        swing = book.signals.high_v - book.signals.low_v
        return np.full(len(rpm), noise * 2 * np.sqrt(np.pi) * sigma / swing**2)
    width, peak = wheel.pulse_deg / (6 * rpm), wheel.volts_per_krpm * rpm / 1000
    return noise * width / (peak**2 * np.e * 0.75 * np.sqrt(np.pi))


def bound_deg(book: EngineBook, conditions: Conditions, cam: str, rpm: np.ndarray) -> float:
    """Bound of a cam's deviation over cycles at these speeds, crank degrees."""
    wheel = book.cam_wheel(cam)
    edge, tooth = (
        event_variance_s2(book, wheel, conditions, rpm),
        event_variance_s2(book, book.crank_wheel, conditions, rpm),
    )
    teeth = np.sort(np.array(crank_events_deg(book.crank_wheel)) % 360.0)
    events = [a for a, _ in cam_events_deg(wheel)]
    total = np.zeros(len(rpm))
    for angle in events:
        i = int(np.searchsorted(teeth, angle % 360.0))
        left, right = (
            teeth[i - 1] - (360 if i == 0 else 0),
            teeth[i % len(teeth)] + (360 if i == len(teeth) else 0),
        )
        f = (angle % 360.0 - left) / (right - left)
        total += edge + ((1 - f) ** 2 + f**2) * tooth
    per_cycle = (6 * rpm) ** 2 * total / len(events) ** 2
    return float(1 / np.sqrt(np.sum(1 / per_cycle)))


def draw_faults(rng: np.random.Generator) -> Faults:
    """A random worn engine for decoding: every kind of lateness at once, moderate."""
    return Faults(
        elongation_pct={
            "primary": rng.uniform(0, 0.8),
            "chain_a": rng.uniform(0, 0.9),
            "chain_b": rng.uniform(0, 0.9),
        },
        jumped_teeth={"chain_a/cam_a_in": int(rng.integers(-1, 2))},
        phaser_offset_deg={"phaser_b": -float(rng.uniform(0, 30))},
    )


def run(is_tiny: bool = False) -> Iterator[Figure]:
    courses = dict([*COURSES.items()][:1]) if is_tiny else COURSES
    yield from _accuracy(courses, 1 if is_tiny else PER_COURSE)
    yield from _loud(courses, 1 if is_tiny else 4)
    yield from _damage(3 if is_tiny else DAMAGED)
    yield from _speed(2 if is_tiny else 30)
    yield from _csv(1 if is_tiny else 10)


def _accuracy(courses: dict[str, Conditions], per_course: int) -> Iterator[Figure]:
    """All runs together against the bar; each kind of run by itself against the bar and two
    standard errors of its own.

    Forty-eight captures of four cams tell a root mean square to a twentieth.
    """
    hall = tansy()
    errors: list[float] = []
    everything: list[float] = []
    alone = 1.15 * (1 + 2 / np.sqrt(2 * 4 * per_course))
    for kind, book in (("hall", hall), ("vr", reluctors(hall))):
        for name, conditions in courses.items():
            scaled: list[float] = []
            for seed in range(per_course):
                rng = np.random.default_rng(seed)
                faults = draw_faults(rng)
                truth = true_deviation_deg(book, faults)
                for cam in correlate(synthesise(book, faults, conditions, rng), book).cams:
                    errors.append(cam.deviation_deg - truth[cam.cam])
                    scaled.append(
                        errors[-1] / bound_deg(book, conditions, cam.cam, np.array(cam.cycle_rpm))
                    )
            everything += scaled
            yield at_most(
                "readings",
                f"RMSE over Cramér–Rao bound, {kind} {name}",
                float(np.sqrt(np.mean(np.square(scaled)))),
                alone,
            )
    yield at_most(
        "readings",
        "RMSE over Cramér–Rao bound, all of them",
        float(np.sqrt(np.mean(np.square(everything)))),
        1.15,
    )
    yield at_most("readings", "absolute bias, degrees", abs(float(np.mean(errors))), 0.03)


def _loud(courses: dict[str, Conditions], each: int) -> Iterator[Figure]:
    """Noise 10 dB over the ordinary: below one degree, or refused."""
    hall, worst, refused = tansy(), 0.0, 0
    for book in (hall, reluctors(hall)):
        for conditions in courses.values():
            loud = replace(conditions, noise_v=conditions.noise_v * 10**0.5, cycle_scatter_deg=0.12)
            for seed in range(each):
                rng = np.random.default_rng(100 + seed)
                faults = draw_faults(rng)
                try:
                    found = correlate(synthesise(book, faults, loud, rng), book)
                except CaptureError:
                    refused += 1
                    continue
                truth = true_deviation_deg(book, faults)
                worst = max(worst, *(abs(c.deviation_deg - truth[c.cam]) for c in found.cams))
    every = each * 2 * len(courses)
    yield at_most(
        "readings",
        f"worst error at 10 dB more noise, degrees ({refused} of {every} refused)",
        worst,
        1.0,
    )


def _damage(captures: int) -> Iterator[Figure]:
    """Randomly damaged captures: nothing wrong by more than 3 standard errors plus 0.3° may pass
    without a word.
    """
    hall = tansy()
    books = (hall, reluctors(hall))
    wrong = 0
    for seed in range(captures):
        rng = np.random.default_rng(10_000 + seed)
        book, kind = books[seed % 2], DAMAGES[seed // 2 % len(DAMAGES)]
        if not silent_error(book, kind, rng):
            continue
        wrong += 1
        print(f"  silent: {kind}, seed {seed}", file=sys.stderr)
    yield at_most("readings", f"confident wrong answers in {captures} damaged captures", wrong, 0)


def silent_error(book: EngineBook, kind: str, rng: np.random.Generator) -> bool:
    """Whether one damaged capture gives a wrong deviation without a quality warning."""
    faults = draw_faults(rng)
    conditions = Conditions(seconds=4, rate_hz=50_000, rpm=float(rng.uniform(250, 2500)))
    truth = true_deviation_deg(book, faults)
    engine = book
    if kind == "bent vane":
        key = str(rng.choice([k for k, w in book.tone_wheels.items() if w.kind == "vanes"]))
        vanes = [list(v) for v in book.tone_wheels[key].vanes_deg]  # type: ignore[union-attr]
        vanes[int(rng.integers(len(vanes)))][int(rng.integers(2))] += float(
            rng.choice([-1, 1]) * rng.uniform(2, 9)
        )
        engine = _with_wheel(book, key, {"vanes_deg": [tuple(v) for v in vanes]})
    elif kind == "another engine":
        engine = _with_wheel(
            book,
            book.crank_wheel_key,
            {"teeth": int(rng.choice([36, 44, 58, 62])), "missing": int(rng.integers(1, 3))},
        )
    elif kind == "missing teeth":
        engine = _with_wheel(
            book,
            book.crank_wheel_key,
            {"more_gaps": [{"after": int(rng.integers(5, 50)), "missing": 1}]},
        )
    capture = damaged(synthesise(engine, faults, conditions, rng), kind, rng)
    try:
        found = correlate(capture, book)
    except CaptureError:
        return False
    return not found.quality and any(
        abs(c.deviation_deg - truth[c.cam]) > 3 * c.stderr_deg + 0.3 for c in found.cams
    )


def _with_wheel(book: EngineBook, key: str, change: dict[str, object]) -> EngineBook:
    text = book.model_dump()
    text["tone_wheels"][key] |= change
    return EngineBook.model_validate(text)


def _speed(seconds: float) -> Iterator[Figure]:
    book, rng = tansy(), np.random.default_rng(3)
    capture = synthesise(book, draw_faults(rng), Conditions(seconds=seconds, rate_hz=250_000), rng)
    samples = np.stack(list(capture.channels.values()))
    decoding = ratio(partial(correlate, capture, book), partial(scan_once, samples))
    yield for_information("readings", "decoding time over one warm abs-max pass", decoding)
    tracemalloc.start()
    correlate(capture, book)
    peak = tracemalloc.get_traced_memory()[1]
    tracemalloc.stop()
    yield at_most(
        "readings",
        "peak memory of decoding over the capture, itself included",
        1 + peak / samples.nbytes,
        3,
    )


def _csv(seconds: float) -> Iterator[Figure]:
    """Reading a CSV capture against pyarrow's bare reader on the same file."""
    from flaneur.formats.captures import read_here, write_csv

    book, rng = tansy(), np.random.default_rng(4)
    capture: Capture = synthesise(book, Faults(), Conditions(seconds=seconds, rate_hz=100_000), rng)
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "capture.csv"
        write_csv(capture, path)
        slower = ratio(partial(read_here, path, path.name), partial(pacsv.read_csv, path))
    yield at_most("readings", "reading CSV over pyarrow's bare reader", slower, 1.5)


def scan_once(samples: np.ndarray) -> float:
    return float(np.abs(samples).max())
