"""Several hands at one engine: what is laid in, who has the job, who looks, a PIN for gloves."""

from collections.abc import Iterator
from pathlib import Path

import pytest
from bench.once import own_job
from bench.tablets import Line
from demo.browser import resize
from demo.depot import PASSWORD
from demo.walk import answered
from PIL import Image
from selenium.webdriver import Chrome
from selenium.webdriver.common.by import By
from tests.browser.conftest import Product
from tests.browser.person import Person

from flaneur.core.plan.steps import PlanStep

PIN = "40916"


@pytest.fixture
def line(product: Product) -> Iterator[Line]:
    found = Line(product.address, "ivo")
    yield found
    found.close()


@pytest.fixture
def job(product: Product, line: Line) -> int:
    lead = Line(product.address, "sunna")
    made = own_job(line, lead, ("chain_b_part",))
    lead.close()
    return made


@pytest.fixture
def person(product: Product, browser: Chrome) -> Person:
    found = Person(browser, product.address)
    found.signs_in("ivo")
    return found


def opens(person: Person, job: int, words: str) -> None:
    person.driver.get(f"{person.address}/jobs/{job}/bench")
    person.sees(words)


def until_turning(line: Line, job: int) -> PlanStep:
    """Close steps up to the first that turns the crank."""
    bench = line.send("GET", f"/api/jobs/{job}/bench")
    for raw in bench["steps"]:
        step = PlanStep.model_validate(raw)
        if step.ref in bench["turning"]:
            return step
        line.change(job, "POST", "/bench/steps", answered(step))
    raise AssertionError("nothing turns")


def sound(person: Person) -> None:
    """No fault of access, nothing sideways, in the view as it stands."""
    assert person.violations("daylight", is_bench=True) == []
    for width, height in ((800, 1280), (390, 844), (1280, 800)):
        resize(person.driver, width, height)
        assert not person.overflows(), f"scrolls sideways at {width}"


def test_nothing_turns_before_what_was_laid_in_is_counted_out(
    person: Person, line: Line, job: int
) -> None:
    step = until_turning(line, job)
    opens(person, job, step.title)
    person.press("Something goes in")
    person.press("One more")
    person.press("chain case")
    sound(person)
    person.press("Count in: 2 × rag")
    person.sees("Do not turn: the count is open")
    assert "2 rags, chain case" in person.text()
    sound(person)
    person.press("One out")
    person.sees("1 rag, chain case")
    person.press("Out again")
    person.sees("Nothing was laid in by hand")
    assert "Do not turn" not in person.text()


def test_the_dock_covers_nothing_below_the_step(person: Person, job: int) -> None:
    opens(person, job, "In the engine")
    ends = person.driver.execute_script(
        """
        const heads = [...document.querySelectorAll('h2')];
        const head = heads.find(h => h.innerText === 'In the engine');
        const step = document.querySelector('h1').closest('section');
        return [step.getBoundingClientRect().bottom, step.scrollHeight, step.clientHeight,
          head.getBoundingClientRect().top];
        """
    )
    assert ends[0] <= ends[3] + 1, "the step ends where the next begins"
    assert ends[1] <= ends[2] + 17, "what is in the step is not higher than the step"


def test_a_job_goes_from_hand_to_hand_by_pin(
    product: Product, browser: Chrome, person: Person, job: int
) -> None:
    browser.get(f"{product.address}/password")
    person.types("Your password, once more", PASSWORD)
    person.types("PIN", PIN)
    person.types("PIN once more", PIN)
    person.press("Set the PIN")
    person.sees("Your PIN is set.")
    try:
        opens(person, job, "Who has the job")
        person.press("Hand the job over")
        person.sees("It may be left as it stands")
        person.types("What else to know", "Oil is drained, plug is out.")
        person.press("Hand it over")
        person.sees("Handed over by Ivo Tarnholt")
        person.press("Sign out")
        person.sees("A PIN is good on devices")
        assert person.violations("daylight") == []
        for figure in PIN:
            person.press(figure, "button")
        person.press("Sign in")
        person.until(lambda _: "Sign out" in person.text())
        opens(person, job, "Take it back, signed")
        assert "Oil is drained, plug is out." in person.text()
        sound(person)
        for figure in PIN:
            person.press(figure, "button")
        person.press("Take it back, signed")
        person.sees("Ivo Tarnholt took it over last.")
    finally:
        browser.get(f"{product.address}/password")
        person.types("Your password, once more", PASSWORD)
        person.press("Have no PIN")
        person.sees("You have no PIN any longer.")


def test_a_colleague_sees_the_photograph_and_answers_once(
    product: Product, browser: Chrome, person: Person, job: int, tmp_path: Path
) -> None:
    photo = tmp_path / "mark.jpg"
    Image.new("RGB", (900, 600), (90, 96, 92)).save(photo)
    opens(person, job, "Photograph it")
    browser.find_element(By.CSS_SELECTOR, "input[type=file]").send_keys(str(photo))
    person.until(lambda d: d.find_elements(By.CSS_SELECTOR, "img[alt^='Photograph 1']"))
    person.press("Ask a colleague to look")
    person.types("What should they look at?", "Is the cable clear of the belt?")
    person.press("Make the link")
    link = person.until(lambda d: d.find_element(By.TAG_NAME, "code")).text
    browser.delete_all_cookies()
    browser.get(link)
    person.sees("Is the cable clear of the belt?")
    person.until(lambda d: d.find_elements(By.CSS_SELECTOR, "img[alt^='Photograph 1']"))
    assert person.violations("daylight") == []
    assert not person.overflows()
    person.types("Your name", "Orla")
    person.press("It does not")
    person.sees("Kept. Thank you.")
    browser.get(link)
    person.sees("This was answered already.")
    person.signs_in("ivo")
    opens(person, job, "Orla by link: does not look right")
