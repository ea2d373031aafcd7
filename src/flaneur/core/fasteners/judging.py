"""Judging how bolts were tightened, from their traces: each against its program, and against its
neighbours.

What friction does to a torque it does to the slope of the curve as well, so that bolts are compared
by the ratio of the two: the degrees a bolt is stretched elastically before it yields.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

import numpy as np
from pydantic import BaseModel, ConfigDict, Field

from flaneur.core.book.tasks import Stage
from flaneur.core.fasteners.trace import WINDOW_DEG, Curve, Trace, curve_of
from flaneur.core.wording import joined

ELASTIC_FROM, ELASTIC_TO = 0.4, 0.8  # of the last torque stage: there a bolt is elastic by design
SNUG_SLOPE = 0.8  # of the elastic slope: from there the joint is closed
CROSS_SHARE = 0.2  # of the snug torque more than usual, before the joint closes
ALWAYS_HEAVY = 0.5  # of it, whatever is usual
FREE_DEG = 45
EARLY_FROM, EARLY_TO = 0.3, 0.5  # of it: before most bolts that bottom do
STEEP, BENT, BENT_ALONE = 1.6, 1.5, 1.75  # times the neighbours' slope; times its own before
FALLEN = 0.13  # of the highest torque, while it was turned on
OVER_SHARE = 0.07  # of a torque, where its tolerance is wider: a trace is read to a few per cent
SHORT_YIELD = 0.925  # of what neighbours stretch before they yield
YIELD_SLOPE = 0.5
FEW_NEIGHBOURS = 3


class JudgeModel(BaseModel):
    """What a judgement is made of."""

    model_config = ConfigDict(frozen=True)


class Program(JudgeModel):
    """What a bolt is tightened by: its stages, and what is known of bolts of its kind from before:
    ``slope_nm_deg`` in the elastic range, and how many degrees they stretch before they yield.
    """

    fastener: str = "bolt"
    stages: list[Stage] = Field(min_length=1)
    slope_nm_deg: float | None = Field(default=None, gt=0)
    stretch_deg: float | None = Field(default=None, gt=0)


class BoltFault(StrEnum):
    """What can be wrong with a bolt that was tightened."""

    CROSS_THREADED = "cross_threaded"
    BOTTOMED = "bottomed"
    STRIPPED = "stripped"
    STRETCHED = "stretched_before"
    OVER = "over_torqued"
    NOT_REACHED = "not_reached"


class Point(JudgeModel):
    """A point of a curve."""

    angle_deg: float
    torque_nm: float


class BoltFinding(JudgeModel):
    """One fault, in words."""

    code: BoltFault
    words: str


class Judged(JudgeModel):
    """One bolt. ``sound``: nothing is wrong with it as far as it could be told; ``is_compared``:
    its slope was held against neighbours, or what is known. ``snug``: where its joint closed;
    ``slope_nm_deg`` of its elastic range; ``yields``: where the slope has fallen to half, None
    where it did not; ``stretch_deg`` elastically before that; ``turned_deg`` since the last torque
    stage was reached.
    """

    trace: str
    sound: bool
    is_compared: bool
    words: str
    faults: list[BoltFinding]
    snug: Point | None
    slope_nm_deg: float | None
    yields: Point | None
    stretch_deg: float | None
    peak_nm: float
    turned_deg: float | None


@dataclass(frozen=True)
class _Read:
    """A curve with what was found on it."""

    name: str
    curve: Curve
    target_nm: float
    slope: float | None
    early: float | None
    elastic: tuple[int, int]
    snug: int | None
    yields: int | None

    @property
    def heavy(self) -> tuple[float, float] | None:
        """Torque while it still runs free: where it is lightest, and just before its head touches;
        None where the trace begins too late.
        """
        if self.snug is None or not self.slope:
            return None
        torque = self.curve.torque_nm
        # Where the line of the elastic range meets nought its head touches.
        touches = int(self.snug - torque[self.snug] / self.slope - WINDOW_DEG / 2)
        if touches < WINDOW_DEG:
            return None
        free = torque[max(0, touches - FREE_DEG) : touches]
        lightest = np.convolve(torque[:touches], np.full(5, 0.2), mode="valid").min()
        return float(lightest), float(np.quantile(free, 0.7))

    @property
    def peak(self) -> float:
        return self.curve.peak_nm

    @property
    def stretch_deg(self) -> float | None:
        """Degrees of elastic stretch at the yield point: friction cancels out."""
        if self.yields is None or not self.slope:
            return None
        return float(self.curve.torque_nm[self.yields]) / self.slope


def judge(traces: Sequence[Trace], program: Program) -> list[Judged]:
    """Judge the bolts of one part, in the order given. With three or more they are compared with
    each other, else with what the program knows of their kind; where nothing is known, nothing is
    said of slope and stretch. Raises ReadingError for a trace that cannot be read.
    """
    read = [_read(trace, program) for trace in traces]
    return [_judged(r, [o for o in read if o is not r], program) for r in read]


def _read(trace: Trace, program: Program) -> _Read:
    curve = curve_of(trace)
    torques = [s.value for s in program.stages if s.kind == "torque"]
    target = torques[-1] if torques else float(curve.torque_nm.max())
    peak_at = int(curve.torque_nm.argmax())
    top = min(target, float(curve.torque_nm.max()))
    low, high = curve.reaches(ELASTIC_FROM * top), curve.reaches(ELASTIC_TO * top)
    if low is None or high is None or high - low < 2:
        return _Read(trace.name, curve, target, None, None, (0, 0), None, None)
    slope = _slope(curve, low, high)
    begins, ends = curve.reaches(EARLY_FROM * top), curve.reaches(EARLY_TO * top)
    early = _slope(curve, begins, ends) if begins is not None and ends is not None else slope
    snug, yields = _snug(curve, slope, low), _yields(curve, slope, high, peak_at)
    return _Read(trace.name, curve, target, slope, early, (low, high), snug, yields)


def _slope(curve: Curve, low: int, high: int) -> float:
    """Slope of the straight line through a stretch of a curve, of four values at least."""
    high = min(max(high, low + 3), len(curve.angle_deg) - 1)
    angle, torque = curve.angle_deg[low : high + 1], curve.torque_nm[low : high + 1]
    spread = angle - angle.mean()
    return max(float(spread @ torque / max(float(spread @ spread), 1e-9)), 1e-6)


def _snug(curve: Curve, slope: float, low: int) -> int:
    """Where the joint is closed: back from the elastic range to where the slope begins to hold."""
    i = low
    while i > 0 and curve.slope[i - 1] >= SNUG_SLOPE * slope:
        i -= 1
    return i


def _yields(curve: Curve, slope: float, start: int, peak_at: int) -> int | None:
    """Where the slope has fallen to half of the elastic one and stays there, the end of the curve
    left out: its last degrees are let go.
    """
    half = round(WINDOW_DEG / 2)
    last = len(curve.slope) - 1
    steepest = start
    for i in range(start, last):
        if curve.slope[i] > curve.slope[steepest]:
            steepest = i
        stays = curve.slope[i : min(i + half + 1, last + 1)]
        if last - i >= half - 1 and (stays < YIELD_SLOPE * slope).all() and i <= peak_at + half:
            return i
    return None


def _judged(read: _Read, others: Sequence[_Read], program: Program) -> Judged:
    faults = [
        found
        for found in (
            _cross_threaded(read, others),
            _bottomed(read, others, program),
            _stripped(read),
            _stretched(read, others, program),
            *_reached(read, program),
        )
        if found is not None
    ]
    turned = _turned(read)
    is_compared = _usual([o.slope for o in others], program.slope_nm_deg) is not None
    names = [_NAMES[f.code] for f in faults]
    return Judged(
        trace=read.name,
        sound=not faults,
        is_compared=is_compared,
        words=f"{joined(names)}." if names else SOUND if is_compared else NOT_COMPARED,
        faults=faults,
        snug=_point(read.curve, read.snug),
        slope_nm_deg=read.slope,
        yields=_point(read.curve, read.yields),
        stretch_deg=read.stretch_deg,
        peak_nm=read.peak,
        turned_deg=turned,
    )


SOUND = "sound."
NOT_COMPARED = "nothing found; slope and stretch are not compared: nobody knows what is usual."
_NAMES = {
    BoltFault.CROSS_THREADED: "cross-threaded",
    BoltFault.BOTTOMED: "bottomed in its hole",
    BoltFault.STRIPPED: "its thread gives way",
    BoltFault.STRETCHED: "stretched before",
    BoltFault.OVER: "tightened too far",
    BoltFault.NOT_REACHED: "not tightened to the end",
}


def _point(curve: Curve, at: int | None) -> Point | None:
    if at is None:
        return None
    return Point(angle_deg=float(curve.angle_deg[at]), torque_nm=float(curve.torque_nm[at]))


def _cross_threaded(read: _Read, others: Sequence[_Read]) -> BoltFinding | None:
    """Heavier before the joint closes than its neighbours are, or than it was itself."""
    if read.heavy is None or read.snug is None:
        return None
    light, heavy = read.heavy
    closed = float(read.curve.torque_nm[read.snug])
    usual = _usual([o.heavy[1] if o.heavy else None for o in others], None)
    is_heavy = heavy - (light if usual is None else usual) > CROSS_SHARE * closed
    if not is_heavy and heavy < ALWAYS_HEAVY * closed:
        return None
    return BoltFinding(
        code=BoltFault.CROSS_THREADED,
        words=f"{heavy:.1f} Nm before its head touched, {100 * heavy / closed:.0f} % of the "
        f"{closed:.1f} Nm at which the joint closed: back it out, look at both threads.",
    )


def _bottomed(read: _Read, others: Sequence[_Read], program: Program) -> BoltFinding | None:
    """Far too steep: it turns against the bottom of its hole, and the joint may be loose. Steeper
    than its neighbours, and either all the way or from a bend on.
    """
    if read.slope is None or read.early is None:
        return None
    curve = read.curve
    start, end = read.elastic[0], int(curve.torque_nm.argmax())
    steepest = float(curve.slope[start : max(end, start + 1)].max())
    usual, bend = _usual([o.slope for o in others], program.slope_nm_deg), steepest / read.early
    if usual is None:
        is_steep, times, than = bend >= BENT_ALONE, bend, "its own before"
    else:
        is_bent = bend >= BENT or read.slope >= STEEP * usual
        is_steep = steepest >= STEEP * usual and is_bent
        times, than = steepest / usual, "its neighbours'"
    if not is_steep:
        return None
    return BoltFinding(
        code=BoltFault.BOTTOMED,
        words=f"{steepest:.2f} Nm a degree, {times:.1f} times {than}: is it the long bolt in a "
        "short hole, or oil in the hole?",
    )


def _usual(found: Sequence[float | None], known: float | None) -> float | None:
    """The median of what neighbours have, where there are enough; else what is known of them."""
    have = [f for f in found if f]
    return float(np.median(have)) if len(have) + 1 >= FEW_NEIGHBOURS and len(have) > 1 else known


def _stripped(read: _Read) -> BoltFinding | None:
    """The torque falls while it is turned on."""
    torque = read.curve.torque_nm
    at = int(torque.argmax())
    after = torque[at:]
    if after.size < 3:
        return None
    lowest = float(np.median(np.sort(after)[:2]))
    if lowest > (1 - FALLEN) * read.peak:
        return None
    return BoltFinding(
        code=BoltFault.STRIPPED,
        words=f"From {read.peak:.1f} Nm it fell to {lowest:.1f} Nm while it was turned on: the "
        "thread goes. Repair the thread before any bolt goes in again.",
    )


def _stretched(read: _Read, others: Sequence[_Read], program: Program) -> BoltFinding | None:
    """It yields before its neighbours do."""
    usual = _usual([o.stretch_deg for o in others], program.stretch_deg)
    own = read.stretch_deg
    if own is None or usual is None or own >= SHORT_YIELD * usual:
        return None
    return BoltFinding(
        code=BoltFault.STRETCHED,
        words=f"It yields after {own:.0f}° of stretch, its neighbours after {usual:.0f}°: a bolt "
        "that was tightened before. A new one.",
    )


def _turned(read: _Read) -> float | None:
    """Degrees turned on since the last torque stage was reached."""
    at = read.curve.reaches(read.target_nm)
    if at is None:
        return None
    return float(read.curve.angle_deg[-1] - read.curve.angle_deg[at]) + read.curve.short_deg


def _reached(read: _Read, program: Program) -> list[BoltFinding]:
    """Whether the last stage was reached, and not passed."""
    last = program.stages[-1]
    if last.kind == "torque":
        value, unit = read.peak, "Nm"
        loose = min(last.tolerance, OVER_SHARE * last.value)
    else:
        angles = 0.0
        for stage in reversed(program.stages):
            if stage.kind == "torque":
                break
            angles += stage.value if stage.kind == "angle" else -stage.value
        last = Stage(kind="angle", value=angles, tolerance=last.tolerance)
        value, unit, loose = _turned(read) or 0.0, "°", last.tolerance + 2.0
    said = f"{value:.1f} {unit} of {last.value:g} {unit}"
    if value < last.value - loose:
        return [BoltFinding(code=BoltFault.NOT_REACHED, words=f"{said}: its program did not end.")]
    if value > last.value + loose:
        return [
            BoltFinding(
                code=BoltFault.OVER,
                words=f"{said}: slacken it, look at bolt and thread; a one-use bolt is replaced.",
            )
        ]
    return []
