"""A lead's lists in the browser: typed where they stand, taken in from a file, and two at once."""

from pathlib import Path

import pytest
from selenium.webdriver import Chrome, Keys
from selenium.webdriver.common.by import By
from tests.browser.conftest import Product
from tests.browser.person import Person

pytestmark = pytest.mark.browser


def cell(person: Person, name: str, text: str) -> None:
    found = person.until(
        lambda d: d.find_elements(By.CSS_SELECTOR, f'[aria-label="{name}"]') or None
    )[0]
    found.send_keys(Keys.CONTROL, "a")
    found.send_keys(text)


def test_a_lead_keeps_the_lists(product: Product, browser: Chrome, tmp_path: Path) -> None:
    person = Person(browser, product.address)
    person.signs_in("sunna")
    person.press("Stores")
    person.press("Torque wrenches")
    lines = len(next(x for x in lists(person) if x["kind"] == "wrenches")["rows"])
    person.press("Add a line")
    cell(person, f"Torque wrench, line {lines + 1}", "Long wrench")
    cell(person, f"From, Nm, line {lines + 1}", "200")
    cell(person, f"To, Nm, line {lines + 1}", "much")
    cell(person, f"Graduation, Nm, line {lines + 1}", "10")
    person.press("Keep this list")
    person.sees("most_nm: much")
    cell(person, f"To, Nm, line {lines + 1}", "600")
    browser.refresh()
    person.sees("Not kept yet: 1 lines new or changed")
    person.press("Keep this list")
    person.sees(f"Torque wrenches: {lines + 1}")
    file = tmp_path / "wrenches.csv"
    file.write_text("name,least_nm,most_nm,graduation_nm\nOnly one,5,50,1\n", encoding="utf-8")
    browser.find_element(By.CSS_SELECTOR, "input[type=file]").send_keys(str(file))
    person.sees(f"1 lines new or changed, {lines + 1} no more as they were.")
    change_behind(person, "wrenches")
    person.press("Keep this list")
    person.sees("Somebody changed this list since you began")
    person.press("Take theirs")
    person.sees("Torque wrenches: 0")
    assert person.violations() == []
    assert [e for e in person.console_errors() if "422" not in e] == []


def lists(person: Person) -> list[dict[str, object]]:
    return list(person.fetches("/api/stores")["lists"])


def change_behind(person: Person, kind: str) -> None:
    """What another lead does on another tablet."""
    script = """
        const [kind, done] = arguments;
        (async () => {
            const me = await (await fetch('/api/session')).json();
            const { lists } = await (await fetch('/api/stores')).json();
            const { fingerprint } = lists.find((list) => list.kind === kind);
            const answer = await fetch(`/api/stores/${kind}`, {
                method: 'PUT',
                headers: { 'Content-Type': 'application/json', 'X-CSRFToken': me.csrf },
                body: JSON.stringify({ fingerprint, rows: [] }),
            });
            done(answer.status);
        })();
    """
    assert person.driver.execute_async_script(script, kind) == 200
