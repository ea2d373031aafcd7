"""Marks, check positions and tools in the engine book."""

from typing import Literal

from pydantic import Field

from flaneur.core.book.base import AtLeastZero, BookModel, Finite, Id, Positive
from flaneur.core.choices import Worded


class TeethOff(Worded):
    """What may be seen at a contact's mark. A book says it in these words only: another wording
    would not be counted as the tooth it is.
    """

    ON_MARK = "on_mark", "on the mark"
    LATE_1 = "late_1", "one tooth late"
    EARLY_1 = "early_1", "one tooth early"
    LATE_2 = "late_2", "two teeth late"
    EARLY_2 = "early_2", "two teeth early"

    @property
    def teeth(self) -> int:
        """Teeth off, late positive."""
        return _TEETH[self]

    @staticmethod
    def said(words: str) -> "TeethOff | None":
        """What a book means by these words; None for words no book may use."""
        return next((t for t in TeethOff if t.words == words), None)


_TEETH = {
    TeethOff.ON_MARK: 0,
    TeethOff.LATE_1: 1,
    TeethOff.EARLY_1: -1,
    TeethOff.LATE_2: 2,
    TeethOff.EARLY_2: -2,
}


class Mark(BookModel):
    """Something on a sprocket or gear that can be seen to stand somewhere.

    ``clock_deg`` is where it stands at ``at_deg`` of the crank (the service position when not
    given). The allowed miss is degrees of the mark's own shaft, before and after the tensioner is
    released; a mark that is no timing mark is told apart by ``is_timing`` and says what it is for
    instead.
    """

    name: str
    wheel: Id
    form: Literal["dot", "line", "keyway", "dowel", "notch", "flat", "rotor"]
    clock_deg: Finite
    at_deg: float | None = Field(default=None, ge=0, lt=720)
    is_timing: bool = True
    meets: str | None = Field(
        default=None, description="What it stands against; needed for a timing mark."
    )
    carried_by: list[Id] = Field(
        default_factory=list,
        description="Components that must be on to read it, such as the pulley that carries it and "
        "the cover with its pointer.",
    )
    behind: list[Id] | None = Field(
        default=None,
        description="Covers that hide it; not given: those over the chain of its wheel.",
    )
    miss_before_deg: AtLeastZero = 1.0
    miss_after_deg: AtLeastZero = 2.0
    purpose: str | None = Field(
        default=None, description="For a mark that is no timing mark: what it is."
    )


class CheckPosition(BookModel):
    """A crank angle at which some cams are checked."""

    name: str
    crank_deg: float = Field(ge=0, lt=720)
    cams: list[Id] = Field(min_length=1)
    tool: Id | None = None
    text: str
    ask: str | None = Field(
        default=None, description="The same as a question that is answered while turning by hand."
    )


class Tool(BookModel):
    """A tool of the timing work. ``play_deg`` is how far its shaft can still turn with it in, each
    way, own degrees.
    """

    name: str
    holds: list[Id] = Field(default_factory=list, description="Shafts it holds.")
    crank_deg: float | None = Field(
        default=None, ge=0, lt=720, description="Crank angle at which it goes in."
    )
    play_deg: AtLeastZero = 0.5
    longest_mm: Positive | None = Field(
        default=None, description="Of a holding bolt: its greatest length under the head."
    )
    text: str
    workshop_method: str | None = Field(
        default=None, description="What does the same without the tool."
    )


class MarkedLink(BookModel):
    """A coloured link: ``link`` counts in travel direction from the one over the driver's marked
    tooth, which is 0.
    """

    link: int = Field(ge=0)
    colour: str
    meets: Id = Field(
        description="Sprocket whose marked tooth it lies over at the service position."
    )
