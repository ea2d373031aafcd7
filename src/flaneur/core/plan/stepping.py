"""One step of a plan on its way: where the engine stands, and what is noted against the step."""

from flaneur.core.keys import StepRef
from flaneur.core.plan.ground import Ground
from flaneur.core.plan.position import Concern, ConcernKind, Position
from flaneur.core.wording import within

NEAR_DEG = 3.0
CYCLE_DEG = 720.0


class Stepping:
    """A step with the position it has come to, ``at``, from the one ``before`` it."""

    def __init__(self, ground: Ground, ref: str, before: Position) -> None:
        self.ground, self.book, self.ref = ground, ground.book, ref
        self.verb, self.key = StepRef.of(ref)
        self.at = self.before = before
        self.concerns: list[Concern] = []

    def concern(
        self,
        kind: ConcernKind,
        found: str,
        expected: str,
        way_out: str,
        room_mm: float | None = None,
    ) -> None:
        """Note what is wrong."""
        self.concerns.append(
            Concern(
                step=self.ref,
                kind=kind,
                found=found,
                expected=expected,
                way_out=way_out,
                room_mm=room_mm,
            )
        )

    def name(self, key: str) -> str:
        """What anything of the book is called within a sentence."""
        book = self.book
        groups = (book.components, book.tools, book.shafts, book.marks, book.chains)
        for group in (*groups, book.fasteners):
            if key in group:
                return within(group[key].name)
        return key

    def misplaced(self, wanted_deg: float, what: str, way_out: str) -> bool:
        """Whether the crank stands elsewhere than wanted; noted with what it is wanted for."""
        crank = self.at.crank_deg
        if crank is not None and is_near(crank, wanted_deg):
            return False
        self.concern(
            ConcernKind.OUT_OF_PLACE,
            f"the crank stands at {'no known angle' if crank is None else f'{crank:g}°'}",
            f"{wanted_deg:g}°, where {what}",
            way_out,
        )
        return True


def is_near(one_deg: float, other_deg: float) -> bool:
    """Whether two angles of the cycle are one for the eye."""
    half = CYCLE_DEG / 2
    return abs((one_deg - other_deg + half) % CYCLE_DEG - half) <= NEAR_DEG
