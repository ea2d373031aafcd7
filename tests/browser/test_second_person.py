"""Two people at one job: nobody records another's figures, who loses a race is told, and there is a
way back from everywhere.
"""

import pytest
from demo.walk import answered
from selenium.webdriver import Chrome
from tests.browser.at_bench import own_figures, press_right, quick_words
from tests.browser.colleague import Colleague, own_job
from tests.browser.conftest import Product
from tests.browser.person import Person

from flaneur.core.plan.steps import PlanStep


@pytest.fixture
def colleague(product: Product) -> Colleague:
    return Colleague(product.address, "pell")


@pytest.fixture
def person(product: Product, browser: Chrome) -> Person:
    found = Person(browser, product.address)
    found.signs_in("ivo")
    return found


def opens(person: Person, job: int, page: str, words: str) -> None:
    person.driver.get(f"{person.address}/jobs/{job}/{page}")
    person.sees(words)


def open_steps(colleague: Colleague, job: int) -> list[PlanStep]:
    bench = colleague.send("GET", f"/api/jobs/{job}/bench")
    done = {r["step"] for r in bench["records"]}
    return [PlanStep.model_validate(s) for s in bench["steps"] if s["ref"] not in done]


def next_step(colleague: Colleague, job: int) -> PlanStep:
    return open_steps(colleague, job)[0]


def until_typed(colleague: Colleague, job: int) -> PlanStep:
    """Close steps up to the next one that asks for a figure to be typed."""
    while True:
        step = next_step(colleague, job)
        if own_figures(step):
            return step
        close(colleague, job, step)


def close(colleague: Colleague, job: int, step: PlanStep) -> None:
    colleague.change(job, "POST", "/bench/steps", **answered(step))


def drafts(person: Person) -> list[str]:
    return list(
        person.driver.execute_script(
            "return Object.keys(localStorage).filter((k) => k.startsWith('draft '))"
        )
    )


def test_who_loses_a_race_is_told_and_keeps_what_was_typed(
    person: Person, colleague: Colleague
) -> None:
    job = own_job(colleague, "FIR-3")
    step = until_typed(colleague, job)
    asked = own_figures(step)[0]
    opens(person, job, "bench", step.title)
    person.types(asked.ask, "777")
    close(colleague, job, step)
    person.driver.refresh()
    person.sees(f"“{step.title}” was recorded by Pell Ardmoor while you were at it")
    person.sees(f"You had typed: {asked.ask} 777")
    person.press("Put mine aside")
    person.until(lambda _: "while you were at it" not in person.text())
    assert drafts(person) == []


def test_a_reopened_step_is_empty_for_everybody(
    person: Person, colleague: Colleague, product: Product
) -> None:
    job = own_job(colleague, "FIR-3")
    step = until_typed(colleague, job)
    asked = own_figures(step)[0]
    opens(person, job, "bench", step.title)
    press_right(person, step)
    person.until(lambda _: next_step(colleague, job).ref != step.ref)
    person.until(lambda _: drafts(person) == [])
    person.driver.execute_script("window.scrollTo(0, 0)")
    refs = [s["ref"] for s in colleague.send("GET", f"/api/jobs/{job}/bench")["steps"]]
    person.press(f"{refs.index(step.ref) + 1}\n{step.title}")
    person.press("Open this step again")
    person.types("Open it again because", "the wrench was not set")
    person.press("Open it again")
    person.sees(quick_words(step))
    person.until(lambda _: next_step(colleague, job).ref == step.ref)
    person.until(lambda _: person.field(asked.ask).get_attribute("value") == "")
    person.types(asked.ask, "55")
    assert len(drafts(person)) == 1
    person.press("Sign out")
    person.sees("Login")
    assert drafts(person) == [], "nothing typed stays behind at sign-out"
    person.signs_in("pell")
    opens(person, job, "bench", step.title)
    assert person.field(asked.ask).get_attribute("value") == ""
    assert person.console_errors() == []


def test_a_hard_stop_leads_from_proof_back_to_the_bench(
    person: Person, colleague: Colleague
) -> None:
    job = own_job(colleague, "GEN-1")
    opens(person, job, "proof", "Turned by hand at the bench")
    person.press("Turned by hand once more")
    proof = colleague.send("GET", f"/api/jobs/{job}/proof")
    person.types("Crank turns made", "0.5")
    person.types("Counted out", str(proof["pins_in"]))
    person.chooses("A hard stop?", "hard stop")
    for mark in proof["mark_checks"]:
        person.chooses(mark, "met")
    person.press("Record the turns")
    person.sees("A hard stop was felt: take it for a valve. Do not turn on.")
    assert "Capture after the repair" not in person.text(), "nobody is asked to start this engine"
    assert person.violations() == []
    person.driver.get(f"{person.address}/jobs/{job}/bench")
    person.types("Where the crank stands", "390")
    person.press("What can it be there?")
    person.sees("At 390° a valve can reach its piston")
    person.press("It was this")
    assert "Something in the way" in person.field("What stopped the crank").get_attribute("value")
    person.types("What stopped the crank", "bank B one tooth late")
    person.driver.execute_script(CHOOSE, "fit:chain_b_part")
    person.press("Write the cause and open the step")
    person.sees("Secondary chain B (2-4-6) on")
    person.sees("A mark misses")
    assert next_step(colleague, job).ref == "fit:chain_b_part"
    assert person.console_errors() == []
    for step in open_steps(colleague, job):
        close(colleague, job, step)
    colleague.change(
        job,
        "PUT",
        "/proof/hands",
        turns="2",
        hard_stop=False,
        marks=dict.fromkeys(proof["mark_checks"], True),
        pins_out=proof["pins_in"],
    )
    assert colleague.send("GET", f"/api/jobs/{job}/proof")["start"]["in_the_way"] == []


# React listens to the setter of the element, not to a bare assignment.
CHOOSE = """
    const list = document.querySelector('main select');
    const value = Object.getOwnPropertyDescriptor(HTMLSelectElement.prototype, 'value');
    value.set.call(list, arguments[0]);
    list.dispatchEvent(new Event('change', {bubbles: true}));
"""


def test_the_box_is_watched_by_one_and_taken_over_by_asking(
    person: Person, colleague: Colleague
) -> None:
    job = own_job(colleague, "AMB-1")
    colleague.send("POST", f"/api/jobs/{job}/live", cold=False)
    opens(person, job, "readings/live", "Pell Ardmoor is at the box")
    assert "Keep it" not in person.text()
    person.press("Take the box over")
    person.sees("Keep it")
    assert colleague.send("GET", f"/api/jobs/{job}/live")["by"] == "Ivo Tarnholt"
    person.press("Let go of the box")
    person.sees("Connect and start cold")


def test_a_lead_enters_whose_seals_count(person: Person) -> None:
    person.driver.get(f"{person.address}/seals")
    person.sees("A lead enters the keys of other depots.")
    assert person.violations() == []
    person.press("Sign out")
    person.sees("Login")
    person.signs_in("sunna")
    person.driver.get(f"{person.address}/seals")
    person.types("Its name, as you know it", "Outer Skerry Depot")
    person.types("Its public key", "ab12 " * 16)
    person.press("Believe its seals")
    person.sees("entered by Sunna Quill")
    assert person.violations() == []
    person.press("Believe no longer: Outer Skerry Depot")
    person.sees("A job that another depot signed comes in as an open job.")


def test_a_capture_is_taken_back_on_its_page(person: Person, colleague: Colleague) -> None:
    unit = next(u["id"] for u in colleague.send("GET", "/api/yard")["units"] if u["tag"] == "AMB-7")
    job = int(colleague.send("POST", "/api/jobs", unit_id=unit)["id"])
    made = colleague.change(job, "POST", "/captures/box", seconds=2)["made"]
    opens(person, job, "readings", f"C{made}")
    person.press(f"Take back C{made}")
    person.types("Take it back because", "the wrong unit was on the lift")
    person.press("Take it back")
    person.sees("taken back: the wrong unit was on the lift")
    person.press("Undo")
    person.until(lambda _: "taken back" not in person.text().split("Notebook")[0])
