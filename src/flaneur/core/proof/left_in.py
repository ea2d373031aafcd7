"""How late the parts that stay in keep the shafts: what of a mark's miss is wear that was left."""

from collections.abc import Collection, Sequence

from flaneur.core.book.schema import EngineBook
from flaneur.core.diagnosis.found import WearEstimate
from flaneur.core.engine.compiled import compiled
from flaneur.core.faults.model import Faults


def wear_left_deg(
    book: EngineBook, wear: Sequence[WearEstimate], renewed: Collection[str]
) -> dict[str, tuple[float, float]]:
    """Between which latenesses each shaft is put by the parts that were not renewed, 90 %, crank
    degrees. ``renewed`` are components of the book. Every part at the end of its interval at once
    is farther than 90 %: it is taken so, for it only says what wear can explain. A part that no
    reading bears on explains nothing.
    """
    new = {book.components[key].part for key in renewed}
    late = [
        compiled(book).train.shaft_late_deg(_faults(book, wear, new, end))[0]
        for end in ("low", "high")
    ]
    return {shaft: (late[0][shaft], late[1][shaft]) for shaft in late[0]}


def _faults(
    book: EngineBook, wear: Sequence[WearEstimate], new: Collection[str | None], end: str
) -> Faults:
    left = {w.key: max(0.0, float(getattr(w, end))) for w in wear if w.is_read and w.key not in new}
    return Faults(
        elongation_pct={k: v for k, v in left.items() if k in book.chains},
        liner_wear_mm={k: v for k, v in left.items() if k not in book.chains},
    )
