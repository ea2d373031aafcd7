"""PINs: a short way in on a tablet that knows somebody, and a signature with one hand."""

from sqlalchemy import Engine

from flaneur.core.errors import at_field
from flaneur.core.people import Person
from flaneur.core.pins import LONGEST_PIN, SHORTEST_PIN, PinFault, pin_fault
from flaneur.jobs.accounts import (
    AccountError,
    WrongPassword,
    begin_at,
    check_password,
    guarded,
)
from flaneur.store import accounts as store
from flaneur.store.database import transaction
from flaneur.store.tables import AccountAct, User

_FAULTS = {
    PinFault.NOT_FIGURES: ("A PIN is figures only.", "other signs"),
    PinFault.LENGTH: ("The PIN is too short or too long.", "other than so many figures"),
    PinFault.GUESSED: ("This PIN is tried first.", "a figure repeated, or figures in a row"),
}


def set_pin(
    engine: Engine, person: Person, login: str, password: str, pin: str, address: str
) -> None:
    """Give oneself a PIN, or with an empty one have none any longer. Raises WrongPassword,
    TooManyTries and AccountError.
    """
    with at_field("password"):
        check_password(engine, login, password, address)
    fault = pin_fault(pin) if pin else None
    if fault is not None:
        message, read = _FAULTS[fault]
        raise AccountError(
            message,
            read=read,
            expected=f"{SHORTEST_PIN} to {LONGEST_PIN} figures that are not soon guessed",
            field="pin",
        )
    with transaction(engine, person) as session:
        user = store.user_for_change(session, person.id or 0)
        store.give_pin(user, pin)
        act = AccountAct.PIN_SET if pin else AccountAct.PIN_DROPPED
        store.note(session, user, act, person.name)


def check_pin(engine: Engine, login: str, pin: str, address: str) -> User:
    """The person of a login, by PIN, where they signed in by password lately. Raises WrongPassword
    and TooManyTries.
    """
    found = list[User]()

    def is_right() -> bool:
        with transaction(engine) as session:
            user = store.verify_pin(session, login, pin)
            is_known = store.is_known_at(session, login, address)
        found.extend([user] if user and is_known else [])
        return bool(found)

    wrong = WrongPassword("The PIN is not right here.", advice="Try again, or use the password.")
    guarded(engine, login, address, is_right, wrong)
    return found[0]


def sign_in(engine: Engine, login: str, pin: str, address: str) -> tuple[User, str]:
    """Sign somebody in by PIN: who it is, and the token their device keeps."""
    user = check_pin(engine, login, pin, address)
    return user, begin_at(engine, user, address)


def check_signature(engine: Engine, login: str, secret: str, is_pin: bool, address: str) -> None:
    """That somebody is who they are, before they sign: by password or PIN. Raises WrongPassword and
    TooManyTries.
    """
    with at_field("secret"):
        check = check_pin if is_pin else check_password
        check(engine, login, secret, address)
