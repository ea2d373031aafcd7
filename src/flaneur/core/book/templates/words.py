"""What the placeholders of a template stand for, and how a text is filled with them."""

import re
from collections.abc import Callable, Mapping
from typing import Any, cast

from flaneur.core.book.templates.facts import BookFacts
from flaneur.core.book.templates.raw import (
    Raw,
    mapping,
    number_words,
    said,
    strings,
    with_article,
)
from flaneur.core.wording import joined, within

HOLE = re.compile(r"\{([A-Za-z_]+)\}")
OR = " | "


class Nothing(Exception):
    """A placeholder that stands for nothing."""


class Words:
    """What the placeholders of one task stand for: its parameters, then what the book knows.

    A placeholder may end in a way of saying it: ``x_Said`` as a sentence begins, ``x_within`` a
    sentence, ``x_words`` a count in words, ``x_name``, ``x_text``, ``x_names`` and ``x_the`` of the
    things it is the ids of.
    """

    def __init__(self, facts: BookFacts, known: Mapping[str, Any]) -> None:
        self.facts, self.known = facts, known

    def value(self, hole: str) -> Any:
        """What a placeholder stands for. Raises Nothing where it stands for nothing."""
        if hole in self.known:
            found = self.known[hole]
            if found is None or found == [] or found == "":
                raise Nothing(hole)
            return self.fill(found) if isinstance(found, str) else found
        base, _, way = hole.rpartition("_")
        if base and way in _WAYS:
            return _WAYS[way](self, self.value(base))
        raise Nothing(hole)

    def named(self, value: object, how: Callable[[str], str]) -> str:
        """Names of the things with these ids, one after another."""
        return joined(how(self.facts.name(v)) for v in strings(value))

    def first(self, value: object, field: str) -> str:
        """A field of the first thing that these ids name. Raises Nothing without one."""
        ids = strings(value)
        found = self.facts.entry(ids[0]).get(field) if ids else None
        if not found:
            raise Nothing(field)
        return str(found)

    def within(self, value: object) -> str:
        """A thing's name, or a phrase, as it stands within a sentence."""
        is_id = isinstance(value, str) and bool(self.facts.entry(value))
        return within(self.first(value, "name") if is_id else str(value))

    def fill(self, text: str) -> str:
        """A text with its placeholders filled. Raises Nothing where one stands for nothing."""

        def put(match: re.Match[str]) -> str:
            value = self.value(match[1])
            return (
                joined(map(str, cast("list[Any]", value)))
                if isinstance(value, list)
                else str(value)
            )

        return HOLE.sub(put, text)

    def filled(self, value: Any) -> Any:
        """Any value of a template: a lone placeholder keeps its type, lists are laid flat, and what
        stands for nothing is left out.
        """
        if isinstance(value, str):
            lone = HOLE.fullmatch(value)
            if lone:
                return self.value(lone[1])
            filled = self.fill(value)
            return int(filled) if re.fullmatch(r"-[0-9]+", filled) else filled
        if isinstance(value, list):
            return [v for item in cast("list[Any]", value) for v in self._spread(item)]
        if isinstance(value, dict):
            found: Raw = {}
            for key, item in mapping(cast("object", value)).items():
                try:
                    found[self.fill(key)] = self.filled(item)
                except Nothing:
                    continue
            return found
        return value

    def _spread(self, item: Any) -> list[Any]:
        """An entry of a list, as many times as the ids in its placeholder."""
        try:
            hole = HOLE.search(item) if isinstance(item, str) else None
            value = self.value(hole[1]) if hole else None
            if hole and isinstance(value, list):
                return [item.replace(hole[0], str(v)) for v in cast("list[Any]", value)]
            return [self.filled(item)]
        except Nothing:
            return []

    def sentences(self, pieces: list[str]) -> str:
        """Those sentences that can be said, in one of their wordings."""
        return " ".join(said_ for piece in pieces if (said_ := self._said(piece)) is not None)

    def first_said(self, wordings: str) -> str:
        """The first of several wordings that can be said; as it is written where none can."""
        found = self._said(wordings)
        return wordings if found is None else found

    def _said(self, wordings: str) -> str | None:
        """The first of several wordings, parted by a bar, that can be said; None for none."""
        for wording in wordings.split(OR):
            try:
                return self.fill(wording)
            except Nothing:
                continue
        return None


def _name(words: Words, value: object) -> str:
    name = words.first(value, "name")
    return within(name) if isinstance(value, list) else name


_WAYS: dict[str, Callable[[Words, Any], str]] = {
    "Said": lambda _, v: said(str(v)),
    "within": lambda w, v: w.within(v),
    "words": lambda _, v: number_words(v),
    "Words": lambda _, v: said(number_words(v)),
    "names": lambda w, v: w.named(v, within),
    "the": lambda w, v: w.named(v, with_article),
    "name": _name,
    "text": lambda w, v: w.first(v, "text"),
}
