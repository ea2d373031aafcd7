"""Bolts being tightened, as a torque–angle wrench would record them: a stand-in with faults on
command.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from flaneur.core.book.tasks import Stage
from flaneur.core.fasteners.judging import BoltFault
from flaneur.core.fasteners.trace import Trace

Floats = NDArray[np.float64]
FREE_DEG, CLOSING_DEG = 150.0, 24.0


@dataclass(frozen=True)
class Joint:
    """The bolts of one part. ``slope_nm_deg``: of the elastic range at ordinary friction;
    ``stretch_deg``: elastic stretch at which the slope has fallen to half; beyond it, ``rest`` of
    the slope is left.
    """

    slope_nm_deg: float = 0.75
    stretch_deg: float = 130.0
    rest: float = 0.12
    soft_deg: float = 8.0
    free_share: float = 0.02


@dataclass(frozen=True)
class Hand:
    """How it is tightened: degrees a second, degrees a stroke of the ratchet, samples a second,
    noise of the torque as a share of the largest and of the angle in degrees (1σ).
    """

    speed_deg_s: float = 60.0
    stroke_deg: float = 75.0
    rate_hz: float = 200.0
    noise_share: float = 0.006
    noise_deg: float = 0.05


@dataclass(frozen=True)
class Truth:
    """What is true of a made-up trace: its fault, and where its slope falls to half."""

    fault: BoltFault | None
    yields_deg: float | None


def tighten(
    name: str,
    stages: list[Stage],
    rng: np.random.Generator,
    fault: BoltFault | None = None,
    size: float = 1.0,
    joint: Joint | None = None,
    hand: Hand | None = None,
) -> tuple[Trace, Truth]:
    """One bolt tightened by its stages with friction within ±25 % of ordinary. ``size`` times the
    least size of the fault: cross-threaded by 30 % of the snug torque, bottomed at 2.5 times the
    slope, stripped by a fall of 20 %, over by 10 %, yielding 15 % under its neighbours.
    """
    joint, hand = joint or Joint(), hand or Hand()
    friction = float(rng.uniform(0.75, 1.25))
    stretch = joint.stretch_deg * float(rng.normal(1.0, 0.012))
    slope = joint.slope_nm_deg * friction * float(rng.normal(1.0, 0.015))
    if fault is BoltFault.STRETCHED:
        stretch *= 1 - 0.15 * size
    torques = [s.value for s in stages if s.kind == "torque"]
    target = torques[-1]
    free = joint.free_share * target * float(rng.uniform(0.5, 1.5))
    top = FREE_DEG + CLOSING_DEG + 900.0
    angle: Floats = np.arange(0.0, top, 0.05)
    drawn = np.maximum(angle - FREE_DEG, 0.0)
    closing = np.minimum(drawn, CLOSING_DEG)
    stretched = closing**2 / (2 * CLOSING_DEG) + np.maximum(drawn - CLOSING_DEG, 0.0)
    elastic = slope * _pulled(stretched, stretch, joint)
    snug = slope * CLOSING_DEG / 2
    drag = np.full(angle.size, free)
    if fault is BoltFault.CROSS_THREADED:
        begins = float(rng.uniform(10.0, 0.5 * FREE_DEG))
        drag += 0.3 * size * snug * np.clip((angle - begins) / 30.0, 0.0, 1.0)
    if fault is BoltFault.BOTTOMED:
        begins = float(rng.uniform(0.15, 0.6)) * target
        meets = int(np.searchsorted(elastic, begins))
        elastic = elastic + (2.5 * size - 1) * slope * np.maximum(angle - angle[meets], 0.0)
    torque = elastic + drag
    end = _end(angle, torque, stages, rng, fault, size)
    if fault is BoltFault.STRIPPED:
        gives = int(end * float(rng.uniform(0.9, 0.97)))
        share = 1 - 0.2 * size * np.clip((angle - angle[gives]) / 12.0, 0.0, 1.0)
        torque = np.where(angle > angle[gives], torque[gives] * share, torque)
        end = min(int(np.searchsorted(angle, angle[gives] + 30.0)), angle.size - 1)
    yields = FREE_DEG + CLOSING_DEG / 2 + stretch
    is_reached = fault is not BoltFault.STRIPPED and angle[end] > yields + joint.soft_deg
    return (
        _recorded(name, angle[: end + 1], torque[: end + 1], rng, hand),
        Truth(fault, yields if is_reached and fault is not BoltFault.BOTTOMED else None),
    )


def _pulled(stretched: Floats, stretch: float, joint: Joint) -> Floats:
    """Degrees of pull for degrees of stretch: straight at first, bent at the yield point, where the
    slope is half.
    """
    past = (stretched - stretch) / joint.soft_deg
    # Slope from 1 to ``rest`` by a logistic curve whose half lies at the yield point.
    lean = np.log(max(0.5 - joint.rest, 1e-6) / 0.5)
    fall = joint.soft_deg * np.logaddexp(0.0, past - lean)
    return stretched - (1 - joint.rest) * fall


def _end(
    angle: Floats,
    torque: Floats,
    stages: list[Stage],
    rng: np.random.Generator,
    fault: BoltFault | None,
    size: float,
) -> int:
    """Index at which the tightening ends: the stages done, short of them, or past them."""
    past = 1 + 0.1 * size if fault is BoltFault.OVER else 1.0
    if fault is BoltFault.NOT_REACHED:
        past = 1 - 0.2 * size
    last = stages[-1]
    target = [s.value for s in stages if s.kind == "torque"][-1]
    loose = float(rng.normal(1.0, 0.008))
    if last.kind == "torque":
        return min(int(np.searchsorted(torque, target * past * loose)), angle.size - 1)
    turned = sum(s.value if s.kind == "angle" else -s.value for s in stages if s.kind != "torque")
    start = int(np.searchsorted(torque, target * loose))
    on = turned * past * float(rng.normal(1.0, 0.008))
    if fault in (BoltFault.OVER, BoltFault.NOT_REACHED):  # by at least twice its tolerance
        least = 2 * last.tolerance + 4
        on = max(on, turned + least) if past > 1 else min(on, turned - least)
    return min(int(np.searchsorted(angle, angle[min(start, angle.size - 1)] + on)), angle.size - 1)


def _recorded(
    name: str, angle: Floats, torque: Floats, rng: np.random.Generator, hand: Hand
) -> Trace:
    """As the wrench sends it: stroke by stroke, with the torque let go between two."""
    step = hand.speed_deg_s / hand.rate_hz
    angles: list[Floats] = []
    torques: list[Floats] = []
    at = float(angle[0])
    while at < angle[-1]:
        to = min(at + hand.stroke_deg * float(rng.uniform(0.85, 1.15)), float(angle[-1]))
        on: Floats = np.arange(at, to, step)
        applied = np.interp(on, angle, torque)
        if at > angle[0] and applied.size:
            # Let go and taken up again: the torque comes back before the bolt breaks loose.
            pause = round(0.35 * hand.rate_hz)
            up = np.linspace(0.0, applied[0], round(0.1 * hand.rate_hz))
            angles += [np.full(pause + up.size, at)]
            torques += [np.zeros(pause), up]
            applied = applied * (1 + 0.05 * np.exp(-(on - at) / 0.5))
        angles.append(on)
        torques.append(applied)
        at = to
    whole, pulled = np.concatenate(angles), np.concatenate(torques)
    largest = float(pulled.max())
    return Trace.of(
        name,
        np.arange(whole.size) / hand.rate_hz,
        whole + rng.normal(0.0, hand.noise_deg, whole.size),
        pulled + rng.normal(0.0, hand.noise_share * largest, whole.size),
    )
