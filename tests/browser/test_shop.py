"""A lead sets the shop up: an account, and what its person then sees."""

from selenium.webdriver import Chrome
from selenium.webdriver.common.by import By
from tests.browser.conftest import Product
from tests.browser.person import Person

OWN = "gantry otter seven brass"


def test_somebody_new_comes_in_and_chooses_a_password(product: Product, browser: Chrome) -> None:
    person = Person(browser, product.address)
    browser.get(product.address)
    person.signs_in("sunna")
    browser.get(f"{product.address}/people")
    person.types("Name, as the record writes it", "Orla Venn")
    person.types("Login", "orla")
    person.press("Make the account")
    person.sees("One-time password of Orla Venn")
    told = browser.find_element(By.CSS_SELECTOR, "output code").text
    person.press("Sign out")
    person.sees("Sign in")
    person.types("Login", "orla")
    person.types("Password", told)
    person.press("Sign in")
    person.sees("Choose your own password")
    person.types("The one-time password", told)
    person.types("New password", "orla venn")
    person.types("New password once more", "orla venn")
    person.press("Take the new password")
    person.sees("The password is too short.")
    person.types("New password", OWN)
    person.types("New password once more", OWN)
    person.press("Take the new password")
    person.sees("Units")
    assert "People" not in person.text(), "only a lead keeps accounts"
