"""What is to be known of a capture: words for a person, with a code for software."""

from enum import StrEnum


class NoteCode(StrEnum):
    """What a note is about."""

    FILE = "file"
    NOISY = "noisy"
    CHATTER = "chatter"
    SPIKES = "spikes"
    HUM = "hum"
    DRIFT = "drift"
    HEIGHT = "height"
    CLIPPED = "clipped"
    TOOTH_MISSING = "tooth_missing"
    TEETH_LOST = "teeth_lost"
    TEETH_BENT = "teeth_bent"
    SLOW_RATE = "slow_rate"
    BREAKS = "breaks"
    MOVES = "moves"
    SCATTER = "scatter"
    EDGE_OFF = "edge_off"
    EDGES_DISAGREE = "edges_disagree"
    EDGES_STRANGE = "edges_strange"
    CYCLES_NOT_WHOLE = "cycles_not_whole"
    CYCLES_FEW = "cycles_few"
    INVERTED = "inverted"
    TEETH_OFF = "teeth_off"
    SHARED_WHEELS = "shared_wheels"


class Note(str):
    """The words of a note, with its ``code``."""

    code: NoteCode

    def __new__(cls, code: NoteCode, words: str) -> "Note":
        """``words`` about ``code``."""
        made = super().__new__(cls, words)
        made.code = code
        return made


def code_of(note: str) -> NoteCode:
    """What a note is about; what came of reading the file has no code of its own."""
    return note.code if isinstance(note, Note) else NoteCode.FILE
