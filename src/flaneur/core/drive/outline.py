"""A solved path as pieces a drawing can walk along link by link: straight strands, arcs, and the
bow of a slack strand.
"""

import math

from pydantic import BaseModel, ConfigDict
from scipy.optimize import brentq

from flaneur.core.drive.loop import Disc, Path


class Piece(BaseModel):
    """A straight piece (``line``: x0, y0, x1, y1) or an arc (``arc``: cx, cy, r, from, to in
    radians), with its links.
    """

    model_config = ConfigDict(frozen=True)

    line: list[float] | None = None
    arc: list[float] | None = None
    links: float


def on_disc(disc: Disc, angle: float, inset: float = 0.0) -> tuple[float, float]:
    """The point of a disc's circle, ``inset`` mm further in, at a heading from its centre."""
    r = disc.radius - inset
    return disc.x + r * math.cos(angle), disc.y + r * math.sin(angle)


def contact_angles(path: Path, i: int) -> tuple[float, float]:
    """Headings from the centre of disc i at which the chain reaches and leaves it; they run the way
    it travels.
    """
    disc = path.discs[i]
    leave = path.headings[i] + disc.wrap * math.pi / 2
    return leave + disc.wrap * path.turns[i], leave


def pieces(
    path: Path,
    pitch_mm: float,
    elongation: float,
    slack_strand: int | None = None,
    slack_links: float = 0.0,
) -> list[Piece]:
    """The loop from where it leaves disc 0 round to there again; one strand may hang inwards with
    links to spare.
    """
    result: list[Piece] = []
    for i in range(len(path.discs)):
        after = (i + 1) % len(path.discs)
        x0, y0 = on_disc(path.discs[i], contact_angles(path, i)[1])
        x1, y1 = on_disc(path.discs[after], contact_angles(path, after)[0])
        straight = path.strands_mm[i] / (pitch_mm * (1 + elongation))
        if i == slack_strand and slack_links > 1e-3:
            result.append(_bow((x0, y0, x1, y1), straight, slack_links, path.discs[0].wrap))
        else:
            result.append(Piece(line=[x0, y0, x1, y1], links=straight))
        reach, leave = contact_angles(path, after)
        disc = path.discs[after]
        result.append(
            Piece(
                arc=[disc.x, disc.y, disc.radius, reach, leave],
                links=path.links_on(after, pitch_mm, elongation),
            )
        )
    return result


def _bow(
    chord: tuple[float, float, float, float], straight: float, spare: float, wrap: int
) -> Piece:
    """A strand that is too long drawn as an arc towards the inside of the loop: chord/arc =
    sin(h)/h for half angle h.

    The inside lies on the right of a chain that goes round clockwise (``wrap`` +1), on the left of
    the other.
    """
    x0, y0, x1, y1 = chord
    length = math.hypot(x1 - x0, y1 - y0)
    share = straight / (straight + spare)
    half = float(brentq(lambda h: math.sin(h) / h - share, 1e-6, math.pi - 1e-6))
    radius = length / (2 * math.sin(half))
    heading = math.atan2(y1 - y0, x1 - x0)
    cx = (x0 + x1) / 2 - wrap * radius * math.cos(half) * math.sin(heading)
    cy = (y0 + y1) / 2 + wrap * radius * math.cos(half) * math.cos(heading)
    start = math.atan2(y0 - cy, x0 - cx)
    return Piece(arc=[cx, cy, radius, start, start + wrap * 2 * half], links=straight + spare)
