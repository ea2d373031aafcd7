"""The fleet in the browser, worked out beside: from an engine's line to its parts and a job."""

import pytest
from demo.browser import resize
from selenium.webdriver import Chrome
from selenium.webdriver.common.by import By
from tests.browser.conftest import Product
from tests.browser.person import Person

pytestmark = pytest.mark.browser
WORKED_OUT_S = 180  # every engine of the depot, beside all else that is tested


def test_from_the_fleet_to_an_engine_and_its_job(product: Product, browser: Chrome) -> None:
    person = Person(browser, product.address)
    person.signs_in("ivo")
    person.press("Fleet")
    person.sees("Each bar: between when", WORKED_OUT_S)
    person.until(lambda _: not person.fetches("/api/fleet")["is_working"], WORKED_OUT_S)
    browser.refresh()
    person.sees("probably over a limit")
    engines = person.fetches("/api/fleet")["engines"]
    costs = [e["cost"] for e in engines]
    assert costs == sorted(costs, reverse=True)
    assert "Read its meter once" in person.text(), "the groomer whose hours nobody knows"
    browser.find_element(By.CSS_SELECTOR, "select").send_keys("Dunmarrow")
    person.until(lambda _: "Harbour crane generator" not in person.text())
    person.sees("Standby generator")
    person.press("Standby generator")
    person.sees("look again in")
    person.sees("2 readings: full where measured")
    assert person.violations() == []
    resize(browser, 800, 1280)
    assert not person.overflows()
    resize(browser, 1280, 800)
    browser.get(f"{product.address}/fleet/{engines[0]['engine_id']}")
    person.sees("look again in")
    person.press("Oil pump chain")
    person.sees("Nothing was read of it")
    person.press("Go on with SI-")
    person.sees("What brings it in?")
    assert person.console_errors() == []
