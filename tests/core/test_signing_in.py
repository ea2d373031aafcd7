"""Who guesses waits, and nobody else; and which passwords are soon guessed."""

from datetime import UTC, datetime, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from flaneur.core.passwords import SHORTEST, Weakness, one_time_password, weakness
from flaneur.core.signing_in import FREE_TRIES, LONGEST_WAIT, OF_ONE_ACCOUNT, WrongTry, wait_until

NOW = datetime(2026, 11, 26, 8, 0, tzinfo=UTC)


def tries(count: int, login: str, address: str) -> list[WrongTry]:
    return [WrongTry(login, address, NOW - timedelta(seconds=i)) for i in range(count)]


def wait(made: list[WrongTry], login: str, address: str, is_known: bool = False) -> float:
    until = wait_until(made, login, address, is_known=is_known, now=NOW)
    return (until - NOW).total_seconds() if until else 0.0


def test_a_slip_of_the_finger_waits_for_nothing() -> None:
    assert wait(tries(FREE_TRIES - 1, "ivo", "tablet"), "ivo", "tablet") == 0


def test_the_wait_doubles_and_ends() -> None:
    waits = [wait(tries(n, "ivo", "tablet"), "ivo", "tablet") for n in range(5, 14)]
    assert waits[:3] == [15, 30, 60]
    assert waits[-1] == LONGEST_WAIT.total_seconds()


def test_others_behind_the_same_address_sign_in_as_before() -> None:
    made = tries(500, "ivo", "shop")
    assert wait(made, "ivo", "shop") > 0
    assert wait(made, "pell", "shop", is_known=True) == 0


def test_an_account_that_is_tried_from_everywhere_is_open_where_its_person_is_known() -> None:
    made = [t for n in range(OF_ONE_ACCOUNT) for t in tries(1, "ivo", f"elsewhere {n}")]
    assert wait(made, "ivo", "yet another") > 0
    assert wait(made, "ivo", "tablet", is_known=True) == 0


def test_an_address_that_tries_many_accounts_waits() -> None:
    made = [t for n in range(60) for t in tries(1, f"login {n}", "stranger")]
    assert wait(made, "pell", "stranger") > 0


@given(st.integers(0, 40), st.integers(1, 7200))
def test_every_wait_ends_within_a_quarter_of_an_hour(count: int, later_s: int) -> None:
    until = wait_until(tries(count, "ivo", "a"), "ivo", "a", is_known=False, now=NOW)
    assert until is None or NOW < until <= NOW + LONGEST_WAIT
    then = NOW + timedelta(seconds=later_s)
    later = wait_until(tries(count, "ivo", "a"), "ivo", "a", is_known=False, now=then)
    assert later is None or later_s < LONGEST_WAIT.total_seconds()


@pytest.mark.parametrize(
    ("password", "found"),
    [
        ("saltmere", Weakness.SHORT),
        ("x" * 201, Weakness.LONG),
        ("password123", Weakness.COMMON),
        ("qwertyuiop12", Weakness.COMMON),
        ("ivotarnholt1", Weakness.COMMON),
        ("aaaaaaaaaaaaaa", Weakness.COMMON),
        ("gantry otter seven brass", None),
    ],
)
def test_what_is_soon_guessed_is_refused(password: str, found: Weakness | None) -> None:
    assert weakness(password, ["ivo", "Ivo Tarnholt"]) == found


def test_a_one_time_password_would_do_itself() -> None:
    drawn = {one_time_password() for _ in range(50)}
    assert len(drawn) == 50
    assert all(len(p) >= SHORTEST and weakness(p, []) is None for p in drawn)
