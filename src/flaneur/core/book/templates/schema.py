"""The JSON Schemas that are published: of a book as it is written, and of the templates."""

from copy import deepcopy
from typing import Any

from flaneur.core.book.schema import EngineBook
from flaneur.core.book.tasks import Component, Operation
from flaneur.core.book.templates.model import REQUIRED, Parameter, Templates, shipped

Schema = dict[str, Any]
STAGE: Schema = {
    "type": "string",
    "description": "A stage written short: 60 Nm, 24 ± 2 Nm, 90 ± 5° or back 90°.",
}

IN_A_WAY: Schema = {
    "type": "object",
    "additionalProperties": {"type": "object"},
    "description": "What is other on this way, laid over the book's entries of the same ids; null "
    "takes a field away. A new entry is written as it is in the book.",
}


def book_schema(templates: Templates | None = None) -> Schema:
    """JSON Schema of a book as it is written: in full, or on templates."""
    known = templates or shipped()
    schema = deepcopy(EngineBook.model_json_schema())
    kinds = {name: {**kind.remove.params, **kind.fit.params} for name, kind in known.parts.items()}
    uses = {name: template.params for name, template in known.operations.items()}
    for name, field, chosen, model in (
        ("Component", "components", ("kind", kinds), Component),
        ("Operation", "operations", ("template", uses), Operation),
    ):
        key, params = chosen
        own = schema["$defs"][name]["properties"]
        written = f"Written{name}"
        schema["$defs"][written] = {
            "type": "object",
            "title": written,
            "description": f"{model.__doc__} Written on a template; what it says over it stands.",
            "required": [key],
            "additionalProperties": False,
            "properties": {**_parameters(params), **own, key: {"enum": sorted(params)}},
            "allOf": [_asks(key, each, asked) for each, asked in params.items()],
        }
        for half in ("remove", "fit") if name == "Component" else ():
            schema["$defs"][written]["properties"][half] = {"type": "object"}
        entries = schema["properties"][field]["patternProperties"]
        either = {"anyOf": [{"$ref": f"#/$defs/{name}"}, {"$ref": f"#/$defs/{written}"}]}
        schema["properties"][field]["patternProperties"] = dict.fromkeys(entries, either)
    for field in ("components", "operations"):
        schema["$defs"]["Way"]["properties"][field] = {**IN_A_WAY, "title": field.title()}
    schema["required"].remove("cautions")  # those of the templates need not be said again
    for name in ("Fastener", "Variant"):
        stages = schema["$defs"][name]["properties"]["stages"]
        stages["items"] = {"anyOf": [stages["items"], STAGE]}
    return schema


def templates_schema() -> Schema:
    """JSON Schema of a set of templates."""
    return Templates.model_json_schema()


def templates_page(templates: Templates | None = None) -> str:
    """All templates and what they ask for, as a page to read."""
    known = templates or shipped()
    lines = ["# Operation templates", "", PAGE, "## Operations", ""]
    for name, template in known.operations.items():
        lines += [f"**{name}**: {' '.join(template.text)}", "", *_asked(template.params)]
        if template.ways:
            lines += [f"- `how`: {', '.join(template.ways)}", ""]
    lines += ["## Kinds of parts", ""]
    for name, kind in known.parts.items():
        lines += [
            f"**{name}**: off: {' '.join(kind.remove.text)} On: {' '.join(kind.fit.text)}",
            "",
            *_asked({**kind.remove.params, **kind.fit.params}),
        ]
    return "\n".join(lines).rstrip() + "\n"


PAGE = """What is done at the bench is written once (`src/flaneur/core/book/templates/*.yaml`), with
its text, when it is right, what to do otherwise, cautions, observations by code, minutes of work
and of waiting, and what it does to the engine. A book names the template (`template:` of an
operation, `kind:` of a component) and says what only it knows. `{x}` in a text stands for a
parameter or for what the book knows of the part named by `of`; a sentence whose `{x}` stands for
nothing is left out.
Whatever a book says over a template stands, and it may write a task of its own in full.
[operation-templates.schema.json](operation-templates.schema.json) is the schema of the templates
themselves. This page is written by `script/openapi`.
"""


def _parameters(params: dict[str, dict[str, Parameter]]) -> Schema:
    found: Schema = {}
    for asked in params.values():
        for name, parameter in asked.items():
            found.setdefault(name, {"description": parameter.what})
    return found


def _asks(key: str, name: str, asked: dict[str, Parameter]) -> Schema:
    """That one template has what it asks for."""
    needed = [p for p, parameter in asked.items() if parameter.default == REQUIRED]
    return {"if": {"properties": {key: {"const": name}}}, "then": {"required": needed}}


def _asked(params: dict[str, Parameter]) -> list[str]:
    if not params:
        return []
    said = [
        f"- `{name}`: {parameter.what}"
        + ("" if parameter.default == REQUIRED else _default(parameter.default))
        for name, parameter in params.items()
    ]
    return [*said, ""]


def _default(value: object) -> str:
    return " (may be left out)" if value in (None, []) else f" (else {value})"
