"""A person without a mouse: Tab reaches everything, arrows choose, Enter presses."""

from dataclasses import dataclass

from selenium.webdriver import ActionChains, Chrome, Keys
from selenium.webdriver.remote.webelement import WebElement
from tests.browser.person import Person

MOST_TABS = 150


@dataclass
class Counts:
    """What the hands did."""

    tabs: int = 0
    presses: int = 0
    fields: int = 0
    chosen: int = 0


class ByKeys(Person):
    """Does what a person does, by keyboard alone, and counts it."""

    def __init__(self, driver: Chrome, address: str) -> None:
        super().__init__(driver, address)
        self.counts = Counts()

    def _keys(self, *keys: str) -> None:
        ActionChains(self.driver, duration=0).send_keys(*keys).perform()

    def _way(self, element: WebElement) -> str:
        """Where it stands from what has the focus: here, before it, or on from it."""
        script = """
            const [element, at] = [arguments[0], document.activeElement];
            if (element.contains(at)) return 'here';
            const isBefore = at.compareDocumentPosition(element) & Node.DOCUMENT_POSITION_PRECEDING;
            return at !== document.body && isBefore ? 'before' : 'on';
        """
        return str(self.driver.execute_script(script, element))

    def reach(self, element: WebElement) -> None:
        """Tab on, or back, until the focus is on it or in it."""
        for _ in range(MOST_TABS):
            way = self._way(element)
            if way == "here":
                return
            if way == "before":
                hands = ActionChains(self.driver, duration=0).key_down(Keys.SHIFT)
                hands.send_keys(Keys.TAB).key_up(Keys.SHIFT).perform()
            else:
                self._keys(Keys.TAB)
            self.counts.tabs += 1
        raise AssertionError(f"{MOST_TABS} Tab stops do not lead to {element.text or element}")

    def press(self, label: str) -> None:
        def go(_: Chrome) -> bool:
            self.reach(self._labelled(label, "button, a, [role=button]"))
            self._keys(Keys.ENTER)
            return True

        self.until(go)
        self.counts.presses += 1

    def types(self, label: str, text: str) -> None:
        def go(_: Chrome) -> bool:
            self.reach(self.field(label))
            ActionChains(self.driver, duration=0).key_down(Keys.CONTROL).send_keys("a").key_up(
                Keys.CONTROL
            ).send_keys(text).perform()
            return True

        self.until(go)
        self.counts.fields += 1

    def chooses(self, group: str, option: str) -> None:
        def go(driver: Chrome) -> bool:
            wanted = self.option(group, option)
            if wanted is None:
                return False
            self.reach(
                driver.execute_script("return arguments[0].closest('[role=radiogroup]')", wanted)
            )
            for _ in range(20):
                if self._way(wanted) == "here":
                    self._keys(Keys.SPACE)
                    return True
                self._keys(Keys.ARROW_DOWN)
            return False

        self.until(go)
        self.counts.chosen += 1
