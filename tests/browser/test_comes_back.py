"""Whatever is killed comes back by itself, and nobody's page is the worse for it."""

import os
import signal
import subprocess
import time
from collections.abc import Callable
from pathlib import Path

import pytest
import requests
from demo.depot import PASSWORD
from selenium.webdriver import Chrome
from tests.browser.conftest import Product
from tests.browser.person import Person

WITHIN_S = 40.0  # on a machine that runs all the other tests meanwhile


def child(product: Product, words: str) -> int:
    """The process of that command which the supervisor keeps; nought while there is none."""
    keeper = (product.data / "supervisor.pid").read_text().strip()
    found = subprocess.run(["pgrep", "-P", keeper, "-f", words], capture_output=True, text=True)
    return int(found.stdout.split()[0]) if found.stdout.strip() else 0


def children(of: int) -> list[int]:
    """Its children: orphans of a killed web server answer for a second yet, then nobody does."""
    found = subprocess.run(["pgrep", "-P", str(of)], capture_output=True, text=True)
    return [int(pid) for pid in found.stdout.split()]


def is_there(pid: int) -> bool:
    return Path(f"/proc/{pid}").exists()


def postmaster(product: Product) -> int:
    try:
        return int((product.data / "db" / "data" / "postmaster.pid").read_text().split()[0])
    except (FileNotFoundError, IndexError):
        return 0


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


@pytest.mark.parametrize("words", ["gunicorn", "flaneur.worker", "simulation.box", "database hold"])
def test_a_killed_process_is_started_again(product: Product, words: str) -> None:
    person, before = signed_in(product), child(product, words)
    assert before
    left = children(before)
    os.kill(before, signal.SIGKILL)
    end = time.monotonic() + WITHIN_S
    until(words, lambda: child(product, words) not in (0, before), end)
    until(f"{words} without its orphans", lambda: not any(map(is_there, left)), end)
    until("the yard", lambda: yard(product, person) == 200, end)


def test_a_server_that_hangs_is_said_after_three_seconds(product: Product, browser: Chrome) -> None:
    person = Person(browser, product.address)
    browser.get(product.address)
    person.types("Login", "ivo")
    person.types("Password", PASSWORD)
    hung = children(child(product, "gunicorn"))
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


def test_a_killed_database_is_started_again(product: Product) -> None:
    person, before = signed_in(product), postmaster(product)
    assert before
    os.kill(before, signal.SIGKILL)
    end = time.monotonic() + WITHIN_S
    until("PostgreSQL", lambda: postmaster(product) not in (0, before), end)
    until("the yard", lambda: yard(product, person) == 200, end)
