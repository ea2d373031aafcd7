"""What a fixed guide that is gone does: the chain takes the straight way, and its tensioner follows
as far as it can.
"""

from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from flaneur.core.book.schema import EngineBook
from flaneur.core.diagnosis.response import Floats, fill_late, response_of
from flaneur.core.drive.chain import ChainDrive, ChainWear
from flaneur.core.engine.compiled import compiled
from flaneur.core.errors import BookError

FAR_MM = 400.0  # a face so far from its pin line that no chain lies on it


@lru_cache(maxsize=256)
def shift_when_gone(book: EngineBook, guide: str) -> Floats:
    """What a missing guide adds to every row of the response of an otherwise new engine, (rows,):
    shafts late in crank degrees, path in millimetres, lash in degrees. Nothing where the loop
    cannot be solved without it.
    """
    response = response_of(book)
    lines = response.lines
    face = book.guides[guide]
    bare = face.model_copy(update={"liner_mm": min(FAR_MM, face.radius_mm - 1.0)})
    without = book.model_copy(update={"guides": {**book.guides, guide: bare}})
    train = compiled(book).train
    drive = ChainDrive(without, face.chain)
    shift: NDArray[np.float64] = np.zeros(lines.rows)
    wear = ChainWear(0.0, ((guide, bare.liner_mm),))
    try:
        out = drive.plunger_mm(wear) if drive.has_tensioner else 0.0
        lags = drive.lags_deg(wear, out)
    except BookError:
        return shift
    fill_late(train, lines, face.chain, lags, shift)
    if drive.has_tensioner:
        shift[lines.path(face.chain)] = drive.taken_up_mm(out)
    return shift
