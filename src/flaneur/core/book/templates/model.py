"""What an operation template is made of, and the templates that ship with the product."""

from functools import cache
from importlib import resources
from typing import Any, Literal

import yaml
from pydantic import Field, JsonValue

from flaneur.core.book.base import BookModel, Id
from flaneur.core.book.tasks import Bursts
from flaneur.core.book.templates.raw import LOADER

FORMAT = "flaneur-templates/1"
REQUIRED = "required"


class Parameter(BookModel):
    """What a book may say to a template. Without a ``default`` it must be said."""

    what: str
    default: JsonValue = REQUIRED


class Minutes(BookModel):
    """Working time: ``base``, and so much for each of a counted parameter."""

    base: int | float | str = 0
    each: dict[str, float] = Field(default_factory=dict)


class Template(BookModel):
    """One kind of work. In all its words ``{x}`` stands for a parameter or for what the book knows.

    ``text`` is a list of sentences; one whose placeholder stands for nothing is left out, and so is
    an observation whose ``when`` or ``each`` names nothing. ``ways`` replace fields of it by what
    the parameter ``how`` says. References such as ``op:release`` mean every operation of a book
    that is written on that template.
    """

    name: str = ""
    phase: Literal["prepare", "remove", "fit", "close"] = "fit"
    params: dict[str, Parameter] = Field(default_factory=dict)
    needed_for: list[str] = Field(default_factory=list)
    only_new: bool = False
    before: list[str] = Field(default_factory=list)
    after: list[str] = Field(default_factory=list)
    text: list[str]
    right_when: str
    otherwise: str
    cautions: list[Id] = Field(default_factory=list)
    observe: list[dict[str, JsonValue]] = Field(min_length=1)
    tools: list[str] = Field(default_factory=list)
    supplies: list[str] = Field(default_factory=list)
    minutes: Minutes
    waiting: int | float | str = 0
    waiting_hours: int | float | str = 0
    bursts: Bursts | None = None
    two_person: bool = False
    effects: dict[str, JsonValue] = Field(default_factory=dict)
    ways: dict[str, dict[str, JsonValue]] = Field(default_factory=dict)

    def on_way(self, how: object) -> "Template":
        """This template in one of its ways; itself where it has none of that name."""
        way = self.ways.get(str(how))
        return self if not way else Template.model_validate({**self.model_dump(), **way})


class Kind(BookModel):
    """How a kind of part comes off and goes on."""

    remove: Template
    fit: Template


class Templates(BookModel):
    """All templates: operations and kinds of parts by name, and the cautions they cry."""

    format: Literal["flaneur-templates/1"] = FORMAT
    operations: dict[Id, Template]
    parts: dict[Id, Kind]
    cautions: dict[Id, str]


@cache
def shipped() -> Templates:
    """The templates that ship with the product: data beside this file, read once."""

    def read(name: str) -> Any:
        file = resources.files("flaneur.core.book.templates") / name
        return yaml.load(file.read_text(encoding="utf-8"), Loader=LOADER)

    return Templates.model_validate(
        {
            "operations": read("operations.yaml"),
            "parts": read("parts.yaml"),
            "cautions": read("cautions.yaml"),
        }
    )
