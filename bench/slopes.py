"""How plunger and lag answer to a little wear: closed-form derivatives, a witness of the solved
loop.

For a strand with centre vector v (length D, heading β) and k = s_j·R_j − s_i·R_i the free length is
ℓ = √(D² − k²) at heading α = β + asin(k/D); so dℓ = (D·dD − k·dk)/ℓ and dα = dβ + (dk − k·dD/D)/ℓ,
with dD = v·dv/D, dβ = v×dv/D². Turns follow from headings, links from lengths and turns; the
plunger from keeping the number of links (implicit function), and lag from M as in ``chain``. Guide
arcs count chords, whose half angle is asin(q), q = p(1+ε)/2R.
"""

import math
from collections.abc import Callable
from dataclasses import dataclass

from flaneur.core.drive.arm import clock_to_heading
from flaneur.core.drive.chain import NEW, ChainDrive, ChainWear
from flaneur.core.drive.loop import TWO_PI, Path
from flaneur.core.errors import BookError, Fault


@dataclass(frozen=True)
class Push:
    """A small change: disc centres (dx, dy) and radii by disc id, and elongation."""

    centres: dict[str, tuple[float, float]]
    radii: dict[str, float]
    elongation: float = 0.0


@dataclass(frozen=True)
class Slopes:
    """Change per unit of wear: plunger in mm (None without tensioner), lag per driven sprocket in
    its own degrees.
    """

    plunger_mm: float | None
    lag_deg: dict[str, float]


@dataclass(frozen=True)
class _Moved:
    lengths: list[float]
    headings: list[float]
    turns: list[float]


def _moved(path: Path, push: Push) -> _Moved:
    lengths: list[float] = []
    headings: list[float] = []
    count = len(path.discs)
    for i, a in enumerate(path.discs):
        b = path.discs[(i + 1) % count]
        (ax, ay), (bx, by) = push.centres.get(a.id, (0.0, 0.0)), push.centres.get(b.id, (0.0, 0.0))
        vx, vy, dx, dy = b.x - a.x, b.y - a.y, bx - ax, by - ay
        distance, free = math.hypot(vx, vy), path.strands_mm[i]
        k = b.wrap * b.radius - a.wrap * a.radius
        dk = b.wrap * push.radii.get(b.id, 0.0) - a.wrap * push.radii.get(a.id, 0.0)
        d_distance = (vx * dx + vy * dy) / distance
        lengths.append((distance * d_distance - k * dk) / free)
        headings.append((vx * dy - vy * dx) / distance**2 + (dk - k * d_distance / distance) / free)
    turns = [disc.wrap * (headings[i - 1] - headings[i]) for i, disc in enumerate(path.discs)]
    return _Moved(lengths, headings, turns)


def _link_rates(
    path: Path, moved: _Moved, push: Push, pitch_mm: float, elongation: float
) -> tuple[list[float], list[float]]:
    """Change of the links on every free strand and on every disc."""
    link = pitch_mm * (1 + elongation)
    d_link = pitch_mm * push.elongation
    strands = [
        d / link - length * d_link / link**2
        for d, length in zip(moved.lengths, path.strands_mm, strict=True)
    ]
    on: list[float] = []
    for disc, turn, d_turn in zip(path.discs, path.turns, moved.turns, strict=True):
        d_radius = push.radii.get(disc.id, 0.0)
        if disc.teeth:
            on.append(d_turn * disc.teeth / TWO_PI)
        elif disc.is_smooth:
            on.append(
                (d_turn * disc.radius + turn * d_radius) / link
                - turn * disc.radius * d_link / link**2
            )
        else:
            q = link / (2 * disc.radius)
            half = math.asin(q)
            d_half = (
                d_link / (2 * disc.radius) - link * d_radius / (2 * disc.radius**2)
            ) / math.sqrt(1 - q * q)
            on.append(d_turn / (2 * half) - turn * d_half / (2 * half**2))
    return strands, on


def _plunger_push(drive: ChainDrive, plunger_mm: float, path: Path) -> Push:
    """How the arm's face moves for a millimetre of plunger."""
    arm, tensioner = drive.arm, drive.tensioner
    heading = clock_to_heading(tensioner.direction_clock_deg)
    arm_id = drive.arm_id or ""
    if arm.pivot_mm is None:
        return Push({arm_id: (math.cos(heading), math.sin(heading))}, {})
    qx, qy = tensioner.pad_mm[0] - arm.pivot_mm[0], tensioner.pad_mm[1] - arm.pivot_mm[1]
    lever = math.hypot(qx, qy)
    gamma = math.remainder(math.atan2(qy, qx) - heading, TWO_PI)
    now = math.copysign(
        math.acos(math.cos(gamma) + (plunger_mm - tensioner.book_plunger_mm) / lever), gamma
    )
    per_mm = -1.0 / (lever * math.sin(now))
    disc = path.discs[path.index(arm_id)]
    return Push(
        {arm_id: (-per_mm * (disc.y - arm.pivot_mm[1]), per_mm * (disc.x - arm.pivot_mm[0]))}, {}
    )


def slopes(drive: ChainDrive, push: Push, wear: ChainWear = NEW) -> Slopes:
    """Derivatives of plunger and lags in the direction of a push, at a state of wear.

    Raises BookError where the arm does not touch the chain, so that its plunger answers to nothing.
    """
    plunger = drive.plunger_mm(wear) if drive.has_tensioner else 0.0
    path = drive.path(plunger, wear)

    def rates(change: Push) -> tuple[float, Callable[[str], float]]:
        moved = _moved(path, change)
        strands, on = _link_rates(path, moved, change, drive.pitch_mm, wear.elongation)

        def phase(sprocket: str) -> float:
            """dM of a driven sprocket."""
            c, d = path.index(sprocket), path.index(drive.chain.driver)
            links, i = strands[c], (c + 1) % len(path.discs)
            while i != d:
                links += on[i] + strands[i]
                i = (i + 1) % len(path.discs)
            driven, driver = path.discs[c], path.discs[d]
            arrival = moved.headings[d - 1]
            return (
                links
                - driven.wrap * driven.teeth * moved.headings[c] / TWO_PI
                + driver.wrap * driver.teeth * arrival / TWO_PI
            )

        return sum(strands) + sum(on), phase

    links, phase = rates(push)
    per_plunger: float | None = None
    along: Callable[[str], float] = lambda _: 0.0  # noqa: E731
    if drive.has_tensioner:
        if drive.arm_id in path.dropped:
            raise BookError(
                f"The {drive.arm.name} does not touch the {drive.chain.name}.",
                [Fault(f"arms.{drive.arm_id}", "not touched")],
            )
        by_plunger, along = rates(_plunger_push(drive, plunger, path))
        per_plunger = -links / by_plunger
    lags = {
        s: -(phase(s) + (per_plunger or 0.0) * along(s)) * 360.0 / drive.book.sprockets[s].teeth
        for s in drive.driven
    }
    return Slopes(per_plunger, lags)


def elongation_slopes(drive: ChainDrive, wear: ChainWear = NEW) -> Slopes:
    """Per unit of elongation (a fraction; divide by 100 for a per cent)."""
    return slopes(drive, Push({}, {}, 1.0), wear)


def liner_slopes(drive: ChainDrive, face: str, wear: ChainWear = NEW) -> Slopes:
    """Per millimetre of wear of a guide's or arm's liner."""
    return slopes(drive, Push({}, {face: -1.0}), wear)
