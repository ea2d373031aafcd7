"""What a verdict says of engines that are not as its model has them: readings that err twice as
much as they say, liners that wear by another law, a tensioner that is not the book's.
"""

from collections.abc import Callable, Iterator
from dataclasses import replace

import numpy as np

from bench.campaign import Tally, judge, stated, wrong_of
from bench.engines import Drawn, books, draw, read
from bench.figure import Figure, at_least, for_information
from flaneur.core.diagnosis.model import Solved, solve_readings
from flaneur.core.diagnosis.statistics import noise_scale, shares

ENGINES = 300
LAW, SHORTER_MM = 1.6, (3.0, 6.0)
Strain = Callable[[Drawn, np.random.Generator], Drawn]


def _noisy(drawn: Drawn, _: np.random.Generator) -> Drawn:
    return replace(drawn, errors=2 * drawn.errors)


def _other_law(drawn: Drawn, _: np.random.Generator) -> Drawn:
    """Most liners hardly worn, a few through: wear over its limit to another power."""
    limits = {i.key: i.limit for i in drawn.truth.items if i.kind != "chain"}
    wear = {
        k: limits[k] * (w / limits[k]) ** LAW if k in limits else w for k, w in drawn.wear.items()
    }
    liners = {k: w for k, w in wear.items() if k in limits}
    truth = replace(drawn.truth, wear=np.array([[wear[i.key] for i in drawn.truth.items]]))
    faults = drawn.faults.model_copy(update={"liner_wear_mm": liners})
    return replace(drawn, wear=wear, faults=faults, truth=truth)


def _other_tensioner(drawn: Drawn, rng: np.random.Generator) -> Drawn:
    chains = [c for c in drawn.state.plunger_mm if drawn.has_plunger(c)]
    if not chains:
        return drawn
    return replace(drawn, shorter_mm={str(rng.choice(chains)): float(rng.uniform(*SHORTER_MM))})


STRAINS: dict[str, Strain] = {
    "errors doubled": _noisy,
    "another law of liner wear": _other_law,
    "another tensioner": _other_tensioner,
}


def _doubt(solved: Solved) -> float:
    """How little a verdict trusts what was read: none of these, and errors larger than said."""
    return shares(solved)["none"] + noise_scale(solved) - 1


def run(is_tiny: bool = False, times: int = 1) -> Iterator[Figure]:
    """Positive statements that were wrong, and whether doubt rises, strain by strain."""
    every_book, seeds = books(), range(2 if is_tiny else ENGINES * times)

    def drawn_with(seed: int) -> tuple[Drawn, np.random.Generator]:
        rng = np.random.default_rng(40_000 + seed)
        return draw(every_book[seed % len(every_book)], rng), rng

    def solved(drawn: Drawn, seed: int) -> Solved:
        return solve_readings(drawn.book, read(drawn, np.random.default_rng(60_000 + seed)))

    plain = float(np.mean([_doubt(solved(drawn_with(seed)[0], seed)) for seed in seeds]))
    for name, strain in STRAINS.items():
        tally, doubts = Tally(), list[float]()
        for seed in seeds:
            strained = strain(*drawn_with(seed))
            found = solved(strained, seed)
            judge(strained, found, tally)
            doubts.append(_doubt(found))
        for found, what in ((tally.named, "named, not there"), (tally.over, "over, sound")):
            wrong = f"{name}: of {len(found)} at over 0.9 {what}"
            yield for_information("diagnosis", wrong, wrong_of(found))
        yield from stated(tally, 0.02, 0.02, f"{name}: ")
        if strain is not _other_law:
            rise = float(np.mean(doubts)) / plain
            yield at_least("diagnosis", f"{name}: doubt, times that of the same engines", rise, 1.0)
