"""Which cautions stand at a step: those it protects, few enough to be read."""

from flaneur.core.book.schema import EngineBook
from flaneur.core.book.tasks import Task
from flaneur.core.keys import StepRef, Verb
from flaneur.core.plan.position import CamState, StepState

ONCE = frozenset({"battery", "cold", "hot", "lifting", "solvent", "no_starter"})
WHOLE_TURN = 360.0


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
        verb, key = StepRef.of(ref)
        task = self._task(verb, key)
        asked = task.cautions if task else self._of_bolts(key)
        found = [c for c in asked if c in self.book.cautions and self._matters(c, state)]
        self.said |= ONCE & set(found)
        self.before = state
        told = (task or self.book.components[key].fit).maker_touches
        touches = [told] if told else []
        return [*touches, *(self.book.cautions[c] for c in found)]

    def _task(self, verb: Verb, key: str) -> Task | None:
        if verb is Verb.OPERATION:
            return self.book.operations[key]
        component = self.book.components[key]
        return {Verb.REMOVE: component.remove, Verb.FIT: component.fit}.get(verb)

    def _of_bolts(self, key: str) -> list[str]:
        bolts = self.book.components[key].fasteners
        return ["one_use"] if any(self.book.fasteners[f].one_use for f in bolts) else []

    def _matters(self, caution: str, state: StepState | None) -> bool:
        if caution in self.said:
            return False
        around = [s for s in (self.before, state) if s is not None]
        if len(around) < 2:
            return True
        if caution == "jump":
            quiet = (CamState.HELD, CamState.DRIVEN)
            return any(v not in quiet for s in around for v in s.cams.values())
        if caution == "interference":
            return any(s.crank_arc is None or s.crank_arc[1] < WHOLE_TURN for s in around)
        return True
