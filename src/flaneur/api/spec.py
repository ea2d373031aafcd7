"""The OpenAPI document, generated from the models."""

from typing import Any

from spectree import SpecTree

from flaneur.api.errors import invalid


def _refuse(_request: Any, _response: Any, error: Any, *_: Any) -> None:
    if error:
        raise invalid(error)


spec = SpecTree(
    "flask", title="Flaneur", version="1", mode="strict", annotations=True, validation_error_status=422, before=_refuse,
    naming_strategy=lambda model: model.__name__, nested_naming_strategy=lambda _, name: name,
)
