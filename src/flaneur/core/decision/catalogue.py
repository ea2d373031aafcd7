"""What each test takes: minutes, what must be so before it, and the way in by the plan's access."""

from dataclasses import dataclass
from functools import lru_cache

from flaneur.core.book.schema import EngineBook
from flaneur.core.choices import Worded
from flaneur.core.measuring.kinds import ReadingKind
from flaneur.core.measuring.sheets import sheet_of
from flaneur.core.plan.outlay import outlay

COVER_MIN = 45.0  # a cam cover off and on again, with its gasket
STOOD_MIN = 8 * 60.0


class Need(Worded):
    """What must be so before a test."""

    WARM = "warm", "engine warm, at idle"
    COLD = "cold", "engine cold"
    STOOD = "stood", "stood for 8 h"
    PLUGS = "plugs", "plugs out"
    COVER = "cover", "cam cover off"
    FRONT = "front", "drive open"
    DRAINED = "drained", "oil drained, filter cut open"
    CAPTURE = "capture", "capture box"
    TESTER = "tester", "diagnostic tester"
    ENDOSCOPE = "endoscope", "endoscope"
    GAUGE = "gauge", "pressure gauge"


@dataclass(frozen=True)
class Cost:
    """Minutes of work, minutes of waiting, and what must be so."""

    minutes: float
    waiting_minutes: float = 0.0
    needs: tuple[Need, ...] = ()
    opening_minutes: float = 0.0  # of the minutes, those that open and close the drive


_NO_SHEET = {
    "capture": Cost(12, 0, (Need.WARM, Need.CAPTURE)),
    "mark_miss": Cost(15, 0, (Need.PLUGS, Need.COVER)),
    "codes": Cost(4, 0, (Need.TESTER,)),
    "sweep": Cost(10, 0, (Need.WARM, Need.TESTER)),
}
_NEEDS = {
    "plunger": (Need.COLD,),
    "lash": (Need.PLUGS, Need.COLD),
    "tool_fit": (Need.PLUGS, Need.COVER),
    "links": (Need.FRONT,),
    "compress": (Need.FRONT,),
    "debris": (Need.DRAINED,),
    "endoscope": (Need.ENDOSCOPE, Need.COLD),
    "oil": (Need.WARM, Need.GAUGE),
}
_EXTRA_MIN = {"plunger": 10.0, "debris": 20.0, "lash": 10.0, "endoscope": 10.0, "oil": 10.0}


@lru_cache(maxsize=1024)
def cost_of(book: EngineBook, kind: str, part: str) -> Cost:
    """What a test takes on an engine as it stands, nothing open."""
    if kind == "noise":
        waiting = STOOD_MIN if part == "cold_start" else 0.0
        return Cost(6, waiting, (Need.STOOD if part == "cold_start" else Need.WARM,))
    if kind in _NO_SHEET:
        own = _NO_SHEET[kind]
        return Cost(own.minutes + _way_in(book, own.needs, part), own.waiting_minutes, own.needs)
    needs = _NEEDS[kind]
    own = sheet_of(book, ReadingKind(kind)).minutes + _EXTRA_MIN.get(kind, 0.0)
    way_in = _way_in(book, needs, part)
    return Cost(own + way_in, 0.0, needs, way_in if Need.FRONT in needs else 0.0)


def _way_in(book: EngineBook, needs: tuple[Need, ...], part: str) -> float:
    """Minutes to get there and to close up again."""
    if Need.COVER in needs:
        return COVER_MIN
    if Need.FRONT not in needs:
        return 0.0
    chain = part.rpartition(".")[0] or part
    arm = book.arm_of(chain)
    wanted = {book.arms[arm].tensioner} if arm and chain == part else {chain}
    found = [k for k, c in book.components.items() if c.part in wanted]
    covers = {k for c in found for k in book.components[c].covered_by}
    return outlay(book, tuple(k for k in book.components if k in covers)).minutes
