"""The drive face: as the book has it, as a job's engine is worn, one tooth off."""

from flask import Blueprint
from spectree import Response

from flaneur.api.models import ErrorOut
from flaneur.api.spec import checked
from flaneur.api.stages.face.models import OffFace
from flaneur.api.turning import turning_face
from flaneur.api.turning_models import TurningFace
from flaneur.api.work import BOOK, JOB, book_at, reading
from flaneur.core.clearance.off import valves_off
from flaneur.core.diagnosis.worn import worn_state
from flaneur.core.drive.facts import Fact, PartFacts
from flaneur.core.drive.off import one_tooth_off
from flaneur.core.engine.compiled import compiled
from flaneur.core.errors import BookError
from flaneur.core.faults.model import Faults
from flaneur.core.job.known import read_on, verdict_facts, work_facts
from flaneur.core.keys import Contact
from flaneur.core.picture.drive import drive_picture
from flaneur.core.readings.counting import counting
from flaneur.jobs.judging import verdict_of
from flaneur.jobs.standing import bench_of
from flaneur.store.plans import plan_of
from flaneur.store.readings import readings_of

blueprint = Blueprint("face", __name__)


@blueprint.get(f"{BOOK}/face")
@checked(resp=Response(HTTP_200=TurningFace, HTTP_404=ErrorOut))
def book_face(book_id: int) -> TurningFace:
    """The engine as its book has it."""
    return turning_face(book_at(book_id), None, "as the book has it")


@blueprint.get(f"{JOB}/face/<int(max=100):times>")
@checked(resp=Response(HTTP_200=TurningFace, HTTP_404=ErrorOut))
def worn_face(job_id: int, times: int) -> TurningFace:
    """A job's engine as its latest verdict has it, wear drawn ``times`` as large."""
    with reading(job_id) as work:
        worn = worn_state(work.book, verdict_of(work, with_evidence=False), max(1, times))
        label = (
            f"{worn.label}; as found before the repair"
            if worn.is_known and work.job.bench_started
            else worn.label
        )
        return turning_face(work.book, worn.faults, label, worn.is_known)


@blueprint.get(f"{JOB}/parts/<part>")
@checked(resp=Response(HTTP_200=PartFacts, HTTP_404=ErrorOut, HTTP_422=ErrorOut))
def job_part(job_id: int, part: str) -> PartFacts:
    """All that is known of one part: from the book, from this job's verdict and readings, and of
    its work.
    """
    with reading(job_id) as work:
        found = next((f for f in compiled(work.book).facts if f.part == part), None)
        if found is None:
            raise BookError("The book has no such part.", read=part)
        filed = read_on(work.book, part)
        rows = [r for r in counting(readings_of(work.session, job_id)) if r.part in filed]
        plan, done = plan_of(work.job), set(bench_of(work.session, work.job).done)
        return PartFacts(
            part=part,
            name=found.name,
            kind=found.kind,
            facts=[
                *verdict_facts(verdict_of(work, with_evidence=False), part),
                *(
                    Fact(
                        label=f"Read, {r.phase} the repair",
                        value=r.words or f"{r.value:g} {r.unit}",
                    )
                    for r in rows
                    if r.words or r.value is not None
                ),
                *(work_facts(work.book, part, plan.access, plan.renewed, done) if plan else []),
                *found.facts,
            ],
        )


@blueprint.get(f"{BOOK}/off/<chain>/<sprocket>/<int(signed=True):teeth>")
@checked(resp=Response(HTTP_200=OffFace, HTTP_404=ErrorOut, HTTP_422=ErrorOut))
def off_face(book_id: int, chain: str, sprocket: str, teeth: int) -> OffFace:
    """What a chain set wrong by some teeth at one sprocket shows; later is positive."""
    book = book_at(book_id)
    contact = str(Contact(chain, sprocket))
    off = one_tooth_off(book, contact, teeth)
    valves = valves_off(book, {c.cam: c.late_deg for c in off.cams})
    picture = drive_picture(
        book, Faults(jumped_teeth={contact: teeth}), f"one tooth off: {off.words}"
    )
    return OffFace(picture=picture, off=off, valves=valves)
