"""Choices: what a person picks from, as a code that software keeps and the words that are shown."""

from collections.abc import Iterable
from dataclasses import dataclass
from enum import StrEnum
from typing import Self


@dataclass(frozen=True)
class Choice:
    """One of several answers. ``code`` is kept and compared; ``words`` are shown."""

    code: str
    words: str


class Worded(StrEnum):
    """An enum whose members carry the words they are shown with: ``SEEN = "seen", "was seen"``."""

    words: str

    def __new__(cls, code: str, words: str) -> Self:
        """A member from its code and its words."""
        member = str.__new__(cls, code)
        member._value_ = code
        member.words = words
        return member

    @classmethod
    def coded(cls, code: object) -> Self | None:
        """The member of a code that was kept; None where there is none of it."""
        return next((member for member in cls if member == code), None)


def choices(*members: "Worded | type[Worded]") -> tuple[Choice, ...]:
    """Members, or all of an enum's, as a page offers them."""
    flat: Iterable[Worded] = (one for m in members for one in (m if isinstance(m, type) else (m,)))
    return tuple(Choice(str(m), m.words) for m in flat)
