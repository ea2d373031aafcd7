"""Roads side by side, the course of the job, and the way to the position, in the browser."""

import pytest
from selenium.webdriver import Chrome
from selenium.webdriver.common.by import By
from tests.browser.conftest import Product
from tests.browser.person import Person
from tests.browser.test_readings_page import start_on

pytestmark = pytest.mark.browser


def tick(person: Person, name: str) -> None:
    box = person.until(
        lambda d: next(
            (e for e in d.find_elements(By.CSS_SELECTOR, "label") if e.text.startswith(name)), None
        )
    )
    person.driver.execute_script("arguments[0].scrollIntoView({block: 'center'})", box)
    box.click()


def test_a_technician_compares_roads_and_takes_one(product: Product, browser: Chrome) -> None:
    person, job = start_on(product, browser, "Ambulance Tystie")
    browser.get(f"{product.address}/jobs/{job}/plan")
    person.sees("Nothing chosen")
    tick(person, "Intake phaser")
    person.sees("A lead signs for it.")
    tick(person, "Intake phaser")
    tick(person, "Timing chain")
    person.sees("roads lead there")
    person.sees("Open chain rolled in through the cam cover")
    person.sees("A strand falls back into the case")
    person.press("Take this road")
    person.sees("✓ This road")
    person.sees("A second person")
    person.sees("Maker's drive set")
    person.press("Show all")
    person.press("1 Battery off")
    person.sees("Waits for nothing.")
    person.press("Keep this plan")
    person.sees("Estimate and go-ahead")
    assert person.fetches(f"/api/jobs/{job}/plan")["plan"]["ways"] == ["rolled_in"]
    person.press("Bring it to its position")
    person.sees("until both agree")
    person.chooses("It stands", "an angle, stroke unknown")
    person.types("Crank degrees from cylinder 1 firing", "32")
    person.sees("328° or 688° forwards")
    person.sees("Rod on the piston crown")
    assert person.console_errors() == []
