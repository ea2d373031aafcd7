"""A lead sets the shop up: an account, a unit with its engine, a list; and what each then sees."""

from pathlib import Path

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


def test_a_unit_gets_its_engine_and_a_list_is_looked_at_first(
    product: Product, browser: Chrome, tmp_path: Path
) -> None:
    person = Person(browser, product.address)
    browser.get(product.address)
    person.signs_in("sunna")
    browser.get(f"{product.address}/units")
    person.press("Add a unit")
    person.types("Name", "Pilot boat Smew")
    person.types("Tag", "PIL-10")
    person.types("What it is", "pilot boat")
    person.press("Add the unit")
    person.press("Mount an engine on Pilot boat Smew")
    person.types("Engine number", "T-100")
    person.types("Hours it shows", "4100")
    person.press("Mount it")
    person.sees("4100 h")
    person.press("Read meter: T-100")
    person.types("Hours it shows", "40")
    person.press("Keep the reading")
    person.sees("The meter cannot have shown this.")
    person.types("Hours it shows", "4150,5")
    person.press("Keep the reading")
    person.sees("4150.5 h")
    changed = tmp_path / "units.csv"
    changed.write_text("tag,name,kind,engine\nPIL-10,Pilot boat Goosander,pilot boat,T-100\n")
    person.press("Bring in a list")
    picker = "input[aria-label='List of units']"
    browser.find_element(By.CSS_SELECTOR, picker).send_keys(str(changed))
    person.sees("1 of 1 lines change something")
    person.press("Take the list in")
    person.sees("Pilot boat Goosander")
    browser.get(product.address)
    person.press("Start job on Pilot boat Goosander")
    person.sees("What brings it in?")
