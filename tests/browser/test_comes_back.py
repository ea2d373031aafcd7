"""Whatever is killed comes back by itself, and nobody's page is the worse for it."""

import os
import signal
import time
from collections.abc import Callable

import pytest
import requests
from bench.house import Served
from bench.kills import Parts
from demo.depot import PASSWORD
from selenium.webdriver import Chrome
from tests.browser.conftest import Product
from tests.browser.person import Person

WITHIN_S = 90.0  # on a machine that runs all the other tests meanwhile


def parts(product: Product) -> Parts:
    return Parts(Served(product.address, product.data))


def signed_in(product: Product) -> requests.Session:
    person = requests.Session()
    token = person.get(f"{product.address}/api/session", timeout=WITHIN_S).json()["csrf"]
    body = {"login": "ivo", "password": PASSWORD}
    answer = person.post(
        f"{product.address}/api/session",
        json=body,
        headers={"X-CSRFToken": token},
        timeout=WITHIN_S,
    )
    assert answer.status_code == 200, answer.text
    return person


def yard(product: Product, person: requests.Session) -> int:
    """Status of the yard; nought while nobody answers."""
    try:
        return person.get(f"{product.address}/api/yard", timeout=3).status_code
    except requests.RequestException:
        return 0


def until(what: str, look: Callable[[], bool], end: float) -> None:
    while not look():
        assert time.monotonic() < end, f"{what} did not come back within {WITHIN_S:g} s"
        time.sleep(0.1)


@pytest.mark.parametrize("part", ["web-0.sock", "live.sock", "proxy", "postmaster", "supervisor"])
def test_what_is_killed_is_started_again(product: Product, part: str) -> None:
    person, found = signed_in(product), parts(product)
    before = found.pid(part)
    assert before
    os.kill(before, signal.SIGKILL)
    end = time.monotonic() + WITHIN_S
    until(part, lambda: found.pids()[part] not in (0, before), end)
    until("all that hangs on it", lambda: all(found.pids().values()), end)
    until("the yard", lambda: yard(product, person) == 200, end)


def test_a_server_that_hangs_is_said_after_three_seconds(product: Product, browser: Chrome) -> None:
    person = Person(browser, product.address)
    browser.get(product.address)
    person.types("Login", "ivo")
    person.types("Password", PASSWORD)
    hung = [parts(product).pid(f"web-{number}.sock's worker") for number in (0, 1)]
    for pid in hung:
        os.kill(pid, signal.SIGSTOP)
    try:
        person.press("Sign in")
        person.sees("Flaneur has not answered for 3 s.", 6)
        person.sees("What you typed stays here.")
        person.sees("Flaneur does not answer.", 10)
    finally:
        for pid in hung:
            os.kill(pid, signal.SIGCONT)
    person.sees("Units")
    person.until(lambda _: "Flaneur does not answer." not in person.text(), 10)
