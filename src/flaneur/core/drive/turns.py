"""How many crank turns pass until marks agree again, from link and tooth counts."""

import math
from dataclasses import dataclass
from fractions import Fraction

from flaneur.core.drive.train import DriveTrain


@dataclass(frozen=True)
class ComingBack:
    """Crank turns until coloured links (per chain) and shaft marks (per shaft) stand as they stood.

    ``every`` is until all that is timed does: chains that time a cam or have counts, and the shafts
    on them and on gears. What is not timed, such as an oil pump's chain, has nothing to agree.
    """

    chains: dict[str, int]
    shafts: dict[str, int]
    every: int


def coming_back(train: DriveTrain) -> ComingBack:
    """Turns after which each chain's links lie on the same teeth again, for whole crank turns.

    A chain moves z/ratio links a crank turn (z teeth of its driver): after T turns it has come
    round when T·z/(ratio·n) is whole; its sprockets' marks agree when T/ratio is whole for each of
    their shafts. The least T is the least common multiple of those fractions' denominators (n /
    gcd(n, z) turns of the driver).
    """
    book, ratio = train.book, {k: abs(v) for k, v in train.exact_ratio.items()}
    shafts = {k: (1 / v).denominator for k, v in ratio.items()}
    chains: dict[str, int] = {}
    for chain, drive in train.chains.items():
        driver = book.sprockets[drive.chain.driver]
        per_turn = Fraction(driver.teeth) / ratio[driver.shaft] / drive.chain.links
        along = [shafts[book.sprockets[s].shaft] for s in (drive.chain.driver, *drive.driven)]
        chains[chain] = math.lcm(per_turn.denominator, *along)
    timed = [c for c in chains if train.is_timed(c)]
    geared = [shafts[g.shaft] for g in book.gears.values() if g.shaft in shafts]
    return ComingBack(chains, shafts, math.lcm(*(chains[c] for c in timed), *geared))
