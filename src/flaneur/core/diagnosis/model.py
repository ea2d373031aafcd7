"""From readings to a stack of configurations, and its solution."""

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from flaneur.core.book.schema import EngineBook
from flaneur.core.diagnosis.evidence import Posterior, Stack, solve
from flaneur.core.diagnosis.hypotheses import Abrupt, abrupt_faults, configurations
from flaneur.core.diagnosis.wear import WearUnknown, sensitivity, unknowns
from flaneur.core.engine.compiled import compiled
from flaneur.core.errors import BookError, ReadingError
from flaneur.core.readings.taken import CamReading, PlungerReading, Readings, phaser_shift_deg

Floats = NDArray[np.float64]
BASELINE_SD_DEG = 0.12
EDGE_SD_DEG = 0.05
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
    """Stack readings into n rows: cams (crank degrees late), plungers (mm taken up), then parts
    measured themselves. Tone-wheel tolerance is one offset shared by all readings of a cam.
    """
    readings.check_against(book)
    lines = sensitivity(book)
    rows = [
        *(_cam_row(book, reading, readings) for reading in readings.cams),
        *(_plunger_row(book, reading) for reading in readings.plungers),
    ]
    bent, n = len(rows), len(rows) + len(readings.direct)
    pick = np.array([row.line for row in rows], dtype=int)  # (bent,) row of the sensitivity
    values = np.array([*(row.value for row in rows), *(r.value for r in readings.direct)])  # (n,)
    own = [*(row.variance for row in rows), *(r.stderr**2 for r in readings.direct)]
    noise = np.diag(np.array(own, dtype=np.float64))  # (n, n)
    noise[:bent, :bent] += lines.misfit[np.ix_(pick, pick)]
    cams = len(readings.cams)
    noise[:cams, :cams] += _shared_tolerance(book, readings)
    matrix = np.zeros((n, lines.matrix.shape[1]))  # (n, unknowns)
    matrix[:bent] = lines.matrix[pick]
    keys = [item.key for item in unknowns(book, readings.hours, readings.oil)]
    for i, direct in enumerate(readings.direct, start=bent):
        matrix[i, keys.index(direct.part)] = 1.0
    onehot = np.zeros((n, len(book.cams)))  # (n, cams)
    onehot[np.arange(cams), pick[:cams]] = 1.0
    every = [*readings.cams, *readings.plungers, *readings.direct]
    names = tuple(reading.id or str(i) for i, reading in enumerate(every))
    return Observations(values, matrix, noise, onehot, _phaser_columns(book, readings, n), names)


@dataclass(frozen=True)
class _Row:
    """One row: which line of the sensitivity it reads, its value, and its own variance."""

    line: int
    value: float
    variance: float


def _cam_row(book: EngineBook, reading: CamReading, readings: Readings) -> _Row:
    """A cam against its baseline, its phaser's known shift taken out."""
    value = reading.deviation_deg - readings.baseline_deg.get(reading.cam, 0.0)
    variance = reading.stderr_deg**2 + EDGE_SD_DEG**2
    key = book.phaser_of(reading.cam)
    if key is not None:
        shift, sd = phaser_shift_deg(book.phasers[key], reading.phaser)
        value, variance = value - shift, variance + sd**2
    return _Row(book.cams.index(reading.cam), value, variance)


def _plunger_row(book: EngineBook, reading: PlungerReading) -> _Row:
    """A plunger as the chain length it has taken up. Raises ReadingError where it cannot stand."""
    drive = compiled(book).train.chains[reading.chain]
    tensioner = drive.tensioner
    try:
        value = drive.taken_up_mm(reading.plunger_mm)
        ahead, behind = (drive.taken_up_mm(reading.plunger_mm + d) for d in (0.1, -0.1))
    except BookError as error:
        raise ReadingError(
            f"The plunger of {tensioner.name} cannot stand there.",
            read=f"{reading.plunger_mm:.1f} mm",
            expected=f"0 to {tensioner.max_plunger_mm:.0f} mm",
            advice="Measure again; strike the reading out if it was mistyped.",
        ) from error
    per_mm = abs(ahead - behind) / 0.2
    variance = per_mm**2 * (reading.stderr_mm**2 + tensioner.tolerance_mm**2)
    return _Row(len(book.cams) + list(book.chains).index(reading.chain), value, variance)


def _shared_tolerance(book: EngineBook, readings: Readings) -> Floats:
    """What cam readings have in common, (cams read, cams read): the crank wheel's tolerance, and
    the cam wheel's own among readings of one cam. A known baseline has both in it already.
    """
    cams = [r.cam for r in readings.cams]
    known = np.array([cam in readings.baseline_deg for cam in cams], dtype=bool)
    both_known = known[:, None] & known[None, :]
    same = np.array([[a == b for b in cams] for a in cams], dtype=bool).reshape(both_known.shape)
    own = np.array([book.cam_tolerance_deg(cam) for cam in cams])[:, None] if cams else 0.0
    wheel = np.where(both_known, BASELINE_SD_DEG, own) ** 2
    return np.where(both_known, 0.0, book.crank_tolerance_deg**2) + np.where(same, wheel, 0.0)


def _phaser_columns(book: EngineBook, readings: Readings, n: int) -> Floats:
    """What a phaser's offset does to each row, (n, phasers): nothing where its state is unknown."""
    columns = np.zeros((n, len(book.phasers)))
    for p, phaser in enumerate(book.phasers.values()):
        for i, reading in enumerate(readings.cams):
            if reading.cam == phaser.shaft and reading.phaser.state != "unknown":
                columns[i, p] = -1.0 if phaser.moves == "advance" else 1.0
    return columns


def solve_readings(book: EngineBook, readings: Readings, points: int = 256) -> Solved:
    """Evidence over all sets of up to two abrupt faults and over wear. Units as in ``observe``."""
    items = unknowns(book, readings.hours, readings.oil)
    faults = abrupt_faults(book, items)
    sets = configurations(faults)
    stack = _stack(book, observe(book, readings), items, faults, sets)
    return Solved(items, faults, sets, solve(stack, points))


def _stack(
    book: EngineBook,
    seen: Observations,
    items: list[WearUnknown],
    faults: list[Abrupt],
    sets: list[tuple[int, ...]],
) -> Stack:
    """One problem per set of faults, and last the one that says none of these, with wide noise."""
    u, phasers, count = len(items), list(book.phasers.values()), len(sets) + 1
    mean = np.tile(np.array([*(i.mean for i in items), *([0.0] * len(phasers))]), (count, 1))
    sd = np.tile(np.array([*(i.sd for i in items), *([0.0] * len(phasers))]), (count, 1))
    noise = np.tile(seen.noise, (count, 1, 1))
    residual = np.tile(seen.values, (count, 1))
    log_prior = np.zeros(count)
    shifts = [seen.cams @ f.shift_deg for f in faults]
    along = [seen.cams @ f.spread_deg for f in faults]
    spreads = [f.spread_sd**2 * np.outer(a, a) for f, a in zip(faults, along, strict=True)]
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
                p = fault.phaser_index
                share, spread = (v * phasers[p].range_deg for v in PHASER_SHARE)
                mean[c, u + p], sd[c, u + p] = share, spread
    noise[-1] *= NONE_OF_THESE_SCALE**2
    noise[-1] += np.diag(np.where(seen.cams.any(axis=1), 6.0, 2.0) ** 2)
    log_prior[-1] = np.log(NONE_OF_THESE_PRIOR)
    matrix = np.column_stack([seen.matrix, seen.phaser_columns])
    return Stack(residual, matrix, mean, sd, noise, log_prior)


@lru_cache(maxsize=64)
def solve_prior(book: EngineBook, hours: float | None, oil: str) -> Solved:
    """What is believed before any reading; solved once for a book's content, hours and oil."""
    nothing = Readings.model_validate({"engine": book.name, "hours": hours, "oil": oil})
    return solve_readings(book, nothing, points=512)
