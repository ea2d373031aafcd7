"""Whole engines, each of which may be the one that was read: wear, faults and offsets together,
drawn from the posterior, every one as likely as the next.

Draws are taken from the weighed ones at even steps; hidden faults, of which those have the odds
alone, are drawn for each, one after the other: what was heard is a sum of products, of which every
fault drawn leaves one shorter. A fault that nothing read bears on is there as often as before.
"""

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from flaneur.core.book.schema import EngineBook
from flaneur.core.diagnosis.abrupt import PHASER_SHARE, TONE_SLIP_SD_DEG, Abrupt
from flaneur.core.diagnosis.attribution import wheel_of
from flaneur.core.diagnosis.hidden import oil_weight, together
from flaneur.core.diagnosis.model import Solved
from flaneur.core.diagnosis.observe import BASELINE_SD_DEG
from flaneur.core.diagnosis.response import Response
from flaneur.core.diagnosis.wear import WearUnknown
from flaneur.core.keys import SuspectKey, SuspectKind

Floats = NDArray[np.float64]
Ints = NDArray[np.int64]
Bools = NDArray[np.bool_]


@dataclass(frozen=True)
class Ensemble:
    """R engines. ``wear`` (R, items); ``offset`` (R, phasers): degrees off park; ``abrupt``
    (R, faults): which of ``faults`` are there; ``wheel`` (R, cams): what tone wheels add to what is
    read; ``hidden``: each (R,); ``is_none`` (R,): something that is in no model.
    """

    book: EngineBook
    response: Response
    items: list[WearUnknown]
    faults: list[Abrupt]
    wear: Floats
    offset: Floats
    abrupt: Bools
    wheel: Floats
    hidden: dict[SuspectKey, Bools]
    is_none: Bools

    def __len__(self) -> int:
        return len(self.wear)

    def thinned(self, number: int) -> "Ensemble":
        """So many of them, evenly chosen."""
        at = np.linspace(0, len(self) - 1, min(number, len(self))).astype(int)
        return replace(
            self,
            wear=self.wear[at],
            offset=self.offset[at],
            abrupt=self.abrupt[at],
            wheel=self.wheel[at],
            hidden={key: there[at] for key, there in self.hidden.items()},
            is_none=self.is_none[at],
        )

    def bare_late(self, wear: Floats) -> Floats:
        """How late wear alone makes each cam, (R, cams)."""
        return self.response.of(wear)[:, : len(self.book.cams)]

    def moved(self, offset: Floats, abrupt: Bools) -> Floats:
        """What faults and phasers add to each cam's lateness, (R, cams)."""
        cams = self.book.cams
        late = abrupt @ np.array([f.shift[: len(cams)] for f in self.faults])
        for p, phaser in enumerate(self.book.phasers.values()):
            late[:, cams.index(phaser.shaft)] += phaser.late_sign * offset[:, p]
        return late

    def has(self, kind: SuspectKind, part: str = "") -> Bools:
        """Whether a fault is there in each engine, (R,)."""
        key = SuspectKey(kind, part)
        if key in self.hidden:
            return self.hidden[key]
        columns = [i for i, f in enumerate(self.faults) if f.key == key]
        return np.asarray(self.abrupt[:, columns].any(axis=1), dtype=bool)


def ensemble_of(solved: Solved, number: int, rng: np.random.Generator) -> Ensemble:
    """``number`` engines drawn from the posterior."""
    draws, problem, book = solved.draws, solved.problem, solved.book
    points = draws.weight.shape[1]
    along: Floats = np.cumsum(draws.weight.ravel())
    steps = (np.arange(number) + rng.random()) * float(along[-1]) / number
    row, column = np.divmod(np.minimum(np.searchsorted(along, steps), len(along) - 1), points)
    config = draws.config[row]
    known = {id(f): i for i, f in enumerate(solved.faults)}
    columns = np.array([*(known[id(f)] for f in problem.faults), len(known)], dtype=np.int64)
    abrupt = np.zeros((number, len(known) + 1), dtype=np.bool_)
    for side in problem.members[config].T:
        abrupt[np.arange(number), columns[side]] = True
    x = draws.x[row, column]
    ensemble = Ensemble(
        book,
        problem.seen.response,
        solved.items,
        solved.faults,
        x[:, : len(solved.items)].copy(),
        x[:, len(solved.items) :].copy(),
        abrupt[:, :-1],
        _wheels(solved, row, column, rng),
        _hidden(solved, row, column, rng),
        config == problem.none,
    )
    _add_unread(solved, ensemble, rng)
    return ensemble


def _wheels(solved: Solved, row: Ints, column: Ints, rng: np.random.Generator) -> Floats:
    """What tone wheels add to the reading of each cam; of one not read, by their tolerance."""
    book, number = solved.book, len(row)
    found = rng.normal(0.0, book.crank_tolerance_deg, (number, 1)) * np.ones(len(book.cams))
    for i, cam in enumerate(book.cams):
        at = [k for k, r in enumerate(solved.problem.seen.rows) if r.wheel == cam]
        if at:
            found[:, i] = wheel_of(solved, at[0])[row, column]
        elif cam in solved.readings.baseline_deg:
            found[:, i] = rng.normal(0.0, BASELINE_SD_DEG, number)
        else:
            found[:, i] += rng.normal(0.0, book.cam_tolerance_deg(cam), number)
    return found


def _hidden(
    solved: Solved, row: Ints, column: Ints, rng: np.random.Generator
) -> dict[SuspectKey, Bools]:
    """Which hidden faults are there in each engine."""
    likelihood, draws, number = solved.likelihood, solved.draws, len(row)
    hidden = likelihood.hidden
    found = {key: np.zeros(number, dtype=bool) for key in hidden.keys}
    sign, drawn = likelihood.silences.sign, likelihood.silences.drawn(draws.config, draws.x)
    flags, kinds = likelihood.silences.kinds
    for kind in sorted({int(k) for k in kinds[draws.config]}):
        each, at = flags[kind], np.flatnonzero(kinds[draws.config][row] == kind)
        heard = drawn[row[at], column[at]] * sign  # (A, T)
        quiet = [np.ones(len(sign)), hidden.oil_silence()]
        groups = [together(hidden, each, oil_low) for oil_low in (False, True)]
        sums = [[g.whole for g in of] for of in groups]
        high, low = (
            oil_weight(hidden, bool(o)) * heard @ (quiet[o] * np.prod(sums[o], axis=0))
            for o in (0, 1)
        )
        is_low = rng.random(len(at)) * (high + low) < low
        found[SuspectKey(SuspectKind.OIL_LOW)][at] = is_low
        for o in (0, 1):
            those = at[is_low == bool(o)]
            prefix = heard[is_low == bool(o)] * quiet[o]
            for k, group in enumerate(groups[o]):
                rest = np.prod(sums[o][k + 1 :], axis=0)
                odds = (prefix * rest) @ group.by_state.T  # (A, S)
                state = _one_of(np.maximum(odds, 0.0), rng)
                prefix = prefix * group.silences[state]
                for i, key in enumerate(group.keys):
                    found[key][those] = group.states[state, i]
    odds = {key: np.full(number, p) for key, p in likelihood.unasked.items()}
    odds |= {k: p[row, column] for k, p in solved.hidden.items() if k in odds}
    return found | {key: rng.random(number) < p for key, p in odds.items()}


def _one_of(chance: Floats, rng: np.random.Generator) -> Ints:
    """One state of each row, by its chance, (R, states) to (R,)."""
    along = np.cumsum(chance, axis=1)
    u = rng.random((len(chance), 1)) * along[:, -1:]
    return np.minimum((along < u).sum(axis=1), chance.shape[1] - 1)


def _add_unread(solved: Solved, ensemble: Ensemble, rng: np.random.Generator) -> None:
    """Put in faults that nothing read bears on, one at most in each engine."""
    read = {id(f) for f in solved.problem.faults}
    unread = [i for i, f in enumerate(solved.faults) if id(f) not in read and f.wear_index is None]
    if not unread:
        return
    odds = np.cumsum([solved.faults[i].prior for i in unread])
    which = np.searchsorted(odds, rng.random(len(ensemble)))
    book, phasers = solved.book, list(solved.book.phasers)
    for k, i in enumerate(unread):
        at, fault = np.flatnonzero(which == k), solved.faults[i]
        ensemble.abrupt[at, i] = True
        if fault.gone_index is not None:
            ensemble.wear[at, fault.gone_index] = 0.0
        if fault.phaser:
            mean, sd = (s * book.phasers[fault.phaser].range_deg for s in PHASER_SHARE)
            off = np.abs(rng.normal(mean, sd, len(at)))
            ensemble.offset[at, phasers.index(fault.phaser)] = off
        if fault.wheel:
            slip = rng.normal(0.0, TONE_SLIP_SD_DEG, len(at))
            moved = np.array([float(fault.wheel in ("crank", cam)) for cam in book.cams])
            ensemble.wheel[at] += np.outer(slip, moved)
