"""What the stories share: a page as a cook uses it, on the demo kitchen."""

from __future__ import annotations

import contextlib
import os
import time
from collections.abc import Callable
from pathlib import Path
from typing import Any, ClassVar, cast

from django.contrib.staticfiles.testing import StaticLiveServerTestCase
from django.core.management.base import CommandError
from django.db import OperationalError
from django.test import Client
from selenium.common.exceptions import ElementClickInterceptedException, ElementNotInteractableException, StaleElementReferenceException, TimeoutException
from selenium.webdriver import ActionChains, Chrome
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement

from demo.loading import demo_data, load_demo
from e2e.asgi import AsgiThread
from e2e.browser import browser, emptied

AXE = Path(__file__).resolve().parents[1] / "web" / "node_modules" / "axe-core" / "axe.min.js"


AUDIT = """
const done = arguments[0];
const told = (v) => v.id + ': ' + v.nodes.map((n) => n.html.slice(0, 120) + ' ' + n.failureSummary).join(' | ');
axe.run(document, {resultTypes: ['violations']}).then((r) => done(r.violations.map(told)));
"""


# What is read off the page in one question, where asking each thing by itself would take one for each.
TEXTS = """
return [...document.querySelectorAll(arguments[0])].map((e) => [e, e.checkVisibility({visibilityProperty: true}) ? e.innerText.trim() : '']);
"""
TEXT = "return arguments[0].checkVisibility({visibilityProperty: true}) ? arguments[0].innerText.trim() : ''"
HAS_TEXT = "return document.body.innerText.includes(arguments[0])"
# Of what a field holds the property is true, of all else the attribute where there is one.
ATTRIBUTE = """
const [e, name] = arguments;
return name === 'value' || !e.hasAttribute(name) ? (e[name] ?? null) : e.getAttribute(name);
"""

PATIENCE_S = 20.0
# Asking costs the page and the drivers time that an answer needs: the longer it takes, the less often.
FIRST_PAUSE_S, LONGEST_PAUSE_S = 0.04, 0.4
# What passes by itself: the page was drawn anew under the hand, something lies over it for a moment, it is not there yet.
PASSING = (StaleElementReferenceException, ElementClickInterceptedException, ElementNotInteractableException)


class Shown(WebElement):
    """What is shown at a place, whichever element that is now: found again when the page has drawn it anew, tried again when it was not ready."""

    def __init__(self, found: WebElement, again: Callable[[], WebElement]) -> None:
        super().__init__(found._parent, found._id)
        self._again = again

    def _insist(self, act: Callable[[], Any]) -> Any:
        end = time.monotonic() + PATIENCE_S
        while True:
            try:
                return act()
            except PASSING:
                if time.monotonic() > end:
                    raise
                time.sleep(0.05)
                self._id = self._again()._id

    def _execute(self, command: str, params: dict[str, Any] | None = None) -> Any:
        return self._insist(lambda: super(Shown, self)._execute(command, params))  # type: ignore[no-untyped-call]

    def _script(self, script: str, *arguments: object) -> Any:
        return self._insist(lambda: self._parent.execute_script(script, self, *arguments))

    # These three ask the page by a script, past _execute.
    @property
    def text(self) -> str:
        return str(self._script(TEXT))

    def get_attribute(self, name: str) -> str | None:
        return cast(str | None, self._script(ATTRIBUTE, name))

    def is_displayed(self) -> bool:
        return bool(self._insist(lambda: super(Shown, self).is_displayed()))


class Page:
    """What a cook does, in the page's own words."""

    def __init__(self, driver: Chrome, base: str) -> None:
        self.driver, self.base = driver, base

    def wait(self, condition: Any, seconds: float = 20) -> Any:
        end, pause_s = time.monotonic() + seconds, FIRST_PAUSE_S
        while True:
            with contextlib.suppress(*PASSING):
                if found := condition():
                    return found
            if time.monotonic() > end:
                raise TimeoutException(f"not within {seconds:g} s")
            time.sleep(pause_s)
            pause_s = min(1.6 * pause_s, LONGEST_PAUSE_S)

    def one(self, css: str) -> WebElement:
        def find() -> WebElement:
            return cast(WebElement, self.wait(lambda: next(iter(self.driver.find_elements(By.CSS_SELECTOR, css)), None)))

        return Shown(find(), find)

    def has_text(self, text: str) -> bool:
        return bool(self.driver.execute_script(HAS_TEXT, text))

    def sign_in(self, email: str, password: str) -> None:
        self.driver.get(self.base + "/")
        self.one("input[type=email]").send_keys(email)
        self.one("input[type=password]").send_keys(password, Keys.ENTER)

    def settled(self) -> None:
        """Until the newest answer is what is drawn."""
        self.wait(lambda: self.driver.find_elements(By.CSS_SELECTOR, "main[data-played=now]"))

    def level(self) -> int:
        return int(self.one("[data-testid=deck]").get_attribute("aria-valuenow") or 0)

    def pull_s(self) -> float:
        return float(self.one("[data-testid=pull]").get_attribute("aria-valuenow") or 0)

    def glowing(self) -> bool:
        return bool(self.driver.find_elements(By.CSS_SELECTOR, "[data-testid=flag-top-off]"))

    def preheat(self) -> int:
        return int(self.one("[data-testid=heat-on]").get_attribute("aria-valuenow") or 0)

    def press(self, *keys: str) -> None:
        ActionChains(self.driver).send_keys(*keys).perform()

    def pick(self, part: str, choice: str) -> None:
        self.one(f"[data-part='{part}']").click()
        self.texted("[role=option]", lambda text: text.startswith(choice)).click()

    def crust_words(self) -> str:
        return self.one("[aria-label='The slice'] dl").text

    def button(self, text: str) -> WebElement:
        return self.texted("button", lambda told: told == text)

    def texted(self, css: str, right: Callable[[str], bool]) -> WebElement:
        """The first of these that says the right thing."""

        def find() -> WebElement:
            return cast(WebElement, self.wait(lambda: next((found for found, told in self.driver.execute_script(TEXTS, css) if right(told)), None)))

        return Shown(find(), find)

    def findings(self) -> list[str]:
        """What the accessibility audit finds on what is shown now."""
        self.driver.execute_script(AXE.read_text(encoding="utf-8"))
        return list(self.driver.execute_async_script(AUDIT))

    def says(self, text: str) -> None:
        """Until the page says it."""
        self.wait(lambda: self.has_text(text))


def whole_supper(client: Client, supper_id: int) -> dict[str, Any]:
    """A saved supper as a window sends it to be saved again."""
    saved = client.get(f"/api/timeline/{supper_id}").json()
    dough, plan = saved["dough"], saved["plan"]
    return {
        "name": saved["name"],
        "words": saved["words"],
        "dough": dough and {key: dough[key] for key in ("name", "dough", "mixed_at")},
        "plan": plan and {"sentence": plan["sentence"], "controls": plan["result"]["controls"]},
        "supper_id": supper_id,
    }


class StoryCase(StaticLiveServerTestCase):
    """Stories of one class share a browser, emptied after each."""

    server_thread_class = AsgiThread
    driver: ClassVar[Chrome]

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        cls.driver = cls.enterClassContext(browser())

    def setUp(self) -> None:
        load_demo()
        self.addCleanup(emptied, self.driver, self.live_server_url)
        self.page = Page(self.driver, self.live_server_url)

    def _fixture_teardown(self) -> None:
        """The tables emptied; a page that was closed a moment ago may still be answered, and holds some of them until then."""
        for left in (2, 1, 0):
            try:
                super()._fixture_teardown()  # type: ignore[misc]
                return
            except (CommandError, OperationalError):
                if not left:
                    raise
                time.sleep(1.0)

    def signed_in(self) -> Page:
        data = demo_data()
        self.page.sign_in(data["email"], data["password"])
        self.page.one("[data-testid=deck]")
        # A page opens on the next supper; a story begins with a new one.
        self.driver.get(self.live_server_url + "/supper/new/plan")
        self.page.one("[data-testid=deck]")
        self.page.settled()
        return self.page

    def offline(self, away: bool) -> None:
        """Take the device's connection away, or give it back."""
        self.driver.execute_cdp_cmd("Network.enable", {})
        self.driver.execute_cdp_cmd("Network.emulateNetworkConditions", {"offline": away, "latency": 0, "downloadThroughput": -1, "uploadThroughput": -1})

    def look(self, name: str) -> None:
        """A picture for who works on the view."""
        if folder := os.environ.get("MATTONE_LOOK"):
            self.driver.save_screenshot(str(Path(folder) / f"{name}.png"))

    def audit(self, name: str) -> None:
        """No finding of the accessibility audit on what is shown now; a figure that is being worked out again is faint until it is there."""
        self.page.wait(lambda: not self.driver.find_elements(By.CSS_SELECTOR, ".opacity-60"))
        found = self.page.findings()
        self.assertEqual(found, [], f"{name}: {found}"[:3000])

    def _log(self) -> list[dict[str, Any]]:
        return list(self.driver.get_log("browser"))  # type: ignore[no-untyped-call]

    def console(self) -> list[str]:
        """Errors the page logged, but for the question whether anybody is signed in."""
        return [entry["message"] for entry in self._log() if entry["level"] == "SEVERE" and not entry["message"].split(" ")[0].endswith("/api/account")]


# Selenium must not look for a driver of its own.
os.environ.setdefault("SE_OFFLINE", "true")
