"""What crosses the network here: one model a message."""

from datetime import datetime
from typing import Annotated

from flaneur.api.models import In, Out, PersonName
from flaneur.core.bench.looking import Opinion
from flaneur.core.record.bounds import Written


class SecondLookOut(Out):
    """One step of a job, as a colleague sees it who has the link: what is done, how it looks when
    right, what is asked of them. ``photos`` are keys of photographs with what stands under them.
    """

    job: str
    unit: str
    engine: str
    title: str
    text: str
    looks_right: str
    remedy: str
    question: str
    asked_by: str
    until: datetime
    photos: dict[int, str]


class SecondLookKept(Out):
    """The answer was kept, in these words."""

    words: str


class SecondLookIn(In):
    """A colleague's one answer, with the name they give."""

    name: PersonName
    opinion: Opinion
    answer: Annotated[str, Written(1000, 0, has_lines=True)] = ""
