"""Each cam against what the book allows for release, its phaser's shift taken out."""

from flaneur.core.book.schema import EngineBook
from flaneur.core.engine.compiled import compiled
from flaneur.core.proof.check import About, Check
from flaneur.core.readings.taken import CamReading, phaser_shift_deg
from flaneur.core.wording import counted, late_words


def smallest_tooth_deg(book: EngineBook, cam: str) -> float:
    """Crank degrees of the smallest tooth by which this cam can be out."""
    return min(compiled(book).train.teeth_of(cam).values())


def parked_deviation_deg(book: EngineBook, reading: CamReading) -> tuple[float, bool]:
    """Deviation with the phaser's commanded shift taken out, and whether the phaser's state is
    known.
    """
    key = book.phaser_of(reading.cam)
    if key is None:
        return reading.deviation_deg, True
    if reading.phaser.state in ("unknown", "none"):
        return reading.deviation_deg, False
    return reading.deviation_deg - phaser_shift_deg(book.phasers[key], reading.phaser)[0], True


def cam_check(book: EngineBook, cam: str, reading: CamReading | None) -> Check:
    """A cam against the book's release tolerance. Half a tooth or more is a whole tooth out: never
    overridable.
    """
    name = book.shafts[cam].name
    if reading is None:
        words = (
            "No capture after the repair."
            if book.can_be_captured
            else "Not read after the repair: read it by its marks, type it in at Readings."
        )
        return Check(
            about=About.CAM, cam=cam, name=name, state="unknown", words=words, overridable=False
        )
    deviation, known = parked_deviation_deg(book, reading)
    late = late_words(deviation, digits=2)
    tooth = smallest_tooth_deg(book, cam)
    limit = book.limits.cam_deviation_deg
    if not known:
        return Check(
            about=About.CAM,
            cam=cam,
            name=name,
            state="unknown",
            words=f"{late}, phaser state unknown: capture it parked.",
            overridable=False,
        )
    if abs(deviation) > tooth / 2:
        teeth = max(1, round(abs(deviation) / tooth))
        words = (
            f"{late}: {counted(teeth, 'whole tooth', 'whole teeth')} out. Open it and set it again."
        )
        return Check(
            about=About.CAM, cam=cam, name=name, state="failed", words=words, overridable=False
        )
    if abs(deviation) > limit:
        return Check(
            about=About.CAM,
            cam=cam,
            name=name,
            state="failed",
            words=f"{late}, the book allows {limit:g}°.",
            overridable=True,
        )
    return Check(
        about=About.CAM,
        cam=cam,
        name=name,
        state="met",
        words=f"{late}, within {limit:g}°.",
        overridable=False,
    )
