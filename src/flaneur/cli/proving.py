"""Command on proof: when links agree again, what a hard stop can be, what a mark's miss is."""

import argparse
import json
from typing import Any

from pydantic import TypeAdapter

from flaneur.core.bench.tally import tally
from flaneur.core.bench.told import Told, told
from flaneur.core.book.units import parse_quantity
from flaneur.core.errors import ReadingError
from flaneur.core.measuring.marks import judge_miss, timing_marks
from flaneur.core.plan.plan import make_plan
from flaneur.core.plan.steps import PlanStep
from flaneur.core.proof.shown import comes_back, turning_by_hand
from flaneur.core.proof.starting import start_of
from flaneur.core.proof.stopping import stop_view
from flaneur.core.proof.turning import stop_angle
from flaneur.formats.books import load_book

MISS_STDERR_DEG = 0.5
TOLD = TypeAdapter(list[Told])


def proof(options: argparse.Namespace) -> int:
    """What turning by hand shows of an engine."""
    book = load_book(options.engine)
    scope = [part for part in options.scope.split(",") if part]
    plan = make_plan(book, scope) if scope else None
    answer: dict[str, Any] = {
        "engine": book.name,
        "hand_turns": book.proof.hand_turns,
        "turning": [
            {"step": step.ref, "title": step.title, "turns": turns, "asked": _asked(step)}
            for step, turns in turning_by_hand(book, plan)
        ],
        "comes_back": [c.model_dump() for c in comes_back(book, plan)],
        "in_the_way": None,
        "stop": None,
        "misses": [],
    }
    if options.bench:
        lines = TOLD.validate_json(options.bench.read_text(encoding="utf-8"))
        found = start_of(book, plan, told(plan, lines))
        answer["in_the_way"] = [f.model_dump() for f in found]
    if options.stop:
        start = stop_angle(options.start) if options.start else None
        view = stop_view(book, plan, tally([]), stop_angle(options.stop), start)
        answer["stop"] = view.model_dump(mode="json")
    marks = timing_marks(book)
    for said in options.miss:
        key, _, typed = said.partition("=")
        if key not in marks:
            raise ReadingError(
                "The book has no such timing mark.", read=key, expected=", ".join(marks)
            )
        miss = parse_quantity(typed, "angle", "deg").value
        judged = judge_miss(book, key, miss, MISS_STDERR_DEG, (0.0, options.wear))
        answer["misses"].append(
            {"mark": key, "miss_deg": miss, "kind": str(judged.kind), "words": judged.words}
        )
    print(json.dumps(answer, ensure_ascii=False) if options.json else _page(answer))
    return 0


def _asked(step: PlanStep) -> list[dict[str, str | None]]:
    return [{"code": a.code, "ask": a.ask} for a in step.asked]


def _page(answer: dict[str, Any]) -> str:
    lines = [f"{t['title']}: {' '.join(a['ask'] for a in t['asked'])}" for t in answer["turning"]]
    lines += [f"{c['name']}: {c['words']}" for c in answer["comes_back"]]
    if answer["in_the_way"] is not None:
        lines += [f["words"] for f in answer["in_the_way"]] or ["It may be started."]
    if stop := answer["stop"]:
        lines += [stop["unknown"]] if stop["unknown"] else []
        lines += [f"{valves} can meet there." for valves in stop["valves"]]
        lines += [f"{100 * c['odds']:5.1f} %  {c['words']}" for c in stop["causes"]]
    return "\n".join([*lines, *(m["words"] for m in answer["misses"])])
