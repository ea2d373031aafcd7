"""What an intake tells, as the tests diagnosis takes: the complaint, and fault codes."""

import re
from collections.abc import Mapping

from flaneur.core.errors import ReadingError
from flaneur.core.measuring.told import Rattle, Starts
from flaneur.core.readings.tests import AnyTest, Codes, Complaint

CODE = re.compile(r"[PCBU][0-9A-F]{4}")
NO_CODES = ("none", "no codes", "-")
MOST_CODES = 40


def codes_of(typed: str) -> list[str] | None:
    """Fault codes as they were typed, with commas or spaces between them; an empty list where the
    unit was read and none is set (“none”), None where nothing is written. Raises ReadingError for
    what is no code.
    """
    text = typed.strip()
    if not text:
        return None
    if text.lower() in NO_CODES:
        return []
    words = [word.upper() for word in re.split(r"[\s,;]+", text) if word]
    wrong = [word for word in words if not CODE.fullmatch(word)]
    if wrong or len(words) > MOST_CODES:
        raise ReadingError(
            "This is not a fault code." if wrong else "These are too many codes.",
            read=(wrong or words)[0][:40],
            expected="a letter and four figures, such as P0016; or none",
            advice="Leave it empty when the codes were not read.",
        )
    return list(dict.fromkeys(words))


def told_tests(intake: Mapping[str, object]) -> list[AnyTest]:
    """What the intake tells. What is not said says nothing."""
    found: list[AnyTest] = []
    rattle = Rattle.coded(intake.get("rattle")) or Rattle.UNKNOWN
    starts = Starts.coded(intake.get("starts")) or Starts.UNKNOWN
    if rattle is not Rattle.UNKNOWN or starts is not Starts.UNKNOWN:
        found.append(
            Complaint.model_validate(
                {
                    "kind": "complaint",
                    "rattle": rattle.value,
                    "no_start": starts is Starts.NO,
                    "stood_h": intake.get("stood_h"),
                }
            )
        )
    codes = intake.get("code_list")
    if codes is not None:
        found.append(Codes.model_validate({"kind": "codes", "codes": codes}))
    return found
