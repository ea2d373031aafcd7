"""From readings to a stack of configurations, and its solution."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from flaneur.core.book.schema import EngineBook
from flaneur.core.diagnosis.evidence import Posterior, Stack, solve
from flaneur.core.diagnosis.hypotheses import Abrupt, abrupt_faults, configurations
from flaneur.core.diagnosis.readings import CamReading, PlungerReading, Readings, phaser_shift_deg
from flaneur.core.diagnosis.wear import WearUnknown, sensitivity, unknowns
from flaneur.core.drive.train import DriveTrain
from flaneur.core.errors import BookError, ReadingError

Floats = NDArray[np.float64]
BASELINE_SD_DEG = 0.12
NONE_OF_THESE_SCALE = 8.0
NONE_OF_THESE_PRIOR = 0.004
PHASER_SHARE = (0.4, 0.3)  # mean and standard deviation of a fault's offset, as shares of the range


@dataclass(frozen=True)
class Observations:
    """Rows of observations with their error covariance, each row tied to its reading."""

    values: Floats
    matrix: Floats
    noise: Floats
    cams: Floats
    phaser_columns: Floats
    names: tuple[str, ...]


@dataclass(frozen=True)
class Solved:
    """A solved diagnosis: configurations (the last is none-of-these), their posterior, and what the
    columns mean.
    """

    items: list[WearUnknown]
    faults: list[Abrupt]
    sets: list[tuple[int, ...]]
    posterior: Posterior


def observe(book: EngineBook, readings: Readings) -> Observations:
    """Stack readings into rows. Tone-wheel tolerance is one offset shared by all readings of a
    cam.
    """
    readings.check_against(book)
    train = DriveTrain(book)
    lines = sensitivity(book)
    cams, chains = book.cams, list(book.chains)
    used: list[CamReading | PlungerReading] = [*readings.cams, *readings.plungers]
    first_direct = len(used)
    n = first_direct + len(readings.direct)
    values, noise = np.zeros(n), np.zeros((n, n))
    pick = np.zeros(n, dtype=int)
    names: list[str] = []
    for i, reading in enumerate(used):
        if isinstance(reading, CamReading):
            pick[i] = cams.index(reading.cam)
            values[i] = reading.deviation_deg - readings.baseline_deg.get(reading.cam, 0.0)
            noise[i, i] += reading.stderr_deg**2 + 0.05**2
            key = book.phaser_of(reading.cam)
            if key is not None:
                shift, sd = phaser_shift_deg(book.phasers[key], reading.phaser)
                values[i] -= shift
                noise[i, i] += sd**2
        else:
            drive = train.chains[reading.chain]
            pick[i] = len(cams) + chains.index(reading.chain)
            try:
                values[i] = drive.taken_up_mm(reading.plunger_mm)
                slope = drive.taken_up_mm(reading.plunger_mm + 0.1) - drive.taken_up_mm(
                    reading.plunger_mm - 0.1
                )
            except BookError as error:
                raise ReadingError(
                    f"The plunger of {drive.tensioner.name} cannot stand there.",
                    read=f"{reading.plunger_mm:.1f} mm",
                    expected=f"0 to {drive.tensioner.max_plunger_mm:.0f} mm",
                    advice="Measure again; strike the reading out if it was mistyped.",
                ) from error
            per_mm = abs(slope) / 0.2
            noise[i, i] += (per_mm * reading.stderr_mm) ** 2 + (
                per_mm * drive.tensioner.tolerance_mm
            ) ** 2
        names.append(reading.id or str(i))
    bent = slice(0, first_direct)
    noise[bent, bent] += lines.misfit[np.ix_(pick[bent], pick[bent])]
    matrix = np.zeros((n, lines.matrix.shape[1]))
    matrix[bent] = lines.matrix[pick[bent]]
    keys = [item.key for item in unknowns(book, readings.hours, readings.oil)]
    for i, direct in enumerate(readings.direct, start=first_direct):
        values[i], noise[i, i] = direct.value, direct.stderr**2
        matrix[i, keys.index(direct.part)] = 1.0
        names.append(direct.id or str(i))
    crank = book.crank_tolerance_deg
    for i in range(len(readings.cams)):
        for j in range(len(readings.cams)):
            known = (
                readings.cams[i].cam in readings.baseline_deg
                and readings.cams[j].cam in readings.baseline_deg
            )
            if not known:
                noise[i, j] += crank**2
            if pick[i] == pick[j]:
                noise[i, j] += (
                    BASELINE_SD_DEG if known else book.cam_tolerance_deg(readings.cams[i].cam)
                ) ** 2
    phasers = list(book.phasers.values())
    columns = np.zeros((n, len(phasers)))
    for p, phaser in enumerate(phasers):
        sign = -1.0 if phaser.moves == "advance" else 1.0
        for i, reading in enumerate(readings.cams):
            if reading.cam == phaser.shaft and reading.phaser.state != "unknown":
                columns[i, p] = sign
    onehot = np.zeros((n, len(cams)))
    for i in range(len(readings.cams)):
        onehot[i, pick[i]] = 1.0
    return Observations(values, matrix, noise, onehot, columns, tuple(names))


def solve_readings(book: EngineBook, readings: Readings, points: int = 256) -> Solved:
    """Evidence over all sets of up to two abrupt faults and over wear. Units as in ``observe``."""
    items = unknowns(book, readings.hours, readings.oil)
    faults = abrupt_faults(book, items)
    sets = configurations(faults)
    seen = observe(book, readings)
    u, phasers = len(items), len(book.phasers)
    count = len(sets) + 1
    mean = np.tile(np.array([*(i.mean for i in items), *([0.0] * phasers)]), (count, 1))
    sd = np.tile(np.array([*(i.sd for i in items), *([0.0] * phasers)]), (count, 1))
    noise = np.tile(seen.noise, (count, 1, 1))
    residual = np.tile(seen.values, (count, 1))
    log_prior = np.zeros(count)
    ranges = [p.range_deg for p in book.phasers.values()]
    shifts = [seen.cams @ f.shift_deg for f in faults]
    spreads = [
        f.spread_sd**2 * np.outer(seen.cams @ f.spread_deg, seen.cams @ f.spread_deg)
        for f in faults
    ]
    for c, chosen in enumerate(sets):
        for f in chosen:
            fault = faults[f]
            log_prior[c] += fault.log_odds
            residual[c] -= shifts[f]
            if fault.spread_sd:
                noise[c] += spreads[f]
            if fault.wear_index is not None:
                limit = items[fault.wear_index].limit
                mean[c, fault.wear_index], sd[c, fault.wear_index] = 1.3 * limit, 0.6 * limit
            if fault.phaser_index is not None:
                share, spread = PHASER_SHARE
                p = fault.phaser_index
                mean[c, u + p], sd[c, u + p] = share * ranges[p], spread * ranges[p]
    noise[-1] *= NONE_OF_THESE_SCALE**2
    noise[-1] += np.diag(np.where(seen.cams.any(axis=1), 6.0, 2.0) ** 2)
    log_prior[-1] = np.log(NONE_OF_THESE_PRIOR)
    matrix = np.column_stack([seen.matrix, seen.phaser_columns])
    return Solved(
        items, faults, sets, solve(Stack(residual, matrix, mean, sd, noise, log_prior), points)
    )


_priors: dict[tuple[int, float | None, str], tuple[EngineBook, Solved]] = {}


def solve_prior(book: EngineBook, hours: float | None, oil: str) -> Solved:
    """What is believed before any reading; solved once per book object, hours and oil history."""
    key = (id(book), hours, oil)
    if key not in _priors or _priors[key][0] is not book:
        if len(_priors) > 64:
            _priors.clear()
        nothing = Readings.model_validate({"engine": book.name, "hours": hours, "oil": oil})
        _priors[key] = (book, solve_readings(book, nothing, points=512))
    return _priors[key][1]
