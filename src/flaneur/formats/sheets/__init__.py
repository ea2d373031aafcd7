"""Sheets of a plan on paper: the owner's estimate, work, parts and tools, marks and counts."""

from dataclasses import dataclass
from datetime import date
from enum import StrEnum
from pathlib import Path

from jinja2 import Environment, FileSystemLoader, StrictUndefined

from flaneur.core.decision.estimate import Estimate
from flaneur.core.picture.mark import mark_svg
from flaneur.core.picture.theme import FAMILY, PAPER
from flaneur.core.plan.cheat import Cheat
from flaneur.core.plan.plan import Plan
from flaneur.core.plan.ready import Ready
from flaneur.core.stores.at_hand import AtHand
from flaneur.formats.report import typeface


class SheetKind(StrEnum):
    """Which sheet."""

    ESTIMATE = "estimate"
    WORK = "work"
    PARTS = "parts"
    MARKS = "marks"


TITLES = {
    SheetKind.ESTIMATE: "Estimate",
    SheetKind.WORK: "Work sheet",
    SheetKind.PARTS: "Parts and tools",
    SheetKind.MARKS: "Marks and counts",
}


@dataclass(frozen=True)
class SheetHead:
    """What heads every sheet."""

    number: str
    unit: str
    engine: str
    complaint: str
    headline: str
    currency: str
    shop: str
    today: date


@dataclass(frozen=True)
class SheetContent:
    """A sheet: its head, the plan, and what its kind asks for beside it."""

    head: SheetHead
    plan: Plan
    estimate: Estimate | None = None
    agreed: str = ""
    ready: Ready | None = None
    at_hand: AtHand | None = None
    cheat: Cheat | None = None


_templates = Environment(
    loader=FileSystemLoader(Path(__file__).parent), autoescape=True, undefined=StrictUndefined
)


def sheet_html(kind: SheetKind, content: SheetContent) -> str:
    """A sheet as one self-contained HTML page."""
    return _templates.get_template(f"{kind}.html.j2").render(
        c=content,
        h=content.head,
        title=TITLES[kind],
        paper=PAPER,
        mark=mark_svg(PAPER, "6mm"),
        family=FAMILY,
        fonts=typeface(),
    )
