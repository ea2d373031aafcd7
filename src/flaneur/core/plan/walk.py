"""Walking a plan step by step: what each does to the engine, and whether a valve can meet a piston.

The walk does not trust the order it is given. It keeps the engine's position, lets every cam that
nothing holds go where its springs and friction take it, and asks the clearance at each step.
"""

from collections.abc import Iterable
from dataclasses import dataclass
from functools import lru_cache

from flaneur.core.book.schema import EngineBook
from flaneur.core.book.tasks import Effects
from flaneur.core.plan.doing import Doing
from flaneur.core.plan.ground import Ground
from flaneur.core.plan.loose import MAY_MOVE_DEG, NONE, WHOLE, Arc
from flaneur.core.plan.position import CamState, Concern, Position, StepState
from flaneur.core.plan.sight import seen


@dataclass(frozen=True)
class Walked:
    """A step walked: the position before and after it, and what is wrong with it."""

    ref: str
    before: Position
    after: Position
    concerns: tuple[Concern, ...]


@lru_cache(maxsize=32)
def walker(book: EngineBook) -> "Walker":
    """The walker of a book, kept by what the book says."""
    return Walker(book)


def knows_positions(book: EngineBook) -> bool:
    """Whether a book says what its steps do at all; one written before could not."""
    return any(o.template is not None or o.effects != Effects() for o in book.operations.values())


class Walker(Ground):
    """Walks plans of one book."""

    def walk(self, refs: Iterable[str]) -> list[Walked]:
        """Walk steps in this order from a closed engine that stands anywhere."""
        position, found = Position(), list[Walked]()
        for ref in refs:
            step = Doing(self, ref, position)
            after = step.done()
            found.append(Walked(ref, position, after, tuple(step.concerns)))
            position = after
        return found

    def state(self, position: Position) -> StepState:
        """What a position is, as a step carries it."""
        arc = self._arc(position)
        limits = [t for t in arc.limits if t is not None] if arc else []
        limit = min(limits, key=lambda t: abs(t.turn_deg), default=None)
        jumps = {
            cam: [round(back, 1), round(on, 1)]
            for cam, (back, on) in position.swung.items()
            if max(-back, on) > MAY_MOVE_DEG
        }
        free = self.free_cams(position)
        groups = self.loose.groups(position) if self.loose else []
        tied = {c: group for group in groups for c in group}
        held_by = dict(position.held)
        for cam in free - set(held_by):
            if set(tied.get(cam, ())) & set(position.held):
                held_by[cam] = "chain"

        def cam_state(cam: str) -> CamState:
            if cam in held_by:
                return CamState.HELD
            if cam not in free:
                return CamState.DRIVEN
            if cam not in position.swung:
                return CamState.UNKNOWN
            return CamState.LOADED if cam in jumps else CamState.FREE

        return StepState(
            crank_deg=position.crank_deg,
            is_locked=position.is_locked,
            crank_arc=[arc.back_deg, arc.on_deg] if arc else None,
            ends=limit.what if limit else "",
            chains_off=sorted(position.chains_off),
            slack=sorted(position.slack),
            cams={cam: cam_state(cam) for cam in self.book.cams},
            held_by=held_by,
            jumps=jumps,
            seen=seen(self.book, position.off),
            inside={k: v.count for k, v in position.inside.items()},
        )

    def _arc(self, position: Position) -> Arc | None:
        """How far the crank may turn; None where nobody can say."""
        if position.crank_deg is None or (self.loose is None and self.free_cams(position)):
            return None
        if self.held_driven(position):
            return NONE
        return self.loose.arc(position) if self.loose else WHOLE
