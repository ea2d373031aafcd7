"""Questions that a session asks more than once: answered once, until something is written."""

from collections.abc import Callable
from functools import wraps
from typing import Any, Concatenate, ParamSpec, TypeVar

from sqlalchemy import event
from sqlalchemy.orm import ORMExecuteState
from sqlmodel import Session

Asked = ParamSpec("Asked")
Answer = TypeVar("Answer")
_ANSWERS = "answers"  # of a session, by what was asked


def asked_once(
    ask: Callable[Concatenate[Session, Asked], Answer],
) -> Callable[Concatenate[Session, Asked], Answer]:
    """A question whose answer a session keeps until it writes; nobody changes what is given."""

    @wraps(ask)
    def answer(session: Session, *asked: Asked.args, **named: Asked.kwargs) -> Answer:
        if session.new or session.dirty or session.deleted:
            session.flush()  # as every question of the database does first
        answers: dict[Any, Any] = session.info.setdefault(_ANSWERS, {})
        key = (ask.__qualname__, asked, tuple(named.items()))
        if key not in answers:
            answers[key] = ask(session, *asked, **named)
        return answers[key]

    return answer


def _forget(session: Session, *_: Any) -> None:
    session.info.pop(_ANSWERS, None)


def _forget_written(state: ORMExecuteState) -> None:
    if not state.is_select:
        state.session.info.pop(_ANSWERS, None)


event.listen(Session, "after_flush", _forget)
event.listen(Session, "after_soft_rollback", _forget)
event.listen(Session, "do_orm_execute", _forget_written)
