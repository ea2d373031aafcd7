"""The lateness ladder: where each cam's readings lie against book, baseline, tolerance and whole
teeth.
"""

import math

from pydantic import BaseModel, ConfigDict, Field, computed_field

from flaneur.core.book.schema import EngineBook
from flaneur.core.engine.compiled import compiled
from flaneur.core.gauss import Z90
from flaneur.core.measuring.kinds import Phase
from flaneur.core.picture.wheels import is_second
from flaneur.core.readings.taken import CamReading, phaser_shift_deg
from flaneur.core.wording import counted, late_words, within

SAME_TOOTH_DEG = 0.5


class LadderModel(BaseModel):
    """What the ladder is made of: fixed once made."""

    model_config = ConfigDict(frozen=True)


class Rung(LadderModel):
    """One reading: where it lies with the phaser's known shift taken out, and its 90 % interval,
    crank degrees late.
    """

    phase: str
    at_deg: float
    low_deg: float
    high_deg: float
    is_ghost: bool
    is_known: bool = Field(
        description="False while the phaser's state is unknown: the reading then says little of "
        "the cam."
    )
    is_out: bool
    reading: str
    note: str
    words: str


class Tooth(LadderModel):
    """One tooth of a chain on the way to a cam: by how much the cam is late for it."""

    name: str
    deg: float


class LadderRow(LadderModel):
    """One cam. ``teeth``: one tooth of each chain on its way, the smallest first; ``baseline_deg``
    the engine's own, if any.
    """

    cam: str
    name: str
    title: str
    where: str
    bank: str | None
    is_second_bank: bool
    role: str | None
    baseline_deg: float | None
    teeth: list[Tooth]
    is_worst: bool
    rungs: list[Rung]

    @property
    def shown(self) -> list[Rung]:
        """The newest reading of each phase."""
        return [r for r in self.rungs if not r.is_ghost]

    @property
    def last(self) -> Rung | None:
        """The reading that counts now."""
        return self.shown[-1] if self.shown else None

    @property
    def note(self) -> str:
        """What is to know of it: what it was before the repair, or its phaser and whole teeth."""
        last = self.last
        before = next((r for r in self.shown if r.phase == Phase.BEFORE), None)
        if last is None:
            return ""
        if last.phase == Phase.AFTER and before is not None:
            return f"before: {late_words(before.at_deg)}"
        return last.note


class Ladder(LadderModel):
    """All cams on one scale from ``low_deg`` to ``high_deg``; the release tolerance is
    ±``tolerance_deg``.
    """

    low_deg: float
    high_deg: float
    tolerance_deg: float
    rows: list[LadderRow]

    @computed_field
    @property
    def finding(self) -> str:
        """What the newest readings come to, in a sentence; empty while there is none."""
        read = [(row, row.last) for row in self.rows if row.last is not None]
        if not read:
            return ""
        unsettled = [row for row, last in read if not last.is_known]
        worst, last = max(read, key=lambda each: (each[1].is_out, abs(each[1].at_deg)))
        if not last.is_out:
            if unsettled:
                cam = within(unsettled[0].name)
                return f"Not settled: the phaser of the {cam} may stand anywhere."
            few = "" if len(read) == len(self.rows) else f" read so far ({len(read)})"
            return f"Every cam{few} stands within {self.tolerance_deg:g}° of the book."
        words = f"{worst.name} stands {late_words(last.at_deg)}"
        whole = [(int(abs(last.at_deg) // tooth.deg), tooth) for tooth in worst.teeth]
        fits = [(abs(last.at_deg) - n * tooth.deg, n, tooth) for n, tooth in whole if n]
        if not fits:
            return f"{words}: more than {self.tolerance_deg:g}°, less than a tooth."
        rest, n, tooth = min(fits, key=lambda fit: fit[0])
        of = f" of the {within(tooth.name)}" if len(worst.teeth) > 1 else ""
        return f"{words}: as much as {counted(n, 'tooth', 'teeth')}{of} and {rest:.1f}° more."


def make_ladder(
    book: EngineBook, readings: list[tuple[str, CamReading]], baseline_deg: dict[str, float]
) -> Ladder:
    """Ladder of (phase, reading) pairs in time order; the last of each phase and cam counts, older
    ones are ghosts.
    """
    rows: list[LadderRow] = []
    reach: list[float] = []
    for cam in book.cams:
        own = [(phase, r) for phase, r in readings if r.cam == cam]
        last = {phase: i for i, (phase, _) in enumerate(own)}
        rungs = [
            _rung(book, phase, r, is_ghost=last[phase] != i) for i, (phase, r) in enumerate(own)
        ]
        reach += [v for g in rungs for v in (g.low_deg, g.high_deg)]
        rows.append(
            LadderRow(
                cam=cam,
                name=book.shafts[cam].name,
                title=book.shafts[cam].title,
                where=_where(book, cam),
                bank=book.shafts[cam].bank,
                is_second_bank=is_second(book, book.shafts[cam].bank),
                role=book.shafts[cam].role,
                baseline_deg=baseline_deg.get(cam),
                teeth=_teeth(book, cam),
                is_worst=False,
                rungs=rungs,
            )
        )
    rows = _with_worst(rows)
    low = math.floor(min([-8.0, *reach]) - 2)
    high = math.ceil(max([max(r.teeth[-1].deg for r in rows) + 4, *reach]) + 2)
    return Ladder(
        low_deg=low, high_deg=high, tolerance_deg=book.limits.cam_deviation_deg, rows=rows
    )


def _teeth(book: EngineBook, cam: str) -> list[Tooth]:
    """One tooth of each chain, the smallest first; chains whose teeth are as good as the same are
    told as one.
    """
    found: list[Tooth] = []
    sizes = compiled(book).train.teeth_of(cam)
    for chain, deg in sorted(sizes.items(), key=lambda each: each[1]):
        if not found or deg - found[-1].deg > SAME_TOOTH_DEG:
            found.append(Tooth(name=book.chains[chain].name, deg=deg))
    return found


def _where(book: EngineBook, cam: str) -> str:
    """The bank a cam is of, where it has a role and a bank to be told by."""
    shaft = book.shafts[cam]
    known = shaft.role and shaft.bank in book.banks
    return book.banks[shaft.bank].name if known and shaft.bank else ""


def _with_worst(rows: list[LadderRow]) -> list[LadderRow]:
    """The row whose reading lies furthest off marked, if any is out of tolerance."""
    out = [(abs(r.last.at_deg), r.cam) for r in rows if r.last is not None and r.last.is_out]
    worst = max(out, default=(0.0, ""))[1]
    return [r.model_copy(update={"is_worst": r.cam == worst}) for r in rows]


def _rung(book: EngineBook, phase: str, reading: CamReading, is_ghost: bool) -> Rung:
    shift, spread = 0.0, 0.0
    notes: list[str] = []
    key = book.phaser_of(reading.cam)
    is_known = key is None or reading.phaser.state in ("parked", "commanded")
    if key is not None:
        if is_known:
            shift, spread = phaser_shift_deg(book.phasers[key], reading.phaser)
            notes.append(
                "phaser parked"
                if reading.phaser.state == "parked"
                else f"phaser commanded {reading.phaser.command_deg:g}°"
            )
        else:
            notes.append("phaser state unknown")
    at = reading.deviation_deg - shift
    half = Z90 * math.hypot(reading.stderr_deg, spread)
    low, high = at - half, at + half
    if key is not None and not is_known:
        # The cam itself may lie anywhere the phaser could have moved it from.
        reach = book.phasers[key].range_deg
        low, high = (
            (at - half, at + reach + half)
            if book.phasers[key].moves == "advance"
            else (at - reach - half, at + half)
        )
    near = [(round(at / tooth.deg), tooth.deg) for tooth in _teeth(book, reading.cam)]
    off = [(abs(at - n * deg), abs(n)) for n, deg in near if n and abs(at - n * deg) < 0.2 * deg]
    if is_known and off:
        notes.append(f"near {counted(min(off)[1], 'tooth', 'teeth')}")
    return Rung(
        phase=phase,
        at_deg=at,
        low_deg=low,
        high_deg=high,
        is_ghost=is_ghost,
        is_known=is_known,
        is_out=is_known and abs(at) > book.limits.cam_deviation_deg,
        reading=reading.id,
        note=", ".join(notes),
        words=", ".join([late_words(at), *notes]),
    )
