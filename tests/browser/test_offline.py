"""The workshop's network drops: the bench goes on, and nothing is lost or doubled."""

import os
import signal
import time
from collections.abc import Iterator
from contextlib import contextmanager

import pytest
from bench.house import Served
from bench.kills import Parts
from bench.once import own_job
from bench.tablets import Line
from demo.walk import answered
from selenium.webdriver import Chrome
from tests.browser.at_bench import press_right, quick_words
from tests.browser.conftest import Product
from tests.browser.person import Person
from tests.browser.test_second_person import CHOOSE, Colleague

from flaneur.core.plan.steps import PlanStep

KEPT_BY_WORKER = """
    const [path, done] = arguments;
    navigator.serviceWorker.ready.then(() => caches.match(path)).then((kept) => done(!!kept));
"""


@contextmanager
def away(product: Product) -> Iterator[None]:
    """Nobody answers at the address: what stands before the application is gone, and whoever would
    start it again is held.
    """
    found = Parts(Served(product.address, product.data))
    supervisor, proxy = found.pid("supervisor"), found.pid("proxy")
    os.kill(supervisor, signal.SIGSTOP)
    try:
        os.killpg(proxy, signal.SIGKILL)
        yield
    finally:
        os.kill(supervisor, signal.SIGCONT)


def open_steps(colleague: Colleague, job: int) -> list[PlanStep]:
    bench = colleague.send("GET", f"/api/jobs/{job}/bench")
    done = {r["step"] for r in bench["records"]}
    return [PlanStep.model_validate(s) for s in bench["steps"] if s["ref"] not in done]


def wait_until_kept(person: Person, job: int) -> None:
    """Until the worker keeps all that the bench needs without the network."""
    for path in ("/", "/api/session", f"/api/jobs/{job}", f"/api/jobs/{job}/bench"):
        person.until(
            lambda d, p=path: (
                d.execute_async_script(KEPT_BY_WORKER, p) or (d.refresh() or time.sleep(1))
            )
        )


@pytest.fixture
def colleague(product: Product) -> Colleague:
    return Colleague(product.address, "pell")


def test_the_bench_goes_on_without_the_network(
    product: Product, browser: Chrome, colleague: Colleague
) -> None:
    person = Person(browser, product.address)
    person.signs_in("ivo")
    line, lead = Line(product.address, "pell"), Line(product.address, "sunna")
    job = own_job(line, lead)
    line.close()
    lead.close()
    first, second, third = open_steps(colleague, job)[:3]
    browser.get(f"{product.address}/jobs/{job}/bench")
    wait_until_kept(person, job)
    person.sees(first.title)
    with away(product):
        press_right(person, first)
        person.sees("1 wait to be sent")
        person.sees("The network is away")
        browser.refresh()
        person.sees("1 wait to be sent")
        person.sees(quick_words(second))
        press_right(person, second)
        person.sees("2 wait to be sent")
        person.sees(third.title)
    person.until(lambda _: "wait to be sent" not in person.text(), 90)
    bench = colleague.send("GET", f"/api/jobs/{job}/bench")
    assert [bench["occurrences"].get(s.ref, 0) for s in (first, second, third)] == [1, 1, 0]
    by = {r["step"]: r["by"] for r in bench["records"]}
    assert by[first.ref] == by[second.ref] == "Ivo Tarnholt"
    notes = [n["words"] for n in colleague.send("GET", f"/api/jobs/{job}")["notebook"][-2:]]
    assert [n.split(":")[0] for n in notes] == [first.title, second.title]


def test_a_pattern_goes_on_bolt_by_bolt_without_the_network(
    product: Product, browser: Chrome, colleague: Colleague
) -> None:
    person = Person(browser, product.address)
    person.signs_in("ivo")
    line, lead = Line(product.address, "pell"), Line(product.address, "sunna")
    job = own_job(line, lead)
    steps = open_steps(colleague, job)
    step = next(s for s in steps if s.verb == "torque")
    for before in steps[: steps.index(step)]:
        line.change(job, "POST", "/bench/steps", answered(before))
    line.close()
    lead.close()
    browser.get(f"{product.address}/jobs/{job}/bench")
    wait_until_kept(person, job)
    person.sees("Bolt 1:")
    with away(product):
        for number in (1, 2, 3):
            person.press(f"{number} clicked")
            person.sees(f"Bolt {number + 1}:")
        browser.refresh()
        person.sees("Bolt 4:")
        person.press("The last one back")
        person.sees("Bolt 3:")
        person.sees("2 entries wait")
    person.until(lambda _: "on this tablet, and" not in person.text(), 90)
    within = colleague.send("GET", f"/api/jobs/{job}/bench")["within"]
    assert [(e["number"], e["by"]) for e in within] == [(1, "Ivo Tarnholt"), (2, "Ivo Tarnholt")]
    person.sees("Bolt 3:")
    browser.refresh()
    person.sees("Torque wrench in hand")
    browser.execute_script(CHOOSE, "Large wrench")
    person.sees("goes from 60 to 300 Nm: record it as not measured")
    person.press("The others too")
    person.sees("not measured")
    person.sees("Not right")
    assert colleague.send("GET", f"/api/jobs/{job}/bench")["records"][-1]["step"] != step.ref
