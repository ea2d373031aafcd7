"""A book as it is written, before any check: whatever is missing or odd stands for nothing."""

from typing import Any, cast

import yaml

from flaneur.core.wording import within

Raw = dict[str, Any]
LOADER = getattr(yaml, "CSafeLoader", yaml.SafeLoader)  # ten times as quick, where there is one
_NUMBERS = (
    *("no", "one", "two", "three", "four", "five", "six"),
    *("seven", "eight", "nine", "ten", "eleven", "twelve"),
)


def mapping(value: object) -> Raw:
    """A mapping; an empty one for anything else."""
    return cast("Raw", value) if isinstance(value, dict) else {}


def table(raw: Raw, key: str) -> Raw:
    """A mapping in a mapping."""
    return mapping(raw.get(key))


def entries(raw: Raw, key: str) -> dict[str, Raw]:
    """Those entries of a mapping that are mappings themselves."""
    found: dict[str, object] = table(raw, key)
    return {k: mapping(v) for k, v in found.items() if mapping(v)}


def mappings(value: object) -> list[Raw]:
    """The mappings of a list."""
    found = cast("list[object]", value) if isinstance(value, list) else []
    return [mapping(v) for v in found if mapping(v)]


def strings(value: object) -> list[str]:
    """The strings of a list, or one string as a list of its own."""
    if isinstance(value, str):
        return [value]
    found = cast("list[object]", value) if isinstance(value, list) else []
    return [v for v in found if isinstance(v, str)]


def number(value: object) -> float | None:
    """A number; None for anything else."""
    return float(value) if isinstance(value, int | float) else None


def number_words(value: object) -> str:
    """A small count in words, a large one in figures."""
    if isinstance(value, int) and 0 <= value < len(_NUMBERS):
        return _NUMBERS[value]
    return str(value)


def said(text: str) -> str:
    """A phrase as it begins a sentence."""
    return text[:1].upper() + text[1:]


def with_article(name: str) -> str:
    """A part within a sentence: “the front cover”, but “cam cover A”, which is a name already."""
    last = name.split(" (")[0].split(" ")[-1]
    is_name = len(last) == 1 and last.isupper() and "," not in name
    return within(name) if is_name else f"the {within(name)}"
