"""Typed keys: what a contact, a step and a suspect are called in a book, a plan and a file.

A key is written as text in books, files and the database; it is taken apart here and nowhere else.
"""

from enum import StrEnum
from typing import NamedTuple

from flaneur.core.errors import KeyTextError

# A question of a step that is about one mark is called this and the mark's own key; one about a
# check position this and its place in the book, from 1.
MARK_READ, CHECK_READ = "mark_", "check_"


class Contact(NamedTuple):
    """Where a chain runs over a sprocket and can be set a tooth off; written ``chain/sprocket``."""

    chain: str
    sprocket: str

    @staticmethod
    def of(text: str) -> "Contact":
        """Read a contact. Raises KeyTextError for anything else."""
        chain, slash, sprocket = text.partition("/")
        if not (chain and slash and sprocket) or "/" in sprocket:
            raise KeyTextError(
                "This is not a contact.", read=text, expected="a chain, a slash, and a sprocket"
            )
        return Contact(chain, sprocket)

    def __str__(self) -> str:
        return f"{self.chain}/{self.sprocket}"


class Verb(StrEnum):
    """What a step does."""

    OPERATION = "op"
    REMOVE = "remove"
    FIT = "fit"
    TORQUE = "torque"


class StepRef(NamedTuple):
    """A step of a plan: what it does, and to which component or by which operation of the book.

    Written ``verb:key``, such as ``fit:chain_a``.
    """

    verb: Verb
    key: str

    @staticmethod
    def of(text: str) -> "StepRef":
        """Read a step's key. Raises KeyTextError for anything else."""
        verb, colon, key = text.partition(":")
        if verb not in list(Verb) or not (colon and key):
            raise KeyTextError(
                "This is not a step.", read=text, expected=f"one of {', '.join(Verb)}, then a key"
            )
        return StepRef(Verb(verb), key)

    def __str__(self) -> str:
        return f"{self.verb}:{self.key}"


def keys_done(steps: "set[str] | dict[str, object]", verb: Verb) -> set[str]:
    """Keys of the steps of one verb among ``steps``."""
    return {ref.key for ref in map(StepRef.of, steps) if ref.verb is verb}


class SuspectKind(StrEnum):
    """What can be wrong. ``SOUND``: nothing the readings show; ``NONE``: none of the others."""

    WEAR = "wear"
    GONE = "gone"
    JUMP = "jump"
    PHASER = "phaser"
    SLOW = "slow"
    DRIFTS = "drifts"
    HUNTS = "hunts"
    LOCK_PIN = "lock_pin"
    FEED = "feed"
    TONE = "tone"
    LEAK = "leak"
    STUCK = "stuck"
    MISREAD = "misread"
    OIL_LOW = "oil_low"
    ACCESSORY = "accessory"
    SENSOR = "sensor"
    SEIZED = "seized"
    SOUND = "sound"
    NONE = "none"


class SuspectKey(NamedTuple):
    """A suspect: its kind and the part (for a jump: the contact) it is of.

    Written ``kind:part``, or the kind alone where it is of no part.
    """

    kind: SuspectKind
    part: str = ""

    @staticmethod
    def of(text: str) -> "SuspectKey":
        """Read a suspect's key. Raises KeyTextError for anything else."""
        kind, _, part = text.partition(":")
        if kind not in list(SuspectKind):
            raise KeyTextError(
                "This is no suspect.", read=text, expected=f"one of {', '.join(SuspectKind)}"
            )
        return SuspectKey(SuspectKind(kind), part)

    @property
    def parts(self) -> tuple[str, ...]:
        """Parts of the drive that the suspect is of: for a jump, chain and sprocket."""
        if self.kind is SuspectKind.JUMP:
            return Contact.of(self.part)
        return (self.part,) if self.part else ()

    def __str__(self) -> str:
        return f"{self.kind}:{self.part}" if self.part else str(self.kind)
