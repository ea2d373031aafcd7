"""The OpenAPI document, generated from the models."""

from collections.abc import Callable
from functools import wraps
from typing import Any

from flask import request
from spectree import Response, SpecTree
from werkzeug.exceptions import BadRequest

from flaneur.api.errors import Unreadable, WrongBody, invalid
from flaneur.core.record.bounds import printable


def _refuse(_request: Any, _response: Any, error: Any, *_: Any) -> None:
    if error:
        raise invalid(error)


class Spec(SpecTree):
    """Works the schemas out when the document is asked for, not while a server starts."""

    def __init__(self, *arguments: Any, **named: Any) -> None:
        self._asked: list[tuple[Any, Any]] = []
        super().__init__(*arguments, **named)

    def _add_model(self, model: Any, mode: Any = "validation") -> str:
        self._asked.append((model, mode))
        return str(self.naming_strategy(model))

    def _generate_spec(self) -> dict[str, Any]:
        for model, mode in self._asked:
            super()._add_model(model, mode)
        return super()._generate_spec()


spec = Spec(
    "flask",
    title="Flaneur",
    version="1",
    mode="strict",
    annotations=True,
    validation_error_status=422,
    page_templates={},
    before=_refuse,
    naming_strategy=lambda model: model.__name__,
    nested_naming_strategy=lambda _, name: name,
)


def checked(resp: Response) -> Callable[[Callable[..., Any]], Callable[..., Any]]:
    """Validate what comes in by the view's annotations and what goes out by ``resp``, and put both
    in the document.
    """
    validated = spec.validate(resp=resp)

    def decorate(view: Callable[..., Any]) -> Callable[..., Any]:
        known = validated(view)
        if "json" not in view.__annotations__:
            return known

        @wraps(known)
        def with_json(*arguments: Any, **named: Any) -> Any:
            _require_json()
            return known(*arguments, **named)

        return with_json

    return decorate


def _require_json() -> None:
    """Raise WrongBody or Unreadable for a body that is no JSON, whatever it calls itself."""
    if request.mimetype != "application/json":
        read = printable(request.mimetype or "no content type", 80)
        raise WrongBody("This address takes JSON.", read=read, expected="application/json")
    try:
        request.get_json()
    except (BadRequest, RecursionError, UnicodeError) as error:
        raise Unreadable(
            "The request cannot be read.",
            read=f"{request.content_length or 0} bytes",
            expected="JSON",
        ) from error
