"""From readings to rows of observations: what was read, what of it wear, phasers and tone wheels
bear on, and how far it can be believed.
"""

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from flaneur.core.book.schema import EngineBook
from flaneur.core.diagnosis.response import Response, response_of
from flaneur.core.engine.compiled import compiled
from flaneur.core.errors import BookError, ReadingError
from flaneur.core.readings.taken import (
    CamReading,
    PlungerReading,
    Readings,
    phaser_shift_deg,
)
from flaneur.core.readings.tests import Lash, MarkMiss

Floats = NDArray[np.float64]
BASELINE_SD_DEG = 0.12
EDGE_SD_DEG = 0.05
MARK_SD_DEG, LASH_SD_DEG = 0.4, 0.3  # how truly a mark is made; how truly slack comes back
SLACK_SD_DEG = {"taken_up": 0.0, "unknown": 2.0, "not_taken_up": 3.0}
LOOSE_SHARE = 0.5  # of the slack of a new chain without tensioner
WIDE = 50.0  # of a row that says nothing under a hypothesis
STOP_MM = 0.5  # so near its stop a plunger may have reached it


@dataclass(frozen=True)
class Row:
    """One observation. ``at`` is the row of the response it reads, or −1 with ``part`` for wear
    measured on the part itself. ``shared`` names tolerances it has in common with others, as their
    standard deviation. ``censored``: the true figure is at least (+1) or at most (−1) this one.
    ``is_loose``: slack may lie on either side of it.
    """

    id: str
    kind: str
    about: str
    at: int
    value: float
    sd: float
    shared: tuple[tuple[str, float], ...] = ()
    part: int = -1
    phaser: str = ""
    wheel: str = ""
    censored: int = 0
    is_loose: bool = False


@dataclass(frozen=True)
class Observations:
    """Rows of observations as arrays. ``matrix`` (n, unknowns): the line through the new engine;
    ``offset`` (n,): what a new engine shows; ``measured`` (n, n): errors of measuring;
    ``tolerance`` (n, n): what rows have in common, however often they are read; ``misfit`` (n, n):
    what the line leaves out.
    """

    rows: tuple[Row, ...]
    response: Response
    values: Floats
    offset: Floats
    matrix: Floats
    measured: Floats
    tolerance: Floats
    misfit: Floats

    def picked(self, response: Floats, wear: Floats) -> Floats:
        """What engines of that wear and response show in each row, (…, n)."""
        at = [max(row.at, 0) for row in self.rows]
        shown = response[..., at]
        for i, row in enumerate(self.rows):
            if row.at < 0:
                shown[..., i] = wear[..., row.part]
        return shown


def observe(book: EngineBook, readings: Readings) -> Observations:
    """All figures of the readings as rows, with errors as the shop's are known to be. Raises
    ReadingError where one cannot stand.
    """
    readings.check_against(book)
    response = response_of(book)
    times = {str(each.method): each.times for each in readings.errors}
    read = [
        *(_cam_row(book, response, r, readings) for r in readings.cams),
        *(_plunger_row(book, response, r) for r in readings.plungers),
        *_direct_rows(response, readings),
        *_test_rows(book, response, readings),
    ]
    rows = [replace(r, sd=r.sd * known) if (known := times.get(r.kind)) else r for r in read]
    n, unknowns = len(rows), len(response.lines.parts)
    matrix, offset = np.zeros((n, unknowns)), np.zeros(n)
    misfit, tolerance = np.zeros((2, n, n))
    for i, row in enumerate(rows):
        if row.at >= 0:
            matrix[i], offset[i] = response.matrix[row.at], response.new[row.at]
        else:
            matrix[i, row.part] = 1.0
    at = np.array([row.at for row in rows], dtype=int)
    is_read = at >= 0
    if is_read.any():
        both = np.ix_(is_read, is_read)
        misfit[both] = response.misfit[np.ix_(at[is_read], at[is_read])]
    names = sorted({name for row in rows for name, _ in row.shared})
    for name in names:
        along = np.array([dict(row.shared).get(name, 0.0) for row in rows])
        tolerance += np.outer(along, along)
    measured = np.diag(np.array([row.sd**2 for row in rows], dtype=np.float64))
    values = np.array([row.value for row in rows], dtype=np.float64)
    return Observations(tuple(rows), response, values, offset, matrix, measured, tolerance, misfit)


def _cam_row(book: EngineBook, response: Response, reading: CamReading, all_: Readings) -> Row:
    """A cam against its baseline, its phaser's known shift taken out. A baseline has the tone
    wheels' offsets in it already.
    """
    base = all_.baseline_deg.get(reading.cam)
    value = reading.deviation_deg - (base or 0.0)
    variance = reading.stderr_deg**2 + EDGE_SD_DEG**2
    key = book.phaser_of(reading.cam)
    if key is not None:
        shift, sd = phaser_shift_deg(book.phasers[key], reading.phaser)
        value, variance = value - shift, variance + sd**2
    loose = _loose_deg(book, response, reading.cam)
    is_known = key is not None and reading.phaser.state != "unknown"
    shared = (
        ((f"baseline {reading.cam}", BASELINE_SD_DEG),)
        if base is not None
        else (
            ("crank wheel", book.crank_tolerance_deg),
            (f"wheel {reading.cam}", book.cam_tolerance_deg(reading.cam)),
        )
    )
    if loose:
        shared = (*shared, (f"slack {reading.cam}", loose))
    return Row(
        reading.id,
        "cam",
        reading.cam,
        response.lines.late(reading.cam),
        value,
        float(np.sqrt(variance)),
        shared,
        phaser=key if is_known and key is not None else "",
        wheel=reading.cam,
        is_loose=bool(loose),
    )


def _loose_deg(book: EngineBook, response: Response, cam: str) -> float:
    """What a cam's place may be off by where a chain without tensioner turns it: read at rest, its
    slack may lie on either side. Crank degrees.
    """
    train = compiled(book).train
    hanging = [c for c in response.lines.parts if c in book.chains and not book.arm_of(c)]
    is_loose = any(cam in train.cams_of(c) for c in hanging)
    return LOOSE_SHARE * float(response.new[response.lines.lash(cam)]) if is_loose else 0.0


def _plunger_row(book: EngineBook, response: Response, reading: PlungerReading) -> Row:
    """A plunger as the chain length it has taken up. Raises ReadingError where it cannot stand."""
    drive = compiled(book).train.chains[reading.chain]
    tensioner = drive.tensioner
    try:
        value = drive.taken_up_mm(reading.plunger_mm)
        ahead, behind = (drive.taken_up_mm(reading.plunger_mm + d) for d in (0.1, -0.1))
        if reading.plunger_mm > tensioner.max_plunger_mm + 3 * reading.stderr_mm:
            raise BookError("Beyond its stop.", [])
    except BookError as error:
        raise ReadingError(
            f"The plunger of {tensioner.name} cannot stand there.",
            read=f"{reading.plunger_mm:.1f} mm",
            expected=f"0 to {tensioner.max_plunger_mm:.0f} mm",
            advice="Measure again; strike the reading out if it was mistyped.",
        ) from error
    per_mm = abs(ahead - behind) / 0.2
    is_out = reading.plunger_mm >= tensioner.max_plunger_mm - STOP_MM
    return Row(
        reading.id,
        "plunger",
        reading.chain,
        response.lines.path(reading.chain),
        value,
        per_mm * reading.stderr_mm,
        ((f"plunger {reading.chain}", per_mm * tensioner.tolerance_mm),),
        censored=int(is_out) - int(reading.plunger_mm <= tensioner.stop_mm + 1e-9),
    )


def _direct_rows(response: Response, readings: Readings) -> list[Row]:
    parts = response.lines.parts
    return [
        Row(r.id, "direct", r.part, -1, r.value, r.stderr, part=parts.index(r.part))
        for r in readings.direct
    ]


def _test_rows(book: EngineBook, response: Response, readings: Readings) -> list[Row]:
    """Tests that give a figure: lash and marks."""
    rows: list[Row] = []
    for test in readings.tests:
        if isinstance(test, Lash):
            rows.append(
                Row(
                    test.id,
                    "lash",
                    test.part,
                    response.lines.lash(test.part),
                    test.lash_deg,
                    test.stderr_deg,
                    ((f"lash {test.part}", LASH_SD_DEG),),
                    censored=int(test.beyond_scale),
                )
            )
        elif isinstance(test, MarkMiss):
            wheel = book.marks[test.part].wheel
            part = book.sprockets.get(wheel) or book.gears[wheel]
            if part.shaft not in response.lines.shafts:
                continue
            rows.append(
                Row(
                    test.id,
                    "mark_miss",
                    test.part,
                    response.lines.late(part.shaft),
                    test.miss_deg,
                    float(np.hypot(test.stderr_deg, SLACK_SD_DEG[test.slack])),
                    ((f"mark {test.part}", MARK_SD_DEG),),
                )
            )
    return rows
