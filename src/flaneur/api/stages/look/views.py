"""A second look by link: whoever has the link sees one step and answers once; nobody signs in."""

from flask import Blueprint, Response
from spectree import Response as Answers

from flaneur.api.models import ErrorOut
from flaneur.api.spec import checked
from flaneur.api.stages.look.models import SecondLookIn, SecondLookKept, SecondLookOut
from flaneur.api.work import database
from flaneur.jobs import looks
from flaneur.store.changes import NotFound
from flaneur.store.depot import book_of
from flaneur.store.readings import step_photos
from flaneur.store.tables import Photo, Unit

blueprint = Blueprint("look", __name__)
LOOK = "/api/look/<token>"


@blueprint.get(LOOK)
@checked(resp=Answers(HTTP_200=SecondLookOut, HTTP_404=ErrorOut, HTTP_422=ErrorOut))
def second_look(token: str) -> SecondLookOut:
    """The step a colleague is asked to look at."""
    with looks.looking_at(database(), token) as (session, job, step, look):
        return SecondLookOut(
            job=job.number,
            unit=session.get_one(Unit, job.unit_id).name,
            engine=book_of(session, job.book_id).name,
            title=step.title,
            text=step.text,
            looks_right=step.looks_right,
            remedy=step.remedy,
            question=look.question,
            asked_by=look.asked_by,
            until=look.until,
            photos=dict(step_photos(session, look.job_id).get(look.step, [])),
        )


@blueprint.get(f"{LOOK}/photos/<int(max=2147483647):photo_id>")
def photo(token: str, photo_id: int) -> Response:
    """A photograph of the step, as WebP."""
    with looks.looking_at(database(), token) as (session, _, step, look):
        row = session.get(Photo, photo_id)
        if row is None or row.job_id != look.job_id or row.step != step.ref:
            raise NotFound("There is no such photograph.", read=str(photo_id))
        return Response(row.content, mimetype="image/webp")


@blueprint.post(LOOK)
@checked(resp=Answers(HTTP_200=SecondLookKept, HTTP_404=ErrorOut, HTTP_422=ErrorOut))
def answer(token: str, json: SecondLookIn) -> SecondLookKept:
    """Answer, once. It is kept by the name given, said to have come by link."""
    words = looks.answer(database(), token, json.name, json.opinion, json.answer)
    return SecondLookKept(words=words)
