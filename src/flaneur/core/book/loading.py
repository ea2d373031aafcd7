"""Reading an engine book from YAML text, every fault with its path in the file."""

from functools import lru_cache
from typing import Any, cast

import yaml
from pydantic import ValidationError

from flaneur.core.book.references import reference_faults
from flaneur.core.book.schema import EngineBook
from flaneur.core.book.templates.expand import expand
from flaneur.core.book.templates.raw import LOADER, mapping
from flaneur.core.errors import BookError, Fault

MOST_NESTED = 30
TEXTS_KEPT = 32


@lru_cache(maxsize=TEXTS_KEPT)
def parse_book(text: str) -> EngineBook:
    """Parse and cross-check a book, once a text. Raises BookError with every fault found."""
    try:
        _check_depth(text)
        raw: Any = yaml.load(text, Loader=LOADER)
    except yaml.YAMLError as error:
        mark = getattr(error, "problem_mark", None)
        found = getattr(error, "problem", None) or "not YAML"
        raise BookError.of([Fault(_place(mark), found)]) from error
    if not isinstance(raw, dict):
        wanted = "a mapping that starts with format: flaneur-book/1"
        raise BookError.of([Fault("file", f"read {type(raw).__name__}", wanted)])
    raw, lacking = expand(mapping(cast("object", raw)))
    if lacking:
        raise BookError.of(lacking)
    try:
        book = EngineBook.model_validate(raw)
    except ValidationError as error:
        raise BookError.of(
            [Fault(".".join(map(str, e["loc"])) or "file", e["msg"]) for e in error.errors()]
        ) from error
    faults = list(reference_faults(book))
    if faults:
        raise BookError.of(faults)
    return book


def _check_depth(text: str) -> None:
    """Refuse what is nested deeper than any book, before a loader goes down there and runs out of
    stack.
    """
    depth = 0
    for event in yaml.parse(text, Loader=LOADER):
        depth += isinstance(event, yaml.CollectionStartEvent)
        depth -= isinstance(event, yaml.CollectionEndEvent)
        if depth > MOST_NESTED:
            place = _place(event.start_mark)
            raise BookError.of([Fault(place, f"nested more than {MOST_NESTED} deep")])


def _place(mark: Any) -> str:
    return f"line {mark.line + 1}, column {mark.column + 1}" if mark else "file"
