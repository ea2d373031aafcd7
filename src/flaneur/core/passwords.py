"""What a password must be, so that nobody guesses it."""

import secrets
from collections.abc import Sequence
from enum import StrEnum

from zxcvbn import zxcvbn

SHORTEST, LONGEST = 10, 200
FEWEST_GUESSES_LOG10 = 8.0  # what is guessed sooner stands in the lists that guessers begin with
_LOOKED_AT = 72  # letters the estimate looks at: it takes long for more
_ALPHABET = "abcdefghjkmnpqrstuvwxyz23456789"  # no letter that is taken for another


class Weakness(StrEnum):
    """Why a password will not do."""

    SHORT = "short"
    LONG = "long"
    COMMON = "common"


def weakness(password: str, known: Sequence[str]) -> Weakness | None:
    """What is wrong with a password; None when it will do. ``known``: words anybody would try
    first, such as login, name and depot.

    Guesses are estimated by zxcvbn (Wheeler, 2016) over its lists of common passwords, names and
    words, keyboard walks, dates and repeats.
    """
    if len(password) < SHORTEST:
        return Weakness.SHORT
    if len(password) > LONGEST:
        return Weakness.LONG
    words = [
        word for text in known for word in (text, text.replace(" ", ""), *text.split()) if word
    ]
    found = zxcvbn(password[:_LOOKED_AT], user_inputs=words, max_length=_LOOKED_AT)
    return Weakness.COMMON if float(found["guesses_log10"]) < FEWEST_GUESSES_LOG10 else None


def one_time_password() -> str:
    """A password to be told once and replaced: three groups of four, drawn by the system."""
    drawn = "".join(secrets.choice(_ALPHABET) for _ in range(12))
    return "-".join(drawn[i : i + 4] for i in (0, 4, 8))
