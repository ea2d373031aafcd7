"""The OpenAPI document, generated from the models."""

from collections.abc import Callable
from typing import Any

from spectree import Response, SpecTree

from flaneur.api.errors import invalid


def _refuse(_request: Any, _response: Any, error: Any, *_: Any) -> None:
    if error:
        raise invalid(error)


spec = SpecTree(
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
    """Validate what comes in by the view's annotations and what goes out by ``resp``, and put both in the document."""
    return spec.validate(resp=resp)
