"""Loops against the textbook, lag against ε·L/r, and the two ways of laying a chain against each
other, for every engine.
"""

import math
from collections.abc import Iterator
from fractions import Fraction

import numpy as np

from bench.figure import Figure, at_most, factor_of
from bench.readings import draw_faults
from bench.slopes import elongation_slopes, liner_slopes
from bench.variants import every_book
from flaneur.core.book.schema import EngineBook
from flaneur.core.clearance.contact import Contacts
from flaneur.core.clearance.touch import touch_map
from flaneur.core.drive.chain import NEW, ChainDrive, ChainWear
from flaneur.core.drive.loop import Disc, pitch_radius, solve_path
from flaneur.core.drive.train import DriveTrain
from flaneur.core.drive.turns import coming_back
from flaneur.core.faults.model import Faults
from flaneur.simulation.placement import closing_plunger_mm, placed_lags_deg, placed_state

SOLVE_MS, MAP_MS = 5.0, 300.0


def textbook_length(r1: float, r2: float, distance: float) -> float:
    """Open loop round two discs: 2·√(C²−(R−r)²) + R·(π+2φ) + r·(π−2φ), sin φ = (R−r)/C."""
    phi = math.asin((r2 - r1) / distance)
    return (
        2 * math.sqrt(distance**2 - (r2 - r1) ** 2)
        + r2 * (math.pi + 2 * phi)
        + r1 * (math.pi - 2 * phi)
    )


def run(is_tiny: bool = False) -> Iterator[Figure]:
    del is_tiny  # small enough as it is
    yield _textbook()
    books = every_book()
    tansy = next(b for b in books if b.name == "Ostrey Tansy")
    yield _simple_lag(tansy)
    train = DriveTrain(tansy)
    apart = 0.0
    for seed in range(40):
        faults = draw_faults(np.random.default_rng(seed))
        placed, solved = placed_state(tansy, faults), train.state(faults)
        apart = max(
            apart, *(abs(placed.deviation_deg[c] - solved.deviation_deg[c]) for c in tansy.cams)
        )
    yield at_most(
        "geometry", "path solver against pin-by-pin, 40 random engines, degrees", apart, 0.05
    )
    yield from _against_walked(books)
    yield _sensitivities(books)
    yield from _times(books)
    yield from _integers(books)


def _textbook() -> Figure:
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
        length = sum(path.strands_mm) + sum(
            t * d.radius for t, d in zip(path.turns, path.discs, strict=True)
        )
        exact = textbook_length(r1, r2, distance)
        worst = max(worst, abs(length - exact) / exact)
    return at_most("geometry", "two-sprocket length, relative error", worst, 1e-9)


def _simple_lag(book: EngineBook) -> Figure:
    off = 0.0
    for drive in DriveTrain(book).chains.values():
        sprocket = drive.driven[-1]
        path = drive.book_path
        index = path.index(sprocket)
        length = drive.pitch_mm * path.links_between(
            index, path.index(drive.chain.driver), drive.pitch_mm, 0.0
        )
        for elongation in (0.001, 0.003, 0.005):
            lag = math.radians(drive.lags_deg(ChainWear(elongation))[sprocket])
            simple = elongation * length / path.discs[index].radius
            off = max(off, abs(lag - simple) / simple)
    return at_most("geometry", "lag against ε·L_tight/r, relative", off, 0.06)


def _states(drive: ChainDrive) -> list[ChainWear]:
    """Elongation up to the book's limit, and each fixed guide and arm worn to half its limit."""
    limit = drive.chain.limit_elongation_pct / 100
    faces = {**drive.book.guides, **drive.book.arms}
    worn = [ChainWear(0.0, ((f, faces[f].limit_wear_mm / 2),)) for f in drive.faces]
    return [ChainWear(limit * share) for share in (0.25, 0.5, 0.75, 1.0)] + worn


def _against_walked(books: list[EngineBook]) -> Iterator[Figure]:
    """The closed form against a chain laid pin by pin round the loop, averaged over one tooth's
    phase.
    """
    plunger = lag = 0.0
    loops = 0
    for book in books:
        for drive in DriveTrain(book).chains.values():
            loops += 1
            for wear in _states(drive):
                x = 0.0
                if drive.has_tensioner:
                    x = drive.plunger_mm(wear)
                    if x >= drive.tensioner.max_plunger_mm - 0.3:
                        continue  # out of travel: both hang slack at the stop
                    moved = closing_plunger_mm(drive, wear) - closing_plunger_mm(drive, NEW)
                    plunger = max(plunger, abs(x - drive.plunger_mm() - moved))
                walked, solved = placed_lags_deg(drive, wear, x), drive.lags_deg(wear, x)
                lag = max(lag, *(abs(walked[s] - solved[s]) for s in solved))
    yield at_most("geometry", f"plunger against a walked chain, {loops} loops, mm", plunger, 0.03)
    yield at_most("geometry", f"lag against a walked chain, {loops} loops, own degrees", lag, 0.01)


def _sensitivities(books: list[EngineBook]) -> Figure:
    """Closed-form slopes of plunger and lag against central differences of the solved loop,
    relative to the largest.
    """
    worst = 0.0
    for book in books:
        for drive in DriveTrain(book).chains.values():
            for wear in (NEW, ChainWear(0.002)):
                pushes = [
                    (
                        elongation_slopes(drive, wear),
                        lambda h, w=wear: ChainWear(w.elongation + h, w.liner_mm),
                        1e-5,
                    )
                ]
                pushes += [
                    (
                        liner_slopes(drive, f, wear),
                        lambda h, f=f, w=wear: ChainWear(w.elongation, ((f, h),)),
                        1e-3,
                    )
                    for f in drive.faces
                ]
                for exact, worn, step in pushes:
                    up, down = _solved(drive, worn(step)), _solved(drive, worn(-step))
                    found = [(u - d) / (2 * step) for u, d in zip(up, down, strict=True)]
                    said = [
                        *([exact.plunger_mm] if exact.plunger_mm is not None else []),
                        *exact.lag_deg.values(),
                    ]
                    scale = max(abs(v) for v in said)
                    worst = max(
                        worst, *(abs(f - v) / scale for f, v in zip(found, said, strict=True))
                    )
    return at_most("geometry", "slopes against finite differences, relative", worst, 1e-4)


def _solved(drive: ChainDrive, wear: ChainWear) -> list[float]:
    x = drive.plunger_mm(wear) if drive.has_tensioner else 0.0
    return [*([x] if drive.has_tensioner else []), *drive.lags_deg(wear, x).values()]


def _times(books: list[EngineBook]) -> Iterator[Figure]:
    """The slowest book of each; bars in ms × the machine's factor, which is taken alternately."""
    solves: list[tuple[float, float]] = []
    maps: list[tuple[float, float]] = []
    for book in books:
        train, worn = DriveTrain(book), Faults(elongation_pct=dict.fromkeys(book.chains, 0.1))
        solves.append(factor_of(lambda t=train, w=worn: t.state(w)))
        contacts = Contacts(book)
        maps.append(factor_of(lambda c=contacts: touch_map(c)))
    for what, taken, bar in (
        ("solve of a whole engine, slowest book", solves, SOLVE_MS),
        ("touch map 720 × 241, all valves, slowest book", maps, MAP_MS),
    ):
        took, factor = max(taken, key=lambda pair: pair[0] / pair[1])
        yield at_most("geometry", f"{what}, ms (machine × {factor:.2f})", took, bar * factor)


def first_turn_by_simulation(train: DriveTrain, chain: str, most: int = 100_000) -> int | None:
    """Coming back by turning: moves the chain one crank turn at a time until link 0 and every mark
    are back.
    """
    book, drive = train.book, train.chains[chain]
    ratio = {k: abs(v) for k, v in train.exact_ratio.items()}
    driver = book.sprockets[drive.chain.driver]
    moved = Fraction(0)
    for turn in range(1, most + 1):
        moved += Fraction(driver.teeth) / ratio[driver.shaft]
        marks = [
            Fraction(turn) / ratio[book.sprockets[s].shaft]
            for s in (drive.chain.driver, *drive.driven)
        ]
        if moved % drive.chain.links == 0 and all(m.denominator == 1 for m in marks):
            return turn
    return None


def _integers(books: list[EngineBook]) -> Iterator[Figure]:
    """Counts by walking from mark to mark with straight links, returns by turning crank turn after
    crank turn.
    """
    counts = returns = 0
    off = 0.0
    for book in books:
        train = DriveTrain(book)
        said = coming_back(train)
        for chain, drive in train.chains.items():
            returns += first_turn_by_simulation(train, chain) != said.chains[chain]
            for count in drive.chain.counts:
                found = drive.mark_links(count.start, count.end) % drive.chain.links
                off = max(off, abs(found - count.links))
                counts += round(found) != count.links
    yield at_most("geometry", "link counts that do not come out, seven books", float(counts), 0)
    yield at_most("geometry", "worst count's distance from a whole link", off, 0.15)
    yield at_most("geometry", "coming-back numbers other than by turning", float(returns), 0)
