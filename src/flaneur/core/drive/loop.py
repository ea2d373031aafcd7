"""The taut path of a chain round sprockets and guide faces.

A loop is a cyclic list of discs in travel direction. ``wrap`` is +1 where the chain turns clockwise
round the disc and −1 otherwise. Between neighbours i and j with centre distance D and heading β the
free length is √(D² − k²) with k = s_j·r_j − s_i·r_i, at heading β + asin(k/D) (common tangent of
two circles, textbook).
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass

from flaneur.core.errors import BookError, Fault

TWO_PI = 2 * math.pi


@dataclass(frozen=True)
class Disc:
    """A sprocket (``teeth`` > 0) or a guide or shoe face (``teeth`` = 0); millimetres. A belt bends
    ``is_smooth``-ly.
    """

    id: str
    x: float
    y: float
    radius: float
    wrap: int
    teeth: int = 0
    is_smooth: bool = False


@dataclass(frozen=True)
class Path:
    """A solved loop. Index i of ``headings`` and ``strands_mm`` is the strand from disc i to disc
    i+1.

    Headings are radians, unwrapped along the travel so that ``headings[i-1] − headings[i]`` is
    ``wrap·turn``.
    """

    discs: tuple[Disc, ...]
    headings: tuple[float, ...]
    strands_mm: tuple[float, ...]
    turns: tuple[float, ...]
    dropped: tuple[str, ...]

    def index(self, disc_id: str) -> int:
        """Position of a disc in the path; raises KeyError for one the chain does not touch."""
        for i, disc in enumerate(self.discs):
            if disc.id == disc_id:
                return i
        raise KeyError(disc_id)

    def arrival(self, i: int) -> float:
        """Heading on which the chain reaches disc i, consistent with its departure heading."""
        return self.headings[i] + self.discs[i].wrap * self.turns[i]

    def links_on(self, i: int, pitch_mm: float, elongation: float) -> float:
        """Links lying on disc i. Teeth do not stretch; a guide carries longer links, each a chord
        of its arc.
        """
        disc = self.discs[i]
        if disc.teeth:
            return self.turns[i] * disc.teeth / TWO_PI
        link_mm = pitch_mm * (1 + elongation)
        if disc.is_smooth:
            return self.turns[i] * disc.radius / link_mm
        return self.turns[i] / (2 * math.asin(link_mm / (2 * disc.radius)))

    def links(self, pitch_mm: float, elongation: float) -> float:
        """Links round the whole loop, a real number."""
        free = sum(self.strands_mm) / (pitch_mm * (1 + elongation))
        return free + sum(self.links_on(i, pitch_mm, elongation) for i in range(len(self.discs)))

    def links_between(self, start: int, end: int, pitch_mm: float, elongation: float) -> float:
        """Links from where the chain leaves disc ``start`` to where it reaches disc ``end`` in
        travel direction.
        """
        total = 0.0
        i = start
        while True:
            total += self.strands_mm[i] / (pitch_mm * (1 + elongation))
            i = (i + 1) % len(self.discs)
            if i == end:
                return total
            total += self.links_on(i, pitch_mm, elongation)


def pitch_radius(pitch_mm: float, teeth: int) -> float:
    """Pitch radius r = p / (2 sin(π/z)) of a chain sprocket in mm (ISO 606)."""
    return pitch_mm / (2 * math.sin(math.pi / teeth))


def belt_radius(pitch_mm: float, teeth: int) -> float:
    """Pitch radius r = p·z / 2π of a toothed pulley in mm: a belt bends smoothly, a chain in
    chords.
    """
    return pitch_mm * teeth / TWO_PI


def _strand(a: Disc, b: Disc) -> tuple[float, float]:
    dx, dy = b.x - a.x, b.y - a.y
    distance = math.hypot(dx, dy)
    k = b.wrap * b.radius - a.wrap * a.radius
    if abs(k) >= distance:
        raise BookError(
            f"The faces of {a.id} and {b.id} overlap: no strand fits between them.",
            [
                Fault(
                    f"{a.id}, {b.id}",
                    f"centres {distance:.1f} mm apart, radii need {abs(k):.1f} mm",
                )
            ],
        )
    return math.sqrt(distance**2 - k**2), math.atan2(dy, dx) + math.asin(k / distance)


def solve_path(discs: Sequence[Disc]) -> Path:
    """Solve the taut path. A guide the chain no longer bends round is dropped and the rest solved
    again.

    Raises BookError when two neighbouring faces overlap.
    """
    kept = list(discs)
    dropped: list[str] = []
    while True:
        strands = [_strand(a, b) for a, b in zip(kept, kept[1:] + kept[:1], strict=True)]
        turns: list[float] = []
        left: int | None = None
        for i, disc in enumerate(kept):
            turn = (disc.wrap * (strands[i - 1][1] - strands[i][1])) % TWO_PI
            if not disc.teeth and turn > math.pi:
                left = i if left is None else left
            turns.append(turn)
        if left is None:
            break
        dropped.append(kept.pop(left).id)
    headings = [strands[0][1]]
    for disc, turn in zip(kept[1:], turns[1:], strict=True):
        headings.append(headings[-1] - disc.wrap * turn)
    return Path(
        tuple(kept), tuple(headings), tuple(s[0] for s in strands), tuple(turns), tuple(dropped)
    )
