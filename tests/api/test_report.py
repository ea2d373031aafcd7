"""The report: what it shows of bolts and photographs, and the PDF that archives keep."""

import hashlib
import io
import json

from demo.walk import Visitor, answered
from pypdf import PdfReader
from tests.api.conftest import House, archive_of, photographed
from tests.api.test_once import close_until, steps
from tests.api.test_traces import keep, taken, wrench

from flaneur.core.plan.steps import PlanStep
from flaneur.devices.wrench import WrenchClient
from flaneur.jobs.telling import PHOTOS_SHOWN, which_photos

__all__ = ["steps", "wrench"]


def page(visitor: Visitor, job: int, asked: str = "") -> str:
    return visitor.client.get(f"/api/jobs/{job}/report.html{asked}").text


def test_traces_of_a_closed_step_stand_in_the_report(
    house: House, visitor: Visitor, job: int, steps: list[PlanStep], wrench: WrenchClient
) -> None:
    step = close_until(visitor, job, steps, "torque:front_cover")
    keep(visitor, job, step, 1, taken(wrench, step, 1))
    assert "Torque over angle" not in page(visitor, job), "not before the step is closed"
    keep(visitor, job, step, 2, taken(wrench, step, 2, "cross_threaded"))
    left = {**answered(step), "departure": "thread repaired next week"}
    house.visitor("sunna").change(job, "POST", "/bench/steps", left)
    found = page(visitor, job)
    assert found.count("Torque over angle") == 1
    figure = found.split("Torque over angle", 1)[1].split("</figure>", 1)[0]
    assert figure.count("<polyline") == 2
    assert "2 bolts: bolt 2:" in figure


def test_the_report_shows_the_photographs_that_are_chosen(
    visitor: Visitor, job: int, steps: list[PlanStep]
) -> None:
    for _ in range(3):
        assert photographed(visitor, job, steps[0].ref).status_code == 200
    listed = visitor.send("GET", f"/api/jobs/{job}/handover")["photos"]
    assert [p["is_shown"] for p in listed] == [True] * 3
    assert page(visitor, job).count("<img") == 3
    keys = [p["id"] for p in listed]
    chosen = page(visitor, job, f"?photos={keys[1]},99999,x")
    assert chosen.count("<img") == 1
    assert "2 more in the job" in chosen
    assert page(visitor, job, "?photos=").count("<img") == 0


def test_without_a_choice_the_first_photographs_are_shown() -> None:
    every = list(range(100, 140))
    assert which_photos(every, None) == every[:PHOTOS_SHOWN]
    assert which_photos(every, [120, 101, 7]) == [101, 120]
    assert which_photos(every, []) == []


def test_the_signed_pdf_is_for_archives_and_carries_its_record(signed_house: House) -> None:
    visitor = signed_house.visitor()
    pdf = PdfReader(io.BytesIO(visitor.client.get("/api/jobs/1/report.pdf").data))
    metadata = pdf.xmp_metadata
    assert metadata is not None
    said = metadata.stream.get_data().decode()
    assert 'pdfaid:part="3"' in said or "<pdfaid:part>3<" in said
    ((name, [content]),) = pdf.attachments.items()
    archive = archive_of(visitor, 1)
    assert name == f"{archive['job']['number']}.json"
    record = json.loads(content)
    for rows, figures in (
        ("readings", ("kind", "value", "taken_by")),
        ("bench", ("step", "done_by")),
    ):
        assert [[r[k] for k in figures] for r in record[rows]] == [
            [r[k] for k in figures] for r in archive[rows]
        ]
    (photo,) = record["photos"]
    kept = visitor.client.get("/api/jobs/1/photos/1").data
    assert photo["content"] == hashlib.sha256(kept).hexdigest()
