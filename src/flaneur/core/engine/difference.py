"""What one revision of a book changes against another, in the figures people work by."""

from pydantic import BaseModel, ConfigDict

from flaneur.core.book.schema import EngineBook
from flaneur.core.book.tasks import Stage
from flaneur.core.drive.counts import counts
from flaneur.core.drive.facts import limit_facts
from flaneur.core.engine.compiled import compiled
from flaneur.core.wording import windows_words

NOTHING = "–"


class Difference(BaseModel):
    """One figure: where it stands, as it was, as it becomes; a dash where it is not."""

    model_config = ConfigDict(frozen=True)

    where: str
    before: str
    after: str


def differences(old: EngineBook, new: EngineBook) -> list[Difference]:
    """Every figure of ``new`` that is not as in ``old``: limits, parts, counts, positions, windows,
    torque programs, steps.
    """
    before, after = _figures(old), _figures(new)
    return [
        Difference(where=where, before=before.get(where, NOTHING), after=after.get(where, NOTHING))
        for where in dict.fromkeys((*before, *after))
        if before.get(where) != after.get(where)
    ]


def _figures(book: EngineBook) -> dict[str, str]:
    engine = compiled(book)
    found = {f"Limit: {fact.label}": fact.value for fact in limit_facts(book)}
    for part in engine.facts:
        for fact in part.facts:
            found[f"{part.name}: {fact.label}"] = fact.value
    names = {key: sprocket.name for key, sprocket in book.sprockets.items()}
    for key, chain in book.chains.items():
        if chain.counts:
            for count in counts(engine.train, key):
                between = (
                    f"{names.get(count.start, count.start)} to {names.get(count.end, count.end)}"
                )
                found[f"{chain.name}: links from {between}, {count.along}"] = str(count.links)
    service = book.service_position
    found["Service position"] = f"{service.crank_deg:g}° crank"
    for position in book.check_positions:
        found[f"Position: {position.name}"] = f"{position.crank_deg:g}° crank"
    view = engine.clearance
    found["Clearance"] = view.words
    found["Every cam may be loose"] = windows_words(view.loose_windows)
    found["No valve reaches a piston"] = windows_words(view.piston_windows)
    for fastener in book.fasteners.values():
        found[f"Fastener: {fastener.name}"] = " · ".join(map(_stage, fastener.stages))
    for component in book.components.values():
        found[f"Off: {component.name}"] = component.remove.text
        found[f"On: {component.name}"] = component.fit.text
    for operation in book.operations.values():
        found[f"Step: {operation.name}"] = operation.text
    return found


def _stage(stage: Stage) -> str:
    unit = "N·m" if stage.kind == "torque" else "°"
    word = "back off " if stage.kind == "back_off" else ""
    return f"{word}{stage.value:g} {unit} ± {stage.tolerance:g}"
