"""Each cam against what the book allows for release, its phaser's shift taken out."""

from flaneur.core.book.schema import EngineBook
from flaneur.core.engine.compiled import compiled
from flaneur.core.proof.check import About, Check, CheckState
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

    def found(state: CheckState, words: str, *, overridable: bool = False) -> Check:
        name = book.shafts[cam].name
        return Check(
            about=About.CAM, cam=cam, name=name, state=state, words=words, overridable=overridable
        )

    if reading is None:
        words = (
            "No capture after the repair."
            if book.can_be_captured
            else "Not read after the repair: read it by its marks, type it in at Readings."
        )
        return found("unknown", words)
    deviation, known = parked_deviation_deg(book, reading)
    late = late_words(deviation, digits=2)
    tooth, limit = smallest_tooth_deg(book, cam), book.limits.cam_deviation_deg
    if not known:
        return found("unknown", f"{late}, phaser state unknown: capture it parked.")
    if abs(deviation) > tooth / 2:
        teeth = counted(max(1, round(abs(deviation) / tooth)), "whole tooth", "whole teeth")
        return found("failed", f"{late}: {teeth} out. Open it and set it again.")
    if abs(deviation) > limit:
        return found("failed", f"{late}, the book allows {limit:g}°.", overridable=True)
    return found("met", f"{late}, within {limit:g}°.")
