"""On what the readings bear: which wear and which abrupt faults anything read has to do with. What
nothing bears on keeps its prior, by itself, and is not gone through.
"""

import numpy as np
from numpy.typing import NDArray

from flaneur.core.book.schema import EngineBook
from flaneur.core.diagnosis.abrupt import Abrupt
from flaneur.core.diagnosis.fitting import play_deg
from flaneur.core.diagnosis.observe import Observations
from flaneur.core.diagnosis.wear import WearUnknown
from flaneur.core.engine.compiled import compiled
from flaneur.core.keys import Contact
from flaneur.core.readings.tests import (
    AnyTest,
    Codes,
    Complaint,
    Compress,
    Debris,
    Endoscope,
    Links,
    Noise,
    Sweep,
    ToolFit,
)

LEAST = 0.02  # degrees or millimetres at the limit: less is not seen by anybody


def cams_asked(book: EngineBook, tests: list[AnyTest]) -> set[str]:
    """Cams whose standing some test that gives no figure speaks of."""
    found: set[str] = set()
    for test in tests:
        if isinstance(test, ToolFit) and play_deg(book, test) is not None:
            found.add(test.part)
        elif isinstance(test, Codes | Complaint):  # whether it starts speaks of every cam
            found |= set(book.cams)
    return found


def is_heard(tests: list[AnyTest]) -> bool:
    """Whether anybody listened."""
    return any(
        isinstance(t, Noise) or (isinstance(t, Complaint) and t.rattle != "unknown") for t in tests
    )


def wear_read(
    book: EngineBook, seen: Observations, items: list[WearUnknown], tests: list[AnyTest]
) -> NDArray[np.bool_]:
    """Which gradual unknowns anything read bears on, (items,)."""
    rows = [row.at for row in seen.rows if row.at >= 0]
    rows += [seen.response.lines.late(cam) for cam in cams_asked(book, tests)]
    limits = np.array([item.limit for item in items])
    both = np.vstack([seen.response.matrix[rows], seen.matrix])
    found: NDArray[np.bool_] = np.asarray((np.abs(both) * limits > LEAST).any(axis=0))
    looked = {t.part for t in tests if isinstance(t, Endoscope)}
    for i, item in enumerate(items):
        found[i] |= item.key in looked
        found[i] |= is_heard(tests) and item.kind in ("chain", "arm")
        found[i] |= any(
            (t.metal if item.kind == "chain" else t.plastic) != "not_looked"
            for t in tests
            if isinstance(t, Debris)
        )
    return found


def faults_read(
    book: EngineBook,
    seen: Observations,
    faults: list[Abrupt],
    is_read: NDArray[np.bool_],
    tests: list[AnyTest],
) -> list[Abrupt]:
    """The abrupt faults that anything read bears on."""
    rows = [row.at for row in seen.rows if row.at >= 0]
    asked = cams_asked(book, tests)
    rows += [seen.response.lines.late(cam) for cam in asked]
    train = compiled(book).train
    listened = is_heard(tests)

    def bears(fault: Abrupt) -> bool:
        if (np.abs(fault.shift[rows]) > LEAST).any():
            return True
        if fault.wear_index is not None:
            return bool(is_read[fault.wear_index])
        if fault.gone_index is not None:
            looks = any(isinstance(t, Debris) and t.plastic != "not_looked" for t in tests)
            seen_it = any(isinstance(t, Endoscope) and t.part == fault.key.part for t in tests)
            return listened or looks or seen_it
        if fault.teeth:
            chain = Contact.of(fault.key.part).chain
            return any(
                isinstance(t, Links) and t.part.rpartition(".")[0] == chain for t in tests
            ) and bool(train.cams_of(chain))
        if fault.phaser:
            cam = book.phasers[fault.phaser].shaft
            swept = any(isinstance(t, Sweep) and t.part == fault.phaser for t in tests)
            return swept or cam in asked or any(row.phaser == fault.phaser for row in seen.rows)
        if fault.wheel:
            return any(row.wheel and fault.wheel in ("crank", row.wheel) for row in seen.rows)
        return (
            (listened and bool(fault.stuck))
            or any(isinstance(t, Compress) and t.part == fault.stuck for t in tests)
            or any(row.kind == "plunger" and row.about == fault.blind for row in seen.rows)
        )

    return [fault for fault in faults if bears(fault)]
