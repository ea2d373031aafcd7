"""What may enter a record: printable text of bounded length, finite figures, and JSON of bounded
size.
"""

import math
import re
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Annotated, Any, cast

from pydantic import AfterValidator, GetCoreSchemaHandler, GetJsonSchemaHandler
from pydantic_core import core_schema

MOST_NODES = 200_000
MOST_DEPTH = 20
LONGEST_TEXT = 200_000
LARGEST_FIGURE = 1e12

_ONE_LINE = r"^[^\u0000-\u001f\u007f-\u009f\u2028\u2029]*$"
_LINES = r"^[^\u0000-\u0008\u000b\u000c\u000e-\u001f\u007f-\u009f]*$"
_NOT_IN_A_LINE = re.compile("[\x00-\x1f\x7f-\x9f\u2028\u2029\ud800-\udfff]")
_NOT_IN_LINES = re.compile("[\x00-\x08\x0b\x0c\x0e-\x1f\x7f-\x9f\ud800-\udfff]")


def unprintable(text: str, has_lines: bool = False) -> str | None:
    """The first character that cannot be printed (controls, half a surrogate pair, line
    separators), or None.
    """
    found = (_NOT_IN_LINES if has_lines else _NOT_IN_A_LINE).search(text)
    return found[0] if found else None


def one_line(text: str) -> str:
    """The text itself; ValueError when it holds a line's end or another control character."""
    found = unprintable(text)
    if found is not None:
        raise ValueError(
            f"the text holds a character that cannot be printed (U+{ord(found):04X}); type it again"
        )
    return text


def lines(text: str) -> str:
    """The text itself, line ends as they are; ValueError for other control characters."""
    found = unprintable(text, has_lines=True)
    if found is not None:
        raise ValueError(
            f"the text holds a character that cannot be printed (U+{ord(found):04X}); type it again"
        )
    return text


def printable(text: str, longest: int) -> str:
    """A text from a file as it can be kept: what cannot be printed shown as “�”, cut at
    ``longest``.
    """
    return _NOT_IN_A_LINE.sub("\ufffd", text[:longest])


@dataclass(frozen=True)
class Written:
    """Annotation of a text as it may be written: ``Annotated[str, Written(200)]``. Its JSON Schema
    says the same.
    """

    longest: int
    shortest: int = 0
    has_lines: bool = False

    def __get_pydantic_core_schema__(
        self, _source: Any, _handler: GetCoreSchemaHandler
    ) -> core_schema.CoreSchema:
        plain = core_schema.str_schema(min_length=self.shortest, max_length=self.longest)
        return core_schema.no_info_after_validator_function(
            lines if self.has_lines else one_line, plain
        )

    def __get_pydantic_json_schema__(
        self, schema: core_schema.CoreSchema, handler: GetJsonSchemaHandler
    ) -> dict[str, Any]:
        return {**handler(schema), "pattern": _LINES if self.has_lines else _ONE_LINE}


def bounded_json(content: Any) -> Any:
    """JSON content itself; ValueError when it is too deep, too large, or holds a text or figure
    that may not enter.
    """
    left = MOST_NODES
    waiting: list[tuple[Any, int]] = [(content, 0)]
    while waiting:
        value, depth = waiting.pop()
        left -= 1
        if left < 0 or depth > MOST_DEPTH:
            raise ValueError("this holds more than a record may")
        if isinstance(value, str):
            if len(value) > LONGEST_TEXT:
                raise ValueError(f"a text of {len(value)} characters is too long")
            lines(value)
        elif isinstance(value, float | int) and not isinstance(value, bool):
            if not (math.isfinite(value) and abs(value) <= LARGEST_FIGURE):
                raise ValueError(f"{str(value)[:40]} is not a figure a record may hold")
        elif isinstance(value, Mapping):
            inside = cast(Mapping[object, object], value)
            waiting += [(v, depth + 1) for pair in inside.items() for v in pair]
        elif isinstance(value, list | tuple):
            waiting += [(v, depth + 1) for v in cast(Iterable[object], value)]
    return content


BoundedJson = Annotated[dict[str, Any], AfterValidator(bounded_json)]
