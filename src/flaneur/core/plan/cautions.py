"""Which cautions stand at a step: those it protects, few enough to be read."""

from flaneur.core.book.schema import EngineBook
from flaneur.core.keys import StepRef
from flaneur.core.plan.ground import makers_word, task_of
from flaneur.core.plan.position import WHOLE_TURN, CamState, StepState
from flaneur.core.plan.tour import toured

ONCE = frozenset({"battery", "cold", "hot", "lifting", "solvent", "no_starter"})
QUIET = (CamState.HELD, CamState.DRIVEN)


class Cautions:
    """Cautions along one plan: what holds for the whole of it is said where it first matters, and
    what springs or pistons do only where they can.
    """

    def __init__(self, book: EngineBook) -> None:
        self.book = book
        self.said: set[str] = set()
        self.before: StepState | None = None

    def at(self, ref: str, state: StepState | None) -> list[str]:
        """Cautions of the next step, in words; the maker's word that valves touch comes first."""
        task = task_of(self.book, ref)
        asked = task.cautions if task else self._of_bolts(ref)
        known = [c for c in asked if c in self.book.cautions and c not in self.said]
        works = bool(task and task.effects.works)
        found = [c for c in known if self._matters(c, state, works)]
        self.said |= ONCE & set(found)
        self.before = state
        told = makers_word(self.book, ref)
        return [*([told] if told else []), *(self.book.cautions[c] for c in found)]

    def _of_bolts(self, ref: str) -> list[str]:
        bolts = self.book.components[StepRef.of(ref).key].fasteners
        is_new = any(self.book.fasteners[f].one_use for f in bolts)
        return [*(["one_use"] if is_new else []), *(["hands"] if toured(self.book, ref) else [])]

    def _matters(self, caution: str, state: StepState | None, works: bool) -> bool:
        """Whether springs or pistons can do what is cautioned of; a bolt that is worked may jerk
        its cam out of what holds it.
        """
        around = [s for s in (self.before, state) if s is not None]
        if len(around) < 2:
            return True
        if caution == "jump":
            return works or any(v not in QUIET for s in around for v in s.cams.values())
        if caution == "interference":
            return any(s.crank_arc != [-WHOLE_TURN, WHOLE_TURN] for s in around)
        return True
