"""What scenes and abrupt faults do to the priors of the unknowns and to the noise of what is read.

Configurations that differ only in jumped teeth share their covariance: they are grouped by the
faults in them that widen something.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from flaneur.core.book.schema import EngineBook
from flaneur.core.diagnosis.abrupt import PHASER_SHARE, TONE_SLIP_SD_DEG, Abrupt
from flaneur.core.diagnosis.observe import WIDE, Observations
from flaneur.core.diagnosis.wear import FRESH, WORN_OUT, WearUnknown, spread_of

Floats = NDArray[np.float64]
Ints = NDArray[np.int64]
CENSORED_SD = 4.0  # mm or degrees: how far beyond its end a censored figure is looked for
NONE_SD = 8.0
NEAR_SHARE = 0.1  # of what the line leaves out, left out as well by the line through where it is


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
class Groups:
    """G groups of configurations with one covariance each: prior mean and standard deviation of the
    unknowns (G, u), and noise of the rows (G, n, n): as inference by the line has it (``noise``),
    by the line through where it most probably stands (``near``), and without what any line leaves
    out (``exact``).
    """

    mean: Floats
    sd: Floats
    noise: Floats
    near: Floats
    exact: Floats

    def __len__(self) -> int:
        return len(self.mean)

    @classmethod
    def joined(cls, parts: "list[Groups]") -> "Groups":
        """All groups of all parts, one after the other."""
        fields = ("mean", "sd", "noise", "near", "exact")
        return cls(*(np.concatenate([getattr(p, name) for p in parts]) for name in fields))


@dataclass(frozen=True)
class Effects:
    """What every abrupt fault does, F + 1 rows of which the last is no fault: the unknowns whose
    prior it ``sets`` (u,), to what ``mean`` and ``sd`` (u,), and how much ``wider`` it makes the
    noise (n, n). ``measured`` and ``tolerance`` (n, n) are the noise without faults, ``ends`` and
    ``misfit`` (n, n) are put to it where lines are drawn; ``ordinary``: prior mean and standard
    deviation (u,) of every scene.
    """

    sets: Floats
    mean: Floats
    sd: Floats
    wider: Floats
    ends: Floats
    misfit: Floats
    measured: Floats
    tolerance: Floats
    ordinary: tuple[tuple[Floats, Floats], ...]

    def groups(self, members: Ints, scene: int) -> Groups:
        """Groups of the sets of faults ``members`` (G, k) in one scene."""
        mean, sd = self.ordinary[scene]
        kept = 1.0 - self.sets[members].sum(axis=1)
        exact = self.measured * SCENES[scene].errors ** 2 + self.tolerance
        return self._of(
            mean * kept + self.mean[members].sum(axis=1),
            sd * kept + self.sd[members].sum(axis=1),
            exact + self.wider[members].sum(axis=1),
        )

    def none_of_these(self, seen: Observations) -> Groups:
        """The one group of whatever is not in the model: anything may be read."""
        mean, sd = self.ordinary[0]
        wide = np.array([2.0 if row.kind == "direct" else NONE_SD for row in seen.rows])
        noise = (self.measured + self.tolerance + self.misfit + np.diag(wide**2))[None]
        return Groups(mean[None], sd[None], noise, noise, noise)

    def _of(self, mean: Floats, sd: Floats, exact: Floats) -> Groups:
        noise, near = (exact + times * self.misfit + self.ends for times in (1.0, NEAR_SHARE))
        return Groups(mean, sd, noise, near, exact)


def effects_of(
    book: EngineBook,
    seen: Observations,
    items: list[WearUnknown],
    faults: list[Abrupt],
    is_read: NDArray[np.bool_],
) -> Effects:
    """Effects of all faults. ``is_read`` (items,): what any reading bears on; the rest stays at
    its mean.
    """
    phasers, n = list(book.phasers), len(seen.rows)
    size = len(items) + len(phasers)
    sets, mean, sd = (np.zeros((len(faults) + 1, size)) for _ in range(3))
    wider = np.zeros((len(faults) + 1, n, n))
    has_wheel = np.array([bool(row.wheel) for row in seen.rows])
    for f, fault in enumerate(faults):
        if fault.wear_index is not None:
            limit = items[fault.wear_index].limit
            mean[f, fault.wear_index], sd[f, fault.wear_index] = (s * limit for s in WORN_OUT)
            sets[f, fault.wear_index] = 1.0
        if fault.gone_index is not None:
            sets[f, fault.gone_index] = 1.0
        if fault.phaser:
            p = len(items) + phasers.index(fault.phaser)
            mean[f, p], sd[f, p] = (s * book.phasers[fault.phaser].range_deg for s in PHASER_SHARE)
            sets[f, p] = 1.0
        if fault.wheel:
            on = has_wheel & [fault.wheel in ("crank", row.wheel) for row in seen.rows]
            wider[f] += TONE_SLIP_SD_DEG**2 * np.outer(on, on)
        if fault.blind:
            is_blind = [row.kind == "plunger" and row.about == fault.blind for row in seen.rows]
            wider[f] += np.diag(np.where(is_blind, WIDE**2, 0.0))
    ends = np.diag([CENSORED_SD**2 if row.censored else 0.0 for row in seen.rows])
    ordinary = tuple(_prior(items, is_read, len(phasers), scene.wear) for scene in SCENES)
    spread = (ends, seen.misfit, seen.measured, seen.tolerance)
    return Effects(sets, mean, sd, wider, *spread, ordinary)


def _prior(
    items: list[WearUnknown], is_read: NDArray[np.bool_], phasers: int, times: float
) -> tuple[Floats, Floats]:
    """Mean and standard deviation of the unknowns: ordinary wear, and phasers in park."""
    mean = np.array([*(i.mean * times for i in items), *([0.0] * phasers)])
    sd = np.array([*(i.sd * spread_of(times) for i in items), *([0.0] * phasers)])
    sd[: len(items)][~is_read] = 0.0
    return mean, sd
