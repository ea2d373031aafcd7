"""The first start after a repair, kept as what was heard and what the oil did."""

from dataclasses import dataclass

from flaneur.core.measuring.kinds import Phase, ReadingKind
from flaneur.core.measuring.worksheet import WHOLE
from flaneur.core.proof.first_start import (
    cautions,
    noise_fields,
    oil_fields,
    settled_s,
    settled_words,
)
from flaneur.core.readings.counting import counting
from flaneur.devices.live import LiveSession
from flaneur.jobs.readings import keep_sheet
from flaneur.jobs.work import Work
from flaneur.store.readings import readings_of
from flaneur.store.tables import JournalEntry

HEARD = "ear, at the first start"


@dataclass(frozen=True)
class Started:
    """What a person saw and heard: seconds of rattle (None: none), oil pressure as typed (empty:
    not read) and after how many seconds it was there (None: not said), hours of standing as typed.
    """

    rattle_s: float | None
    pressure: str
    pressure_s: float | None
    standing: str


def settled_of(work: Work, live: LiveSession) -> dict[str, float | None]:
    """After how many seconds each cam stood in its tolerance, by its name."""
    limit = work.book.limits.cam_deviation_deg
    lines = {cam: list(line) for cam, line in list(live.shown.history.items())}
    return {work.book.shafts[cam].name: settled_s(line, limit) for cam, line in lines.items()}


def keep_first_start(work: Work, live: LiveSession, seen: Started) -> JournalEntry:
    """Keep a first start: the noise with how cams settled beside it, and the oil's pressure. Raises
    ReadingError.
    """
    told = [settled_words(settled_of(work, live))]
    if seen.pressure_s is not None:
        told.append(f"oil pressure after {seen.pressure_s:.0f} s")
    told += cautions(seen.rattle_s, seen.pressure_s)
    fields = noise_fields(seen.rattle_s, seen.standing, "; ".join(told))
    entry, _ = keep_sheet(work, ReadingKind.NOISE, WHOLE, fields, Phase.AFTER, HEARD)
    if seen.pressure:
        oil = oil_fields(seen.pressure, live.shown.rpm)
        entry, _ = keep_sheet(work, ReadingKind.OIL, WHOLE, oil, Phase.AFTER, "oil gauge")
    return entry


def heard_words(work: Work, phase: Phase) -> list[str]:
    """What was seen and heard at starts before or after the repair, in order."""
    rows = counting(readings_of(work.session, work.job_id), phase)
    kinds = (ReadingKind.NOISE, ReadingKind.OIL)
    own = [row for row in rows if row.kind in kinds]
    told = [(row.words, str(row.detail.get("fields", {}).get("note", ""))) for row in own]
    return [" ".join(part for part in parts if part) for parts in told]
