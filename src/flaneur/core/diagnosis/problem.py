"""One question put to the inference: rows of observations, unknowns with their priors, and every
set of abrupt faults with what it does to both.
"""

from dataclasses import dataclass, replace
from functools import cached_property, lru_cache

import numpy as np
from numpy.typing import NDArray

from flaneur.core.book.schema import EngineBook
from flaneur.core.diagnosis.abrupt import Abrupt
from flaneur.core.diagnosis.effects import SCENES, Effects, Groups, effects_of
from flaneur.core.diagnosis.observe import Observations
from flaneur.core.diagnosis.wear import WearUnknown
from flaneur.core.keys import SuspectKey, SuspectKind

Floats = NDArray[np.float64]
Ints = NDArray[np.int64]
Bools = NDArray[np.bool_]
NONE_PRIOR = 0.003
STEP = 0.02  # of a limit, to take a slope over
MOST = 3  # faults of one configuration


@dataclass(frozen=True)
class Problem:
    """C configurations in G groups over n rows and u unknowns (wear first, then phasers' offsets).

    ``matrix`` (n, u); ``shift`` (C, n): what the configuration adds to the rows; ``late`` (C, rows
    of the response): the same everywhere; ``members`` (C, 3): its faults as indices, −1 for none;
    ``scene``: how the whole stands; ``none``: the configuration that says none of these.
    """

    seen: Observations
    faults: list[Abrupt]
    items: list[WearUnknown]
    phasers: tuple[str, ...]
    matrix: Floats
    effects: Effects
    groups: Groups
    group_of: Ints
    members: Ints
    scene: Ints
    log_prior: Floats
    none: int

    @cached_property
    def late(self) -> Floats:
        """What each configuration adds to every row of the response, (C, rows)."""
        still = np.zeros(len(self.seen.response.new))
        shifts = np.array([*(f.shift for f in self.faults), still])
        return np.asarray(shifts[self.members].sum(axis=1))

    @cached_property
    def shift(self) -> Floats:
        """What each configuration adds to what was read, (C, n)."""
        at = np.array([row.at for row in self.seen.rows], dtype=int)
        return np.where(at >= 0, self.late[:, at], 0.0)

    @cached_property
    def step(self) -> Floats:
        """Wear over which slopes are taken, (items,)."""
        return np.array([STEP * item.limit for item in self.items])

    def surprise(self, which: Ints) -> Floats:
        """What is read of every row beyond what the line expects before it, (L, n)."""
        expected = self.groups.mean[self.group_of[which]] @ self.matrix.T
        return self.seen.values - self.seen.offset - self.shift[which] - expected

    def shifts(self, which: Ints, x: Floats) -> Floats:
        """What faults and phasers' offsets add to the rows in every draw (L, N, u): (L, N, n)."""
        phasers = slice(len(self.items), None)
        offsets = x[..., phasers] @ self.matrix[:, phasers].T
        return self.shift[which][:, None, :] + offsets

    def left(self, which: Ints, x: Floats, bare: Floats) -> Floats:
        """What is left of every row in every draw (L, N, u) of configurations ``which``, by the
        exact response ``bare`` of its wear: (L, N, n).
        """
        shown = self.seen.picked(bare, x[..., : len(self.items)])
        return self.seen.values - shown - self.shifts(which, x)

    def exact(self, c: int) -> Floats:
        """Noise of the rows in a configuration, (n, n)."""
        return np.asarray(self.groups.exact[self.group_of[c]])

    def chosen(self, c: int) -> list[Abrupt]:
        """The faults of a configuration."""
        return [self.faults[i] for i in self.members[c] if i >= 0]


@dataclass(frozen=True)
class _Sets:
    """Sets of up to two faults as indices (C, 3), −1 for none; which two may hold together (F, F)
    and which faults widen something (F + 1,).
    """

    members: Ints
    may: Bools
    widens: Bools


@lru_cache(maxsize=64)
def _sets(kinds: tuple[tuple[SuspectKey, bool], ...]) -> _Sets:
    """All sets of up to two faults that may hold together, from each fault's suspect and whether it
    widens anything.
    """
    n = len(kinds)
    suspects = {key: k for k, key in enumerate(dict.fromkeys(key for key, _ in kinds))}
    of = np.array([suspects[key] for key, _ in kinds], dtype=int)
    worn = {p: k for k, p in enumerate(dict.fromkeys(key.part for key, _ in kinds))}
    part = np.array(
        [
            worn[key.part] if key.kind in (SuspectKind.WEAR, SuspectKind.GONE) else -1 - i
            for i, (key, _) in enumerate(kinds)
        ],
        dtype=int,
    )
    may = (of[:, None] != of) & (part[:, None] != part)
    one, two = np.nonzero(np.triu(may, 1))
    members = np.full((1 + n + len(one), MOST), -1)
    members[1 : 1 + n, 0] = np.arange(n)
    members[1 + n :, 0], members[1 + n :, 1] = one, two
    return _Sets(members, may, np.array([*(w for _, w in kinds), False]))


def _sets_of(faults: list[Abrupt]) -> _Sets:
    return _sets(tuple((f.key, not f.only_shifts) for f in faults))


def make_problem(
    book: EngineBook,
    seen: Observations,
    items: list[WearUnknown],
    faults: list[Abrupt],
    is_read: Bools,
) -> Problem:
    """All sets of up to two abrupt faults; those of one at every noise scale that figures can ask
    for (larger errors and two faults at once are left out: under a hundredth of the prior).
    """
    phasers, n = tuple(book.phasers), len(seen.rows)
    columns = np.zeros((n, len(phasers)))
    for i, row in enumerate(seen.rows):
        if row.phaser:
            columns[i, phasers.index(row.phaser)] = book.phasers[row.phaser].late_sign
    effects = effects_of(book, seen, items, faults, is_read)
    known = _sets_of(faults).members
    single = known[known[:, 1] < 0]
    matrix = np.hstack([seen.matrix, columns])
    first = Problem(
        seen,
        faults,
        items,
        phasers,
        matrix,
        effects,
        groups=effects.none_of_these(seen),
        group_of=np.zeros(1, dtype=np.int64),
        members=np.full((1, MOST), -1),
        scene=np.zeros(1, dtype=np.int64),
        log_prior=np.log([NONE_PRIOR]),
        none=0,
    )
    scenes = range(len(SCENES)) if n else range(2)
    return _with(first, [(single if k else known, k) for k in scenes])


def with_one_more(problem: Problem, which: Ints) -> Problem:
    """The problem with one more fault put to each of the configurations ``which``, in its own
    scene, after all that is there.
    """
    may = np.vstack([_sets_of(problem.faults).may, np.ones(len(problem.faults), dtype=bool)])
    more: list[tuple[Ints, int]] = []
    for k in np.unique(problem.scene[which]):
        those = problem.members[which[problem.scene[which] == k]]
        row, extra = np.nonzero(may[those].all(axis=1))
        members = those[row]
        members[np.arange(len(row)), (members >= 0).sum(axis=1)] = extra
        members = np.unique(-np.sort(-members, axis=1), axis=0)
        more.append((members, int(k)))
    return _with(problem, more)


def _with(problem: Problem, more: list[tuple[Ints, int]]) -> Problem:
    """The problem with more configurations: sets of faults, each in a scene."""
    widens = _sets_of(problem.faults).widens
    odds = np.array([*(f.log_odds for f in problem.faults), 0.0])
    groups, group_of, number = [problem.groups], [problem.group_of], len(problem.groups)
    members, scene, log_prior = [problem.members], [problem.scene], [problem.log_prior]
    base = len(problem.faults) + 2
    for these, k in more:
        kept = np.sort(np.where(widens[these], these, -1), axis=1)
        _, first, of = np.unique(
            (kept + 1) @ base ** np.arange(MOST), return_index=True, return_inverse=True
        )
        groups.append(problem.effects.groups(kept[first], k))
        group_of.append(number + of.reshape(-1))
        number += len(first)
        members.append(these)
        scene.append(np.full(len(these), k))
        log_prior.append(odds[these].sum(axis=1) + np.log(SCENES[k].odds))
    return replace(
        problem,
        groups=Groups.joined(groups),
        group_of=np.concatenate(group_of),
        members=np.concatenate(members),
        scene=np.concatenate(scene),
        log_prior=np.concatenate(log_prior),
    )
