"""One question put to the inference: rows of observations, unknowns with their priors, and every
set of abrupt faults with what it does to both.

Configurations that differ only in jumped teeth share their covariance: they are grouped by the
faults in them that widen something.
"""

from dataclasses import dataclass
from functools import cached_property, lru_cache

import numpy as np
from numpy.typing import NDArray

from flaneur.core.book.schema import EngineBook
from flaneur.core.diagnosis.abrupt import PHASER_SHARE, TONE_SLIP_SD_DEG, Abrupt
from flaneur.core.diagnosis.observe import WIDE, Observations
from flaneur.core.diagnosis.wear import FRESH, WORN_OUT, WearUnknown, spread_of
from flaneur.core.keys import SuspectKey, SuspectKind

Floats = NDArray[np.float64]
Ints = NDArray[np.int64]
CENSORED_SD = 4.0  # mm or degrees: how far beyond its end a censored figure is looked for
NONE_PRIOR, NONE_SD = 0.003, 8.0
NEAR_SHARE, STEP = 0.1, 0.02  # of what the line leaves out; of a limit, to take a slope over


@dataclass(frozen=True)
class Scene:
    """How the whole of it stands: errors of reading so many times larger than said, wear so many
    times the ordinary, and the odds of both.
    """

    errors: float
    wear: float
    odds: float


SCENES = (
    Scene(1.0, 1.0, 0.84),
    Scene(1.0, FRESH, 0.10),  # renewed and not told, or gently run
    Scene(2.5, 1.0, 0.05),
    Scene(6.0, 1.0, 0.01),
)


@dataclass(frozen=True)
class Group:
    """Configurations with one covariance: prior of the unknowns (u,), and noise of the rows (n, n):
    as inference by the line has it (``noise``), by the line through where it most probably stands
    (``near``), and without what any line leaves out (``exact``).
    """

    mean: Floats
    sd: Floats
    noise: Floats
    near: Floats
    exact: Floats


@dataclass(frozen=True)
class Problem:
    """C configurations in G groups over n rows and u unknowns (wear first, then phasers' offsets).

    ``matrix`` (n, u); ``shift`` (C, n): what the configuration adds to the rows; ``late`` (C, rows
    of the response): the same everywhere; ``members`` (C, 2): its faults as indices, −1 for none;
    ``scene``: how the whole stands; the last configuration is none-of-these.
    """

    seen: Observations
    faults: list[Abrupt]
    items: list[WearUnknown]
    phasers: tuple[str, ...]
    matrix: Floats
    groups: list[Group]
    group_of: Ints
    shift: Floats
    late: Floats
    members: Ints
    scene: Ints
    log_prior: Floats

    @property
    def none(self) -> int:
        """The configuration that says: none of these."""
        return len(self.members) - 1

    @cached_property
    def priors(self) -> tuple[Floats, Floats, Floats]:
        """Mean and standard deviation of the unknowns (G, u), and noise (G, n, n), of every
        group.
        """
        means, sds, noises = zip(*((g.mean, g.sd, g.noise) for g in self.groups), strict=True)
        return np.stack(means), np.stack(sds), np.stack(noises)

    @cached_property
    def step(self) -> Floats:
        """Wear over which slopes are taken, (items,)."""
        return np.array([STEP * item.limit for item in self.items])

    def surprise(self) -> Floats:
        """What is read of every row beyond what the line expects before it, (C, n)."""
        start = self.seen.values - self.seen.offset
        return start - self.shift - (self.priors[0] @ self.matrix.T)[self.group_of]

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

    def group(self, c: int) -> Group:
        """The group a configuration is in."""
        return self.groups[int(self.group_of[c])]

    def chosen(self, c: int) -> list[Abrupt]:
        """The faults of a configuration."""
        return [self.faults[i] for i in self.members[c] if i >= 0]


@dataclass(frozen=True)
class _Sets:
    """Sets of up to two faults as indices (C, 2), −1 for none; the group of each, by its widening
    faults (G, 2).
    """

    members: Ints
    group_of: Ints
    groups: Ints


@lru_cache(maxsize=64)
def _sets(kinds: tuple[tuple[SuspectKey, bool], ...]) -> _Sets:
    """All sets of up to two faults that may hold together, from each fault's suspect and whether it
    widens anything.
    """
    n = len(kinds)
    one, two = (i.ravel() for i in np.triu_indices(n, 1))
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
    may = (of[one] != of[two]) & (part[one] != part[two])
    none = np.full(n, -1)
    members = np.concatenate(
        [
            np.full((1, 2), -1),
            np.stack([np.arange(n), none], axis=1),
            np.stack([one[may], two[may]], axis=1),
        ]
    ).astype(int)
    widens = np.array([*(w for _, w in kinds), False])
    kept = np.sort(np.where(widens[members], members, -1), axis=1)
    groups, group_of = np.unique(kept, axis=0, return_inverse=True)
    return _Sets(members, group_of.reshape(-1), groups)


def make_problem(
    book: EngineBook,
    seen: Observations,
    items: list[WearUnknown],
    faults: list[Abrupt],
    is_read: NDArray[np.bool_],
) -> Problem:
    """All sets of up to two abrupt faults; those of one at every noise scale that figures can ask
    for (larger errors and two faults at once are left out: under a hundredth of the prior).
    ``is_read`` (items,): what any reading bears on; the rest stays at its mean.
    """
    phasers = tuple(book.phasers)
    n = len(seen.rows)
    columns = np.zeros((n, len(phasers)))
    for i, row in enumerate(seen.rows):
        if row.phaser:
            columns[i, phasers.index(row.phaser)] = book.phasers[row.phaser].late_sign
    known = _sets(tuple((f.key, not f.only_shifts) for f in faults))
    members, group_of, scenes = [known.members], [known.group_of], [np.zeros(len(known.members))]
    groups = [_group(book, seen, items, is_read, _at(faults, g), SCENES[0]) for g in known.groups]
    log_scale = [np.full(len(known.members), np.log(SCENES[0].odds))]
    single = known.members[:, 1] < 0
    for k, scene in enumerate(SCENES[1:] if n else SCENES[1:2], start=1):
        of, where = np.unique(known.group_of[single], return_inverse=True)
        members.append(known.members[single])
        group_of.append(len(groups) + where)
        groups += [
            _group(book, seen, items, is_read, _at(faults, known.groups[g]), scene) for g in of
        ]
        scenes.append(np.full(int(single.sum()), k))
        log_scale.append(np.full(int(single.sum()), np.log(scene.odds)))
    members.append(np.full((1, 2), -1))
    group_of.append(np.array([len(groups)]))
    scenes.append(np.zeros(1))
    log_scale.append(np.zeros(1))
    groups.append(_none(seen, items, is_read, phasers))
    chosen = np.concatenate(members)
    shifts = np.array([*(f.shift for f in faults), np.zeros(len(seen.response.new))])
    odds = np.array([*(f.log_odds for f in faults), 0.0])
    log_prior = odds[chosen].sum(axis=1) + np.concatenate(log_scale)
    log_prior[-1] = np.log(NONE_PRIOR)
    late = shifts[chosen].sum(axis=1)
    at = np.array([row.at for row in seen.rows], dtype=int)
    shift = np.where(at >= 0, late[:, at], 0.0)
    return Problem(
        seen,
        faults,
        items,
        phasers,
        np.hstack([seen.matrix, columns]),
        groups,
        np.concatenate(group_of),
        shift,
        late,
        chosen,
        np.concatenate(scenes).astype(int),
        log_prior,
    )


def _at(faults: list[Abrupt], members: Ints) -> list[Abrupt]:
    return [faults[i] for i in members if i >= 0]


def _group(
    book: EngineBook,
    seen: Observations,
    items: list[WearUnknown],
    is_read: NDArray[np.bool_],
    chosen: list[Abrupt],
    scene: Scene,
) -> Group:
    phasers = list(book.phasers)
    mean, sd = _prior(items, is_read, len(phasers), scene.wear)
    exact = seen.measured * scene.errors**2 + seen.tolerance
    for fault in chosen:
        if fault.wear_index is not None:
            limit = items[fault.wear_index].limit
            mean[fault.wear_index], sd[fault.wear_index] = (s * limit for s in WORN_OUT)
        if fault.gone_index is not None:
            mean[fault.gone_index] = sd[fault.gone_index] = 0.0
        if fault.phaser:
            p = len(items) + phasers.index(fault.phaser)
            mean[p], sd[p] = (s * book.phasers[fault.phaser].range_deg for s in PHASER_SHARE)
        if fault.wheel:
            along = np.array(
                [
                    float(bool(row.wheel)) * (-1.0 if fault.wheel == "crank" else 1.0)
                    if fault.wheel in ("crank", row.wheel)
                    else 0.0
                    for row in seen.rows
                ]
            )
            exact = exact + TONE_SLIP_SD_DEG**2 * np.outer(along, along)
        if fault.stuck:
            is_blind = [row.kind == "plunger" and row.about == fault.stuck for row in seen.rows]
            exact = exact + np.diag(np.where(is_blind, WIDE**2, 0.0))
    ends = np.diag([CENSORED_SD**2 if row.censored else 0.0 for row in seen.rows])
    near = exact + NEAR_SHARE * seen.misfit + ends
    return Group(mean, sd, exact + seen.misfit + ends, near, exact)


def _prior(
    items: list[WearUnknown], is_read: NDArray[np.bool_], phasers: int, times: float = 1.0
) -> tuple[Floats, Floats]:
    """Mean and standard deviation of the unknowns: ordinary wear, and phasers in park."""
    mean = np.array([*(i.mean * times for i in items), *([0.0] * phasers)])
    sd = np.array([*(i.sd * spread_of(times) for i in items), *([0.0] * phasers)])
    sd[: len(items)][~is_read] = 0.0
    return mean, sd


def _none(
    seen: Observations,
    items: list[WearUnknown],
    is_read: NDArray[np.bool_],
    phasers: tuple[str, ...],
) -> Group:
    """Whatever is wrong is not in the model: anything may be read."""
    mean, sd = _prior(items, is_read, len(phasers))
    wide = np.array([2.0 if row.kind == "direct" else NONE_SD for row in seen.rows])
    noise = seen.measured + seen.tolerance + seen.misfit + np.diag(wide**2)
    return Group(mean, sd, noise, noise, noise)
