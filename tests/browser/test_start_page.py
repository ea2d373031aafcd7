"""The first start after a repair, watched at the box."""

import pytest
from selenium.webdriver import Chrome
from tests.browser.colleague import Colleague, own_job
from tests.browser.conftest import Product
from tests.browser.person import Person

pytestmark = pytest.mark.browser


def test_what_was_seen_at_a_start_outlives_a_reload_and_is_of_no_other_start(
    product: Product, browser: Chrome
) -> None:
    person = Person(browser, product.address)
    person.signs_in("ivo")
    turned = own_job(Colleague(product.address, "pell"), "GEN-1")
    person.goes(f"/jobs/{turned}/proof/start")
    person.types("It had stood for", "14 h")
    person.press("Connect and start cold")
    person.sees("Watch the oil pressure first")
    person.press("Pressure is there")
    person.types("It reads", "320 kPa")
    person.press("It rattles since the start")
    person.press("Quiet now")
    browser.refresh()
    person.sees("s until it was there")
    person.sees("It still rattles")
    assert person.field("It reads").get_attribute("value") == "320 kPa"
    assert person.field("It had stood for").get_attribute("value") == "14 h"
    assert "oil pressure first" not in person.text()

    person.press("Let go of the box")
    person.sees("Connect and start cold")
    assert person.field("It had stood for").get_attribute("value") == ""
    person.types("It had stood for", "2 h")
    person.press("Connect and start cold")
    person.sees("Watch the oil pressure first")
    person.sees("It rattles since the start")
    assert person.field("It had stood for").get_attribute("value") == "2 h"
    person.press("Let go of the box")
    person.sees("Connect and start cold")
    assert person.field("It had stood for").get_attribute("value") == "", "of the start that was"
    assert person.console_errors() == []
