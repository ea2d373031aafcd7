"""What wear does to everything that can be read: lateness of each shaft, path its tensioners take
up, reverse-rotation lash of each cam.

Each chain's loop is solved over the range its wear can have. Two descriptions are fitted to that: a
straight line through the new engine, with the covariance of what it leaves out, and a cubic, which
leaves hundredths at most. Inference proposes by the line and is put right by the cubic.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache
from itertools import combinations_with_replacement

import numpy as np
from numpy.typing import NDArray

from flaneur.core.book.schema import EngineBook
from flaneur.core.diagnosis.lattice import lattice
from flaneur.core.drive.chain import ChainDrive, ChainWear
from flaneur.core.drive.lash import chain_lash_deg, deg_per_link
from flaneur.core.drive.train import DriveTrain
from flaneur.core.engine.compiled import compiled
from flaneur.core.keys import Contact

Floats = NDArray[np.float64]
POINTS, ENOUGH = 160, 2  # most loops solved for a chain; solved for each term of its cubic
DEGREE, REACH = 3, 3.0  # of the limit


@dataclass(frozen=True)
class Lines:
    """What each row of a response is: shafts that are late (cams first), chains whose path is taken
    up, cams whose lash is read; and the wear columns, parts in the order of the book.
    """

    shafts: tuple[str, ...]
    chains: tuple[str, ...]
    cams: tuple[str, ...]
    parts: tuple[str, ...]

    @property
    def rows(self) -> int:
        """How many rows there are."""
        return len(self.shafts) + len(self.chains) + len(self.cams)

    def late(self, shaft: str) -> int:
        """Row of a shaft's lateness."""
        return self.shafts.index(shaft)

    def path(self, chain: str) -> int:
        """Row of the path a chain's tensioner takes up."""
        return len(self.shafts) + self.chains.index(chain)

    def lash(self, cam: str) -> int:
        """Row of a cam's lash."""
        return len(self.shafts) + len(self.chains) + self.cams.index(cam)


@dataclass(frozen=True)
class Cubic:
    """One chain's part: ``columns`` of wear in units of ``span``, monomials of them, and what each
    monomial gives every row, (terms, rows). A liner worn to ``most`` wears no further.
    """

    columns: tuple[int, ...]
    most: Floats
    span: Floats
    terms: tuple[tuple[int, ...], ...]
    weights: Floats

    def of(self, wear: Floats) -> Floats:
        """(…, unknowns) of wear to (…, rows)."""
        share = np.minimum(wear[..., list(self.columns)], self.most) / self.span
        return np.tensordot(self.monomials(share), self.weights, axes=(0, 0))

    def monomials(self, share: Floats) -> Floats:
        """Every monomial of the wear, (…, columns) to (terms, …)."""
        found: dict[tuple[int, ...], Floats] = {}
        for term in self.terms:
            one = share[..., term[-1]]
            found[term] = one if len(term) == 1 else found[term[:-1]] * one
        return np.stack([found[term] for term in self.terms])


@dataclass(frozen=True)
class Response:
    """``new`` (rows,): what a new engine shows. ``matrix`` (rows, unknowns): the straight line.
    ``misfit`` (rows, rows): covariance of what the line leaves out. ``cap`` (rows,):
    beyond which a row cannot go: a plunger at its stop; ``slack`` (rows, rows) is what a
    millimetre more than that does to the others: it hangs slack, and shows as lash.
    """

    lines: Lines
    new: Floats
    matrix: Floats
    misfit: Floats
    cap: Floats
    slack: Floats
    cubics: tuple[Cubic, ...]

    def of(self, wear: Floats) -> Floats:
        """What engines of that wear show, (…, unknowns) to (…, rows)."""
        total = np.broadcast_to(self.new, (*wear.shape[:-1], len(self.new))).copy()
        for cubic in self.cubics:
            total += cubic.of(wear)
        held = np.minimum(total, self.cap)
        return held + (total - held) @ self.slack


def parts_of(book: EngineBook, train: DriveTrain) -> list[str]:
    """Parts whose wear times cams: chains, then guides, then arms, in the order of the book."""
    return [
        *(k for k in book.chains if train.times_cams(k)),
        *(k for k, g in book.guides.items() if train.times_cams(g.chain)),
        *(k for k, a in book.arms.items() if train.times_cams(a.chain)),
    ]


@lru_cache(maxsize=32)
def response_of(book: EngineBook) -> Response:
    """The response of a book's drive; solved once for its content."""
    train = compiled(book).train
    parts = parts_of(book, train)
    lines = Lines(
        (*book.cams, *(s for s in train.crank_per_turn if s not in book.cams)),
        tuple(book.chains),
        tuple(book.cams),
        tuple(parts),
    )
    limits = {k: c.limit_elongation_pct for k, c in book.chains.items()}
    limits |= {k: f.limit_wear_mm for k, f in {**book.guides, **book.arms}.items()}
    new, cap = np.zeros(lines.rows), np.full(lines.rows, np.inf)
    matrix = np.zeros((lines.rows, len(parts)))
    misfit, slack = np.zeros((2, lines.rows, lines.rows))
    cubics: list[Cubic] = []
    for chain, drive in train.chains.items():
        if chain not in parts:
            continue
        own = [p for p in parts if p == chain or p in drive.faces]
        columns = [parts.index(p) for p in own]
        span = np.array([REACH * limits[p] for p in own])
        thick = {k: f.liner_mm for k, f in {**book.guides, **book.arms}.items()}
        most = np.array([thick.get(p, np.inf) for p in own])
        terms = tuple(
            term
            for degree in range(1, DEGREE + 1)
            for term in combinations_with_replacement(range(len(own)), degree)
        )
        at_new = _shown(train, drive, lines, own, np.zeros(len(own)))
        new += at_new
        if drive.has_tensioner:
            row = lines.path(chain)
            cap[row] = drive.taken_up_mm(drive.tensioner.max_plunger_mm)
            for cam in set(lines.cams) & set(train.cams_of(chain)):
                slack[row, lines.lash(cam)] = deg_per_link(train, chain) / drive.pitch_mm
        used: list[tuple[Floats, Floats]] = []
        for point in np.minimum(lattice(POINTS, len(own)) ** 1.3 * span, most):
            row_of = _shown(train, drive, lines, own, point)
            if (row_of < cap - 1e-3).all():  # a plunger at its stop follows no more
                used.append((point, row_of - at_new))
            if len(used) == ENOUGH * len(terms):
                break
        points, seen = (np.stack(part) for part in zip(*used, strict=True))
        line, *_ = np.linalg.lstsq(points, seen, rcond=None)
        matrix[:, columns] = line.T
        left = seen - points @ line
        misfit += left.T @ left / len(points)
        empty = Cubic(tuple(columns), most, span, terms, np.zeros((len(terms), lines.rows)))
        powers = empty.monomials(points / span).T
        weights, *_ = np.linalg.lstsq(powers, seen, rcond=None)
        cubics.append(
            Cubic(tuple(columns), most, span, terms, np.asarray(weights, dtype=np.float64))
        )
    return Response(lines, new, matrix, misfit, cap, slack, tuple(cubics))


def fill_late(
    train: DriveTrain, lines: Lines, chain: str, lags_deg: Mapping[str, float], row: Floats
) -> None:
    """Write into a row of the response how late the driven sprockets' lags, degrees of their own
    shafts, make every shaft on them and behind them.
    """
    for sprocket, lag in lags_deg.items():
        shaft = train.book.sprockets[sprocket].shaft
        for late in train.moved_by(str(Contact(chain, sprocket))):
            if late in lines.shafts:
                row[lines.late(late)] = lag * train.crank_per_turn[shaft]


def _shown(
    train: DriveTrain, drive: ChainDrive, lines: Lines, own: list[str], point: Floats
) -> Floats:
    """What one chain of this wear adds to every row, (rows,)."""
    row = np.zeros(lines.rows)
    values = dict(zip(own, map(float, point), strict=True))
    liners = tuple((f, values.get(f, 0.0)) for f in drive.faces)
    wear = ChainWear(values[drive.id] / 100, liners)
    out = drive.plunger_mm(wear) if drive.has_tensioner else 0.0
    if drive.has_tensioner:
        row[lines.path(drive.id)] = drive.taken_up_mm(out)
    fill_late(train, lines, drive.id, drive.lags_deg(wear, out), row)
    turned = set(lines.cams) & set(train.cams_of(drive.id))
    lash = chain_lash_deg(train, drive.id, wear, out) if turned else 0.0
    for cam in turned:
        row[lines.lash(cam)] = lash
    return row
