"""Tightening as a step: the programs of a component's fasteners, as they are fitted."""

from collections.abc import Mapping

from flaneur.core.book.schema import EngineBook
from flaneur.core.book.tasks import Fastener
from flaneur.core.choices import Choice
from flaneur.core.fasteners.bolts import bolt_maps
from flaneur.core.fasteners.program import size_words, stage_words
from flaneur.core.keys import StepRef
from flaneur.core.plan.steps import (
    ALIGNMENT,
    HINTS,
    NOT_MEASURED,
    TORQUE_WRENCH,
    Asked,
    AskedKind,
    Fitted,
    PlanStep,
)
from flaneur.core.wording import within

STAND, MOVED = Choice("stand", "marks stand"), Choice("moved", "a mark moved")


def _turns_a_cam(book: EngineBook, part: str | None) -> bool:
    """Whether tightening a part's bolts may drag a cam along: it drives one."""
    sprocket = book.sprockets.get(part or "")
    return part in book.phasers or (sprocket is not None and sprocket.shaft in book.cams)


def _alignment(stage: int, fastener: str) -> Asked:
    """Looked at again after each stage: tightening drags cams and crank."""
    return Asked(
        kind=AskedKind.WORD,
        ask=f"After stage {stage}",
        choices=[STAND, MOVED],
        right=[STAND.code],
        code=ALIGNMENT,
        fastener=fastener,
    )


def torque_step(book: EngineBook, ref: str, chosen: Mapping[str, str] | None = None) -> PlanStep:
    """The tightening of a component's fasteners by their programs, as the book has them or as they
    were ``chosen``: by fastener the code of what is fitted in its place.
    """
    key = StepRef.of(ref).key
    component = book.components[key]
    asked: list[Asked] = []
    tools: list[str] = []
    notes: list[str] = []
    words: list[str] = []
    minutes = 0.0
    fitted: list[Fitted] = []
    for name in component.fasteners:
        own = book.fasteners[name]
        code = (chosen or {}).get(name, "")
        fitted += [
            Fitted(
                fastener=name,
                code=key_of,
                name=v.name,
                is_stop_gap=v.is_stop_gap,
                is_chosen=key_of == code,
            )
            for key_of, v in own.variants.items()
        ]
        fastener = as_fitted(own, code)
        tools += [fastener.tool, TORQUE_WRENCH]
        if any(s.kind != "torque" for s in fastener.stages):
            tools.append("angle gauge")
        notes += [f"Which hole: {fastener.holes}."] if fastener.holes else []
        notes += [fastener.note] if fastener.note else []
        minutes += 1.0 + 0.5 * fastener.count * len(fastener.stages)
        new = "new " if fastener.one_use else ""
        words.append(
            f"{fastener.count} × {new}{within(fastener.name)}{size_words(fastener)}, "
            f"{fastener.pattern}: " + ", then ".join(map(stage_words, fastener.stages))
        )
        asked.append(
            Asked(
                kind=AskedKind.COUNT,
                ask=f"{fastener.name} counted in",
                hint=HINTS[AskedKind.COUNT],
                expected=fastener.count,
                fastener=name,
            )
        )
        for i, s in enumerate(fastener.stages, 1):
            asked.append(
                Asked(
                    kind=AskedKind(s.kind),
                    ask=f"Stage {i}: {stage_words(s)}",
                    hint=HINTS[AskedKind(s.kind)],
                    stage=s,
                    escape=NOT_MEASURED,
                    fastener=name,
                )
            )
            if _turns_a_cam(book, component.part):
                asked.append(_alignment(i, name))
    return PlanStep(
        ref=ref,
        template="torque",
        phase="fit",
        title=f"Torque: {component.name}",
        text=". ".join(words) + ".",
        looks_right="Every stage reached in its pattern; marks have not moved while tightening.",
        remedy="Over or under: slacken, look at the bolt and its thread, start its program again "
        "from the first stage.",
        minutes=minutes,
        spread_minutes=max(1.0, 0.3 * minutes),
        two_person=False,
        tools=tools,
        cautions=[],
        asked=asked,
        note=" ".join(notes),
        bolts=bolt_maps(book, key),
        fitted=fitted,
        part=component.part,
    )


def as_fitted(own: Fastener, code: str) -> Fastener:
    """A fastener as it is fitted: its own, or one of its variants with a program of its own."""
    variant = own.variants.get(code)
    if variant is None:
        return own
    notes = [n for n in (own.note, variant.note) if n]
    return own.model_copy(
        update={
            "name": f"{own.name}, {variant.name}",
            "one_use": False,
            "stages": variant.stages,
            "surface": variant.surface or own.surface,
            "note": " ".join(notes) or None,
        }
    )


def step_as_fitted(book: EngineBook, step: PlanStep, chosen: Mapping[str, str]) -> PlanStep:
    """A step of a plan with the programs of what was chosen to be fitted; everything else of it
    stays.
    """
    made = torque_step(book, step.ref, chosen)
    return step.model_copy(
        update={k: getattr(made, k) for k in ("text", "asked", "note", "tools", "fitted")}
    )
