"""Loops against the textbook, lag against ε·L/r, and the two ways of laying a chain against each other."""

import math
from collections.abc import Iterator

import numpy as np

from bench.figure import Figure, at_most
from bench.readings import draw_faults
from bench.variants import BOOK
from flaneur.core.book.loading import parse_book
from flaneur.core.drive.chain import ChainWear
from flaneur.core.drive.loop import Disc, pitch_radius, solve_path
from flaneur.core.drive.placement import placed_state
from flaneur.core.drive.train import DriveTrain


def textbook_length(r1: float, r2: float, distance: float) -> float:
    """Open loop round two discs: 2·√(C²−(R−r)²) + R·(π+2φ) + r·(π−2φ), sin φ = (R−r)/C."""
    phi = math.asin((r2 - r1) / distance)
    return 2 * math.sqrt(distance**2 - (r2 - r1) ** 2) + r2 * (math.pi + 2 * phi) + r1 * (math.pi - 2 * phi)


def run() -> Iterator[Figure]:
    rng = np.random.default_rng(3)
    worst = 0.0
    for _ in range(2000):
        z1, z2 = (int(z) for z in rng.integers(15, 60, 2))
        pitch = float(rng.uniform(6, 13))
        r1, r2 = pitch_radius(pitch, z1), pitch_radius(pitch, z2)
        distance = (r1 + r2) * float(rng.uniform(1.05, 6))
        heading = float(rng.uniform(0, 2 * math.pi))
        far = Disc("b", distance * math.cos(heading), distance * math.sin(heading), r2, 1, z2)
        path = solve_path([Disc("a", 0, 0, r1, 1, z1), far])
        length = sum(path.strands_mm) + sum(t * d.radius for t, d in zip(path.turns, path.discs, strict=True))
        exact = textbook_length(r1, r2, distance)
        worst = max(worst, abs(length - exact) / exact)
    yield at_most("geometry", "two-sprocket length, relative error", worst, 1e-9)
    book = parse_book(BOOK.read_text())
    train = DriveTrain(book)
    off = 0.0
    for drive in train.chains.values():
        sprocket = drive.driven[-1]
        path = drive.book_path
        index = path.index(sprocket)
        length = drive.pitch_mm * path.links_between(index, path.index(drive.chain.driver), drive.pitch_mm, 0.0)
        for elongation in (0.001, 0.003, 0.005):
            lag = math.radians(drive.lags_deg(ChainWear(elongation))[sprocket])
            simple = elongation * length / path.discs[index].radius
            off = max(off, abs(lag - simple) / simple)
    yield at_most("geometry", "lag against ε·L_tight/r, relative", off, 0.06)
    apart = 0.0
    for seed in range(40):
        faults = draw_faults(np.random.default_rng(seed))
        placed, solved = placed_state(book, faults), train.state(faults)
        apart = max(apart, *(abs(placed.deviation_deg[c] - solved.deviation_deg[c]) for c in book.cams))
    yield at_most("geometry", "path solver against pin-by-pin, degrees", apart, 0.05)
