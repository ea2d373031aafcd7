"""The report of a job: HTML from a template, PDF from the HTML."""

import re
from base64 import b64encode
from functools import cache
from pathlib import Path

from jinja2 import Environment, FileSystemLoader, StrictUndefined
from pydantic import BaseModel, ConfigDict, ValidationError

from flaneur.core.diagnosis.verdict import WearEstimate
from flaneur.core.errors import RecordError
from flaneur.core.picture.ladder import Ladder
from flaneur.core.picture.ladder_svg import ladder_svg
from flaneur.core.picture.mark import mark_svg
from flaneur.core.picture.theme import FAMILY, PAPER
from flaneur.core.proof.check import Check
from flaneur.core.record.canonical import canonical
from flaneur.formats.archive.seal import Seal

_templates = Environment(
    loader=FileSystemLoader(Path(__file__).parent), autoescape=True, undefined=StrictUndefined
)


PAPER_PX = 860.0


class ReportModel(BaseModel):
    """What a report is made of: fixed once made."""

    model_config = ConfigDict(frozen=True)


class TorqueLine(ReportModel):
    """What was applied to one component's fasteners."""

    name: str
    applied: str
    words: str
    by: str


class ReadingLine(ReportModel):
    """One reading with all that it came from."""

    id: str
    name: str
    phase: str
    phaser: str
    value: str
    is_figure: bool
    typed: str
    instrument: str
    capture: int | None
    by: str
    at: str
    struck: str | None


class FoundLine(ReportModel):
    """What a part that came off measured, against its limit."""

    name: str
    value: str


class PhotoShown(ReportModel):
    """A photograph as it rides in the page: JPEG, base64."""

    caption: str
    content: str


class TraceFigure(ReportModel):
    """Traces of the bolts of one step: the picture, and what was found of each."""

    name: str
    svg: str
    words: list[str]


class ReportContent(ReportModel):
    """Everything a report says; times and values already in words. The owner's page first:
    ``wrong``, ``done``, ``shown``, ``next`` in words an owner uses.
    """

    wrong: list[str]
    done: list[str]
    shown: list[str]
    next: list[str]
    ended: str
    decision: str
    turned: list[str]
    found: list[FoundLine]
    phasers: list[str]
    times: list[str]
    photos: list[PhotoShown]
    more_photos: int

    number: str
    unit: str
    tag: str
    engine_number: str
    engine: str
    opened: str
    opened_by: str
    complaint: str
    intake: list[str]
    headline: str
    apart: str
    judged_against: str
    used: list[str]
    wear: list[WearEstimate]
    ladder: Ladder
    renewed: list[str]
    torques: list[TorqueLine]
    traces: list[TraceFigure]
    counts: list[str]
    departures: list[str]
    checks: list[Check]
    override: str | None
    released_by: str | None
    left_over: str
    readings: list[ReadingLine]
    notice: str
    signed_by: str | None
    signed_at: str | None
    head: str | None
    origin: str

    @property
    def summary(self) -> list[str]:
        """What the report comes to, in three lines."""
        if self.ended:
            return [self.headline, self.ended]
        unmet = [c.name for c in self.checks if c.state != "met"]
        return [
            self.headline,
            f"Renewed: {', '.join(self.renewed) or 'nothing'}.",
            f"Not met: {', '.join(unmet)}." if unmet else "Every condition of release is met.",
        ]


def report_html(content: ReportContent) -> str:
    """The report as one self-contained HTML page."""
    return _templates.get_template("report.html.j2").render(
        r=content,
        ladder=ladder_svg(content.ladder, PAPER, PAPER_PX, f"{FAMILY}, sans-serif"),
        paper=PAPER,
        mark=mark_svg(PAPER, "6mm"),
        family=FAMILY,
        fonts=typeface(),
    )


@cache
def typeface() -> dict[int, str]:
    """The typeface of paper by weight, as it rides in the page: a report stands alone."""
    found = {
        weight: Path(__file__).parent / f"fonts/atkinson-hyperlegible-next-{weight}.woff2"
        for weight in (400, 700)
    }
    return {weight: b64encode(path.read_bytes()).decode() for weight, path in found.items()}


ARCHIVAL = "pdf/a-3b"  # to be read in thirty years, data attached


def report_pdf(html: str, record: str = "", name: str = "record.json") -> bytes:
    """The HTML as PDF, A4, for archives (PDF/A-3b as the library writes it); ``record`` is attached
    to it as the data it was made from. Nothing is fetched.
    """
    from weasyprint import HTML, Attachment  # heavy to load, wanted only when it is printed
    from weasyprint.urls import URLFetcher

    within = URLFetcher(allowed_protocols={"data"})  # its own typeface, and nothing from outside
    attached = [
        Attachment(
            string=record,
            name=name,
            description="The job's record: every row that the seal covers, photographs by hash",
            relationship="Source",
        )
    ]
    page = HTML(string=html, url_fetcher=within)
    made = page.write_pdf(pdf_variant=ARCHIVAL, attachments=attached if record else None)
    return bytes(made or b"")


_SEAL = re.compile(r"\n<!-- flaneur-seal (\{.*\}) -->\n\Z")


def with_seal(html: str, seal: Seal | None) -> str:
    """A frozen report as it leaves the house: its seal rides behind it as a comment, so that the
    page can be verified alone.
    """
    if seal is None:
        return html
    spelled = canonical(seal.model_dump()).replace(
        "--", "\\u002d\\u002d"
    )  # nothing in it may end the comment
    return f"{html}\n<!-- flaneur-seal {spelled} -->\n"


def split_seal(page: str) -> tuple[str, Seal | None]:
    """A report and its seal, from a page as it left the house. Raises RecordError when the seal
    cannot be read.
    """
    found = _SEAL.search(page)
    if found is None:
        return page, None
    try:
        return page[: found.start()], Seal.model_validate_json(found[1])
    except ValidationError as error:
        raise RecordError(
            "The report's seal cannot be read.",
            read=error.errors()[0]["msg"],
            expected="a flaneur-seal",
        ) from error
