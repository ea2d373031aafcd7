"""What a person does in front of the screen."""

from collections.abc import Callable
from typing import Any

from selenium.common.exceptions import (
    ElementClickInterceptedException,
    StaleElementReferenceException,
)
from selenium.webdriver import Chrome, Keys
from selenium.webdriver.remote.webelement import WebElement
from selenium.webdriver.support.ui import WebDriverWait
from tests.support.cluster import ROOT

LOOKS = ROOT / "tests" / "browser" / "looks.js"
AXE = ROOT / "web" / "node_modules" / "axe-core" / "axe.min.js"


# Whether words stand on the page; whether they are to be seen needs a layout, and is asked after.
SEEN = """
    const [words] = arguments;
    const bare = (text) => text.replace(/\\s+/g, '').toLowerCase();
    const body = document.body;
    return bare(body.textContent).includes(bare(words)) && body.innerText.includes(words);
"""


class Person:
    """Finds things by their words, as a person would, and waits until they are there."""

    def __init__(self, driver: Chrome, address: str) -> None:
        self.driver = driver
        self.address = address

    def until(self, what: Callable[[Chrome], Any], seconds: float = 30) -> Any:
        ignored = [StaleElementReferenceException, ElementClickInterceptedException]
        return WebDriverWait(self.driver, seconds, 0.05, ignored).until(what)

    def goes(self, path: str) -> None:
        """To a page by its path, as a link of the application leads there."""
        self.driver.execute_script(
            "history.pushState({}, '', arguments[0]); dispatchEvent(new PopStateEvent('popstate'))",
            path,
        )

    def text(self) -> str:
        return str(self.driver.execute_script("return document.body.innerText"))

    def sees(self, words: str, seconds: float = 30) -> None:
        """Wait until these words stand on the page; the failure shows what stood there instead."""
        try:
            self.until(lambda d: d.execute_script(SEEN, words), seconds)
        except Exception as error:
            raise AssertionError(f"never saw “{words}” on:\n{self.text()[:3000]}") from error

    def waits(self) -> None:
        """Until nothing more is fetched for the page."""
        self.until(lambda d: not d.execute_script(SEEN, "Fetching"))

    def _labelled(self, label: str, within: str) -> WebElement:
        script = """
            const [label, within] = arguments;
            const named = (e) => (e.getAttribute('aria-label') || e.innerText || '').trim();
            const found = [...document.querySelectorAll(within)];
            const all = found.filter((e) => !e.disabled && e.offsetParent);
            const begun = all.find((e) => named(e).startsWith(label));
            return all.find((e) => named(e) === label) || begun || null;
        """
        return self.until(lambda d: d.execute_script(script, label, within))

    def press(self, label: str, what: str = "button, a, [role=button]") -> None:
        """Press a button, link or choice by its words."""

        def click(_: Chrome) -> bool:
            element = self._labelled(label, what)
            return self._stands_still(element) and element.click() is None

        self.until(click)

    def _stands_still(self, element: WebElement) -> bool:
        """Bring it into view; whether it stays where it is for two frames. Nobody presses what is
        just moving away under the finger.
        """
        script = """
            const [element, done] = arguments;
            element.scrollIntoView({block: 'center'});
            const at = () => JSON.stringify(element.getBoundingClientRect());
            const before = at();
            const after = () => done(element.isConnected && at() === before);
            requestAnimationFrame(() => requestAnimationFrame(after));
        """
        return bool(self.driver.execute_async_script(script, element))

    def field(self, label: str) -> WebElement:
        script = """
            const begins = (l) => l.innerText.trim().startsWith(arguments[0]);
            const labels = [...document.querySelectorAll('label')];
            const label = labels.find((l) => begins(l) && l.htmlFor);
            return label ? document.getElementById(label.htmlFor) : null;
        """
        return self.until(lambda d: d.execute_script(script, label))

    def types(self, label: str, text: str) -> None:
        def type_it(_: Chrome) -> bool:
            element = self.field(label)
            self.driver.execute_script("arguments[0].scrollIntoView({block: 'center'})", element)
            element.send_keys(Keys.CONTROL, "a")
            element.send_keys(text)
            return True

        self.until(type_it)  # again when the page was drawn anew under the fingers

    def option(self, group: str, option: str) -> WebElement | None:
        """One of a group of answers, if it is there."""
        script = """
            const [group, option] = arguments;
            const groups = [...document.querySelectorAll('[role=radiogroup]')];
            const named = (g) => document.getElementById(g.getAttribute('aria-labelledby')) || {};
            const found = groups.find((g) => named(g).innerText === group);
            const labels = found ? [...found.querySelectorAll('label')] : [];
            return labels.find((l) => l.innerText.trim() === option) || null;
        """

        return self.driver.execute_script(script, group, option)

    def chooses(self, group: str, option: str) -> None:
        """Choose one of a group of answers."""

        def click(_: Chrome) -> bool:
            element = self.option(group, option)
            if element is None or not self._stands_still(element):
                return False
            element.click()
            return True

        self.until(click)

    def signs_in(self, login: str, password: str = "saltmere") -> None:
        self.driver.get(self.address)
        self.types("Login", login)
        self.types("Password", password)
        self.press("Sign in")
        self.sees("Units")

    def fetches(self, path: str) -> Any:
        """What the application's own page would get from the server."""
        script = """
            const [path, done] = arguments;
            fetch(path).then((r) => r.json().then((body) => done([r.status, body])));
        """

        def answered(driver: Chrome) -> list[Any]:
            """Asked again, as a page does, while a part of the server is just being replaced."""
            status, body = driver.execute_async_script(script, path)
            return [] if status in (502, 503, 504) else [body]

        return self.until(answered)[0]

    def violations(self, theme: str = "daylight", *, is_bench: bool = False) -> list[str]:
        """What axe finds wrong with the page as it stands, a line each. Under the lamp only the
        colours are other: the rest was looked at by daylight. The bench is read at arm's length:
        its words stand out more.
        """
        self.driver.execute_script(AXE.read_text(encoding="utf-8"))
        script = """
            const [theme, isBench, done] = arguments;
            const colours = ['color-contrast', ...(isBench ? ['color-contrast-enhanced'] : [])];
            const only = theme === 'lamp' ? { runOnly: colours } : {
                rules: { 'color-contrast-enhanced': { enabled: isBench } },
            };
            axe.run(document, { iframes: false, ...only }).then((r) => done(r.violations));
        """
        found = self.driver.execute_async_script(script, theme, is_bench)
        return [
            f"{v['id']}: {n['html'][:160]} {n['any'][0]['message'] if n['any'] else ''}"
            for v in found
            for n in v["nodes"]
        ]

    def overflows(self) -> bool:
        """Whether the page scrolls sideways."""
        return bool(
            self.driver.execute_script(
                "return document.documentElement.scrollWidth > window.innerWidth + 1"
            )
        )

    def looks(self, about: str, *wanted: Any) -> list[str]:
        """What one of the looks at the page (``looks.js``) finds wrong with it, a line each."""
        script = f"{LOOKS.read_text(encoding='utf-8')}; return {about}(...arguments)"
        return list(self.driver.execute_script(script, *wanted))

    def console_errors(self) -> list[str]:
        """Errors of the page's own code; an answer the server refused is not one."""
        logged = self.driver.get_log("browser")  # type: ignore[no-untyped-call]
        return [
            e["message"]
            for e in logged
            if e["level"] == "SEVERE" and "Failed to load resource" not in e["message"]
        ]
