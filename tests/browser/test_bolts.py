"""Bolts at the bench in the browser: which goes where, and a wrench with an adapter on it."""

import pytest
from selenium.webdriver import Chrome
from selenium.webdriver.common.by import By
from tests.browser.conftest import Product
from tests.browser.person import Person

pytestmark = pytest.mark.browser


def test_a_cover_shows_its_bolts_and_a_wrench_is_set(product: Product, browser: Chrome) -> None:
    person = Person(browser, product.address)
    person.signs_in("ivo")
    browser.get(f"{product.address}/jobs/4/bench?step=torque:front_cover")
    person.sees("75 mm: 9, 12, 14")
    drawn = browser.find_element(By.CSS_SELECTOR, '[aria-label$="which goes where"]')
    numbers = [t.text for t in drawn.find_elements(By.TAG_NAME, "text")]
    assert sorted(numbers, key=int) == [str(n) for n in range(1, 15)]
    person.press("10 Nm with an adapter")
    person.sees("all three figures are needed")
    person.types("Pivot to grip, mm", "380")
    person.types("Adapter, mm", "55")
    person.types("Its angle, degrees", "0")
    person.sees("Set 8.736 Nm")
    person.types("Its angle, degrees", "much")
    person.sees("all three figures are needed")
    person.types("Its angle, degrees", "90")
    person.sees("Set 10 Nm")
    person.types("Pivot to grip, mm", "100")
    person.types("Adapter, mm", "90")
    person.types("Its angle, degrees", "180")
    person.sees("The adapter takes the lever away.")
    assert person.violations() == []
    assert [e for e in person.console_errors() if "422" not in e] == []
    browser.get(f"{product.address}/jobs/4/bench?step=remove:front_cover")
    person.sees("Loosen them from 14 back to 1.")
