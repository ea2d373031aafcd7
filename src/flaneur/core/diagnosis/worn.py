"""An engine as its verdict has it: the wear and jumps to draw."""

from dataclasses import dataclass

from flaneur.core.book.schema import EngineBook
from flaneur.core.diagnosis.verdict import Verdict
from flaneur.core.faults.model import Faults

LIKELY = 0.5
MOST_ELONGATION_PCT = 6.0


@dataclass(frozen=True)
class Worn:
    """Faults to draw and how to label them; ``is_known`` false while no reading has been taken."""

    faults: Faults
    label: str
    is_known: bool


def worn_state(book: EngineBook, verdict: Verdict, times: float) -> Worn:
    """Wear at its posterior median, exaggerated; teeth jumped where likelier than not, never
    exaggerated.

    Elongation is drawn up to 6 %, beyond which a chain no longer lies on its teeth.
    """
    if not verdict.readings_used:
        return Worn(Faults(), "no readings yet: wear unknown, drawn as the book has it", False)
    elongation = {
        w.key: min(w.median * times, MOST_ELONGATION_PCT)
        for w in verdict.wear
        if w.key in book.chains
    }
    liners = {w.key: w.median * times for w in verdict.wear if w.key not in book.chains}
    jumps = {
        s.part: s.teeth
        for s in verdict.suspects
        if s.kind == "jump" and s.probability > LIKELY and s.teeth
    }
    jumped = (
        "; "
        + "; ".join(
            s.name + ", " + s.detail
            for s in verdict.suspects
            if s.part in jumps and s.kind == "jump"
        )
        if jumps
        else ""
    )
    scale = f"wear drawn ×{times:g}, not to scale" if times != 1 else "wear to scale, ×1"
    return Worn(
        Faults(elongation_pct=elongation, liner_wear_mm=liners, jumped_teeth=jumps),
        f"as worn by the verdict: {scale}{jumped}",
        True,
    )
