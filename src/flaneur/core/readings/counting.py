"""Which readings count: not struck, of the newest capture, with a figure that can be one."""

from collections.abc import Mapping, Sequence
from typing import Any, Protocol, TypeVar

from flaneur.core.book.schema import EngineBook
from flaneur.core.measuring.kinds import Phase, ReadingKind
from flaneur.core.measuring.told import AccessoryNoise, OilState
from flaneur.core.readings.intake import told_tests
from flaneur.core.readings.kept_tests import kept_tests
from flaneur.core.readings.taken import (
    FARTHEST_DEG,
    CamReading,
    DirectReading,
    PhaserState,
    PlungerReading,
    Readings,
    speaks_of_timing,
)
from flaneur.core.readings.tests import AnyTest

LARGEST_DEG, LARGEST_MM = 720.0, 10_000.0
MOST_HOURS = 500_000.0
DIRECT = (ReadingKind.CHAIN_LENGTH, ReadingKind.LINER)


class Kept(Protocol):
    """A reading as it is kept; crank degrees late for a cam, else the unit of its worksheet."""

    id: int | None
    phase: str
    kind: str
    part: str
    value: float | None
    stderr: float | None
    phaser_state: str
    command_deg: float
    capture_id: int | None
    struck: str | None
    detail: dict[str, Any]


K = TypeVar("K", bound=Kept)


def counting(rows: Sequence[K], phase: Phase | None = None) -> list[K]:
    """Readings that count: not struck, and for each cam and phase only the newest capture's beside
    typed ones.

    Reading an old capture again does not make it the newest: captures count in the order they were
    kept.
    """
    newest: dict[tuple[str, str], int] = {}
    for row in rows:
        if row.struck is None and row.capture_id is not None:
            newest[row.phase, row.part] = max(newest.get((row.phase, row.part), 0), row.capture_id)
    return [
        r
        for r in rows
        if r.struck is None
        and (phase is None or r.phase == phase)
        and (r.capture_id is None or r.capture_id == newest[r.phase, r.part])
    ]


def _is_figure(row: Kept, largest: float) -> bool:
    """Whether a kept figure can be one; what was kept before figures had bounds may not be, and
    then says nothing.
    """
    value, stderr = row.value, row.stderr
    return (
        value is not None and stderr is not None and abs(value) <= largest and 0 < stderr <= largest
    )


def cam_readings(rows: Sequence[Kept]) -> list[CamReading]:
    """Cam readings with a figure that can be one."""
    return [
        CamReading(
            id=str(r.id),
            cam=r.part,
            deviation_deg=r.value or 0.0,
            stderr_deg=r.stderr or 0.0,
            phaser=PhaserState.model_validate(
                {"state": r.phaser_state, "command_deg": r.command_deg}
            ),
        )
        for r in rows
        if r.kind == ReadingKind.CAM and _is_figure(r, LARGEST_DEG)
    ]


def known_hours(intake: Mapping[str, object]) -> float | None:
    """Running hours of an intake; None where none are written or what is kept cannot be hours."""
    hours = intake.get("hours")
    return float(hours) if isinstance(hours, int | float) and 0 <= hours <= MOST_HOURS else None


def for_diagnosis(
    book: EngineBook,
    rows: Sequence[Kept],
    intake: Mapping[str, object],
    baseline_deg: Mapping[str, float],
    phase: Phase = Phase.BEFORE,
    more: Sequence[AnyTest] = (),
) -> Readings:
    """Readings that count as diagnosis takes them, against the engine's own baseline where it has
    one (crank degrees by cam). ``more``: what sweeps came to, what was put in before.
    """
    valid = counting(rows, phase)
    cams = cam_readings(valid)
    millimetres = [r for r in valid if _is_figure(r, LARGEST_MM)]
    return Readings(
        engine=book.name,
        hours=known_hours(intake),
        oil=OilState.coded(intake.get("oil_state")) or OilState.UNKNOWN,
        accessories=AccessoryNoise.coded(intake.get("accessories")) or AccessoryNoise.UNKNOWN,
        cams=[r for r in cams if abs(r.deviation_deg) <= FARTHEST_DEG],
        set_aside=[r for r in cams if abs(r.deviation_deg) > FARTHEST_DEG],
        plungers=[
            PlungerReading(
                id=str(r.id), chain=r.part, plunger_mm=r.value or 0.0, stderr_mm=r.stderr or 0.0
            )
            for r in millimetres
            if r.kind == ReadingKind.PLUNGER
            and (r.value or 0.0) >= 0
            and speaks_of_timing(book, r.part)
        ],
        direct=[
            DirectReading(id=str(r.id), part=r.part, value=r.value or 0.0, stderr=r.stderr or 0.0)
            for r in millimetres
            if r.kind in DIRECT and speaks_of_timing(book, r.part)
        ],
        tests=[
            *(told_tests(intake) if phase is Phase.BEFORE else []),
            *kept_tests(book, valid),
            *more,
        ],
        baseline_deg={cam: deg for cam, deg in baseline_deg.items() if abs(deg) <= LARGEST_DEG},
    )
