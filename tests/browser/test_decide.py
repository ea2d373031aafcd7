"""The verdict page: a what-if that moves it, and the lead's decision that stays."""

import pytest
from selenium.webdriver import Chrome
from tests.browser.conftest import Product
from tests.browser.person import Person

pytestmark = pytest.mark.browser


def test_a_lead_tries_a_what_if_and_decides(product: Product, browser: Chrome) -> None:
    person = Person(browser, product.address)
    person.signs_in("sunna")
    job = next(j["open_job"] for j in person.fetches("/api/yard")["units"] if j["tag"] == "PIL-2")
    browser.get(f"{product.address}/jobs/{job}/verdict")
    person.sees("Advised")
    headline = person.fetches(f"/api/jobs/{job}/verdict")["verdict"]["headline"]
    person.sees(headline[:40])
    person.sees("Untick a reading")
    named = [line for line in person.text().splitlines() if line.startswith("Intake cam, bank B")]
    person.press(next(line for line in named if line.endswith(" late")), "label")
    person.sees("A what-if: this is not what was read")
    person.until(lambda _: headline[:40] not in person.text())
    person.sees("nothing is decided on it")
    person.press("Back to what was read")
    person.sees(headline[:40])
    person.press("Decide it so")
    person.sees("by Sunna Quill")
    person.press("Plan it")
    person.sees("As decided")
    assert not person.console_errors()
