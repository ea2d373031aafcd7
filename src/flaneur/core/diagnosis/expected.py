"""What each cam's figure would be if a suspect were what is wrong, beside what was read."""

import numpy as np
from numpy.typing import NDArray

from flaneur.core.diagnosis.found import WouldBe
from flaneur.core.diagnosis.model import Solved
from flaneur.core.diagnosis.statistics import WORTH_NAMING, alone, quantiles
from flaneur.core.keys import SuspectKey, SuspectKind
from flaneur.core.wording import late_words

Floats = NDArray[np.float64]
OFF = 2.0  # standard deviations between what was read and what it would be


def expected_under(solved: Solved, key: str) -> list[WouldBe]:
    """Every cam that was read, were this suspect the one thing wrong; where that alone is as good
    as impossible, with whatever else goes with it. Nothing where no draw has the suspect, or where
    it moves no cam.
    """
    draws, seen = solved.draws, solved.problem.seen
    weight, is_alone = alone(solved, key), True
    if weight.sum() < WORTH_NAMING:
        weight, is_alone = _with(solved, key), False
    total = float(weight.sum())
    if total < WORTH_NAMING:
        return []
    left = solved.problem.left(draws.config, draws.x, solved.bare)
    read = {r.id: r.deviation_deg for r in solved.readings.cams}
    flat = weight.ravel() / total
    found: list[WouldBe] = []
    for i, row in enumerate(seen.rows):
        if row.kind != "cam":
            continue
        values = (read[row.id] - left[..., i]).ravel()
        low, _, high = quantiles(values, flat)
        mean = float((values * flat).sum())
        variance = float((flat * (values - mean) ** 2).sum())
        variance += float(seen.measured[i, i] + seen.tolerance[i, i])
        is_off = abs(read[row.id] - mean) > OFF * variance**0.5
        found.append(
            WouldBe(
                reading=row.id,
                name=solved.book.shafts[row.about].name,
                read_deg=read[row.id],
                deg=mean,
                low_deg=low,
                high_deg=high,
                is_alone=is_alone,
                is_off=is_off,
                words=f"read {late_words(read[row.id])}, would be {late_words(mean)}",
            )
        )
    return found


def _with(solved: Solved, key: str) -> Floats:
    """Weight of the draws that have a fault in them, alone or not, (L, N)."""
    has = [str(fault.key) == key for fault in solved.problem.faults]
    there: NDArray[np.bool_] = np.asarray(np.array([*has, False])[solved.chosen].any(axis=1))
    for i, item in enumerate(solved.items):
        if key == str(SuspectKey(SuspectKind.WEAR, item.key)):
            return np.where(solved.draws.x[..., i] > item.limit, solved.draws.weight, 0.0)
    return np.where(there[:, None], solved.draws.weight, 0.0)
