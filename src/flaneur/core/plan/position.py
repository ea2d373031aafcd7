"""Where an engine stands while it is taken apart: crank, chains, cams, what is seen and what is in
it.
"""

from dataclasses import dataclass, field, replace
from enum import StrEnum

from pydantic import BaseModel, ConfigDict

from flaneur.core.clearance.swing import Held

WHOLE_TURN = 360.0


class CamState(StrEnum):
    """What a cam does. ``FREE``: nothing holds it and its springs do not move it; ``LOADED``: they
    do.
    """

    DRIVEN = "driven"
    HELD = "held"
    FREE = "free"
    LOADED = "loaded"
    UNKNOWN = "unknown"


class ConcernKind(StrEnum):
    """What may be wrong with a step where it stands in the order."""

    TOUCHES = "touches"
    TURNS_TOO_FAR = "turns_too_far"
    SLIPS = "slips"
    JUMPS = "jumps"
    UNSEEN = "unseen"
    UNREACHED = "unreached"
    CLOSED_OVER = "closed_over"
    NOT_TURNED = "not_turned"
    UNTORQUED = "untorqued"
    OUT_OF_PLACE = "out_of_place"
    STILL_IN = "still_in"


BENDS = frozenset({ConcernKind.TOUCHES, ConcernKind.TURNS_TOO_FAR, ConcernKind.SLIPS})


class Concern(BaseModel):
    """What is wrong with a step: found, expected, and the way out; ``room_mm`` of a contact, None
    where it is unknown or no contact.
    """

    model_config = ConfigDict(frozen=True)

    step: str
    kind: ConcernKind
    found: str
    expected: str
    way_out: str
    room_mm: float | None = None

    @property
    def bends(self) -> bool:
        """Whether a valve can meet something in it."""
        return self.kind in BENDS


Place = tuple[float, float]


@dataclass(frozen=True)
class Inside:
    """Something put into the engine: how many, and which covers must not close over it."""

    count: int
    under: tuple[str, ...] = ()


@dataclass(frozen=True)
class Position:
    """The state between two steps.

    ``crank_deg`` None: nobody has found it yet. ``slack`` chains are on without tension. ``places``
    of cams that nothing drives are stretches of their own angle, crank degrees, and ``swung`` says
    how far each may have swung when it was let go, degrees of the cam; ``held`` names the tool that
    holds a cam. ``taper`` cams are those whose sprocket grips nothing yet.
    """

    crank_deg: float | None = None
    is_locked: bool = False
    phasers_locked: frozenset[str] = frozenset()
    chains_off: frozenset[str] = frozenset()
    slack: frozenset[str] = frozenset()
    taper: frozenset[str] = frozenset()
    places: dict[str, Place] = field(default_factory=dict[str, Place])
    swung: dict[str, Place] = field(default_factory=dict[str, Place])
    held: dict[str, str] = field(default_factory=dict[str, str])
    followers_out: dict[str, tuple[int, ...]] = field(default_factory=dict[str, tuple[int, ...]])
    off: frozenset[str] = frozenset()
    untorqued: frozenset[str] = frozenset()
    loosened: frozenset[str] = frozenset()
    inside: dict[str, Inside] = field(default_factory=dict[str, Inside])
    owed: frozenset[str] = frozenset()
    is_turn_due: bool = False

    @property
    def loose(self) -> frozenset[str]:
        """Chains that drive nothing surely: off, or on without tension."""
        return self.chains_off | self.slack

    @property
    def kept(self) -> Held:
        """What keeps cams, as the clearance asks for it."""
        out = tuple(sorted(self.followers_out.items()))
        return Held(frozenset(self.held), out)

    def put_in(self, what: str, count: int, under: tuple[str, ...]) -> "Position":
        """The same with something more in the engine."""
        there = self.inside.get(what, Inside(0))
        more = Inside(there.count + count, tuple(dict.fromkeys([*there.under, *under])))
        return replace(self, inside={**self.inside, what: more})

    def take_out(self, what: str, count: int) -> "Position":
        """The same with so much taken out of the engine."""
        there = self.inside.get(what, Inside(0))
        left = {k: v for k, v in self.inside.items() if k != what}
        if there.count > count:
            left[what] = Inside(there.count - count, there.under)
        return replace(self, inside=left)


class StepState(BaseModel):
    """The engine after a step.

    ``crank_arc`` is how far the crank may turn back (≤ 0) and on (≥ 0) without a contact, degrees;
    None: unknown, nothing may be turned. ``ends`` names what ends it, empty where nothing does.
    ``held_by`` names what holds a cam, ``jumps`` how far a loose one may have swung when it was let
    go, degrees of its own, on positive. ``seen`` are the timing marks that can be read, ``inside``
    what is in the engine and must come out; ``words`` say the same at the bench.
    """

    model_config = ConfigDict(frozen=True)

    crank_deg: float | None
    is_locked: bool
    crank_arc: list[float] | None
    ends: str
    words: list[str] = []
    chains_off: list[str]
    slack: list[str]
    cams: dict[str, CamState]
    held_by: dict[str, str]
    jumps: dict[str, list[float]]
    seen: list[str]
    inside: dict[str, int]
