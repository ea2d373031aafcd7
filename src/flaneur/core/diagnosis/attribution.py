"""What makes a figure what it is: a cam's lateness divided among wear, jumped teeth, its phaser,
tone wheels, and errors of the reading, draw by draw.

In every draw the figure is the sum of its terms exactly: wear through the drive's geometry (the
curve's rest is divided in proportion), what abrupt faults add, and what is left, which belongs to
tone wheels and to the reading by their variances.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from flaneur.core.diagnosis.effects import SCENES
from flaneur.core.diagnosis.lattice import lattice
from flaneur.core.diagnosis.model import Solved
from flaneur.core.diagnosis.statistics import quantiles
from flaneur.core.gauss import quantile
from flaneur.core.keys import SuspectKey

Floats = NDArray[np.float64]
WHEEL, SLACK, READING = "wheel", "slack", "reading"
WORTH_DEG = 0.15


@dataclass(frozen=True)
class Share:
    """One cause's share of a figure: mean, kept within its 90 % interval, and that, in the figure's
    unit.
    """

    part: str | SuspectKey
    mean: float
    low: float
    high: float


def attribute(solved: Solved, row: int) -> list[Share]:
    """Shares of a cam's figure, largest first; those that never matter are left out."""
    terms = terms_of(solved, row)
    weight = solved.draws.weight.ravel()
    found: list[Share] = []
    for part, values in terms.items():
        flat = values.ravel()
        mean = float((flat * weight).sum())
        low, _, high = quantiles(flat, weight)
        if (
            abs(mean) >= WORTH_DEG
            or max(abs(low), abs(high)) >= 4 * WORTH_DEG
            or part in (WHEEL, SLACK)
        ):
            found.append(Share(part, min(max(mean, low), high), low, high))
    return sorted(found, key=lambda s: (s.part in (WHEEL, SLACK, READING), -abs(s.mean)))


def terms_of(solved: Solved, row: int) -> dict[str | SuspectKey, Floats]:
    """Every cause's term of a figure in every draw, (L, N) each: parts, jumps by their suspect."""
    problem, draws = solved.problem, solved.draws
    seen = problem.seen
    wear = draws.x[..., : len(problem.items)]
    line = wear * seen.matrix[row]  # (L, N, items)
    terms: dict[str | SuspectKey, Floats] = {}
    for k, c in enumerate(map(int, draws.config)):
        for fault in problem.chosen(c):
            shift = fault.shift[seen.rows[row].at]
            if shift:
                cause = fault.key if fault.teeth else fault.key.part
                terms.setdefault(cause, np.zeros_like(draws.weight))[k] += shift
    curved = solved.bare[..., seen.rows[row].at]
    total = line.sum(axis=-1)
    scale = np.where(np.abs(total) > 1e-3, curved / np.where(total == 0, 1.0, total), 1.0)
    for i, item in enumerate(problem.items):
        if seen.matrix[row, i]:
            terms[item.key] = terms.get(item.key, 0.0) + line[..., i] * scale
    for p, phaser in enumerate(problem.phasers):
        column = problem.matrix[row, len(problem.items) + p]
        if column:
            terms[phaser] = column * draws.x[..., len(problem.items) + p]
    wheel = wheel_of(solved, row)
    explained = sum(terms.values(), np.zeros_like(draws.weight))
    terms[SLACK if seen.rows[row].is_loose else WHEEL] = wheel
    terms[READING] = seen.values[row] - explained - wheel
    return terms


def wheel_of(solved: Solved, row: int) -> Floats:
    """The share of tone wheels (of slack, where a chain without tensioner was read at rest) in
    what is left of a figure, (L, N): drawn from its normal distribution given all that is left of
    every figure.
    """
    problem, draws = solved.problem, solved.draws
    seen = problem.seen
    left = problem.left(draws.config, draws.x, solved.bare)
    is_cam = np.array([r.kind == "cam" for r in seen.rows])
    # Configurations of one group share all but what is left.
    _, first, of = np.unique(problem.group_of[draws.config], return_index=True, return_inverse=True)
    config = draws.config[first]
    errors = np.array([scene.errors for scene in SCENES])[problem.scene[config]]
    exact = problem.groups.exact[problem.group_of[config]]
    wheels = exact - seen.measured * errors[:, None, None] ** 2
    wheels[config == problem.none] = seen.tolerance
    wheels = np.where(np.outer(is_cam, is_cam), wheels, 0.0)
    gain = np.linalg.solve(exact, wheels[:, :, row, None])[..., 0]  # (G, n)
    rest = wheels[:, row, row] - np.einsum("gn,gn->g", wheels[:, row], gain)
    of = of.reshape(-1)
    mean = (left @ gain[of][:, :, None])[..., 0]
    sd = np.sqrt(np.maximum(rest, 0.0))[of]
    spread = quantile(lattice(draws.weight.shape[1], 25)[:, 24])
    return mean + sd[:, None] * spread
