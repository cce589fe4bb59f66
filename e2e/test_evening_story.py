"""A whole evening of three pizzas on a phone, baked by a hidden oven twenty times as fast: the server killed, no line, a reload, a second device, sleep."""

from __future__ import annotations

import os
import re
import time
from datetime import timedelta
from pathlib import Path
from typing import Any
from unittest import TestCase

from selenium.webdriver import Chrome
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from demo.evening import Evening, begun
from e2e.browser import browser
from e2e.soak.served import Api, served
from e2e.story import Page
from e2e.test_phone_story import too_small

SPEED = 24.0
# The evening is entered so long after its heat went on, min.
ENTERED_MIN = 40.0
CRUST_L = (82, 76, 70, 64, 58, 52, 46, 38)


class Through:
    """A page's doors, by the API of a served Mattone."""

    def __init__(self, api: Api) -> None:
        self.api, self.base = api, api.base

    def ask(self, method: str, path: str, body: object = None) -> dict[str, Any]:
        return dict(self.api.call(method, path, body))


# When the next thing is to be done, after what it is.
TIMED = re.compile(r" (?:now|due since|in \d)[\s\S]*$")


class WholeEvening(TestCase):
    def setUp(self) -> None:
        self.one = self.enterContext(served())
        self.session = self.one.sessions(0)[0]
        self.one.serve()
        self.api = Api(self.one.port, self.session)
        plan = next(row for row in self.api.call("GET", "/api/plans") if "steel" in row["support"])
        self.evening: Evening = begun(Through(self.api), {"plan_id": plan["id"]}, speed=SPEED, seed=11, pizzas=3, hands=False, say=lambda _: None)
        self.evening.began -= timedelta(minutes=ENTERED_MIN) / SPEED
        self.driver, self.page = self.device()

    def device(self) -> tuple[Chrome, Page]:
        """A phone with the cook signed in, at the bake."""
        driver = self.enterContext(browser(390, 844))
        page = Page(driver, self.api.base)
        driver.get(self.api.base + "/healthz")
        driver.add_cookie({"name": "sessionid", "value": self.session})
        driver.get(self.evening.address())
        page.one("[data-testid=bake]")
        return driver, page

    def stage(self, stage: str, pizza: int, page: Page | None = None) -> None:
        (page or self.page).one(f"[data-testid=bake][data-stage={stage}][data-pizza='{pizza}']")

    def told(self, kind: str, pizza: int = 1) -> list[dict[str, Any]]:
        happened = self.api.call("GET", f"/api/bakes/{self.evening.bake['id']}")["happened"]
        return [one for one in happened if one["kind"] == f"bake.{kind}" and one["payload"].get("pizza", 1) == pizza]

    def next(self) -> str:
        return self.page.one("[data-testid=next]").text

    def until_pull(self) -> None:
        """What is planned is acknowledged with the keyboard as it comes due, until it is time to pull."""
        end = time.monotonic() + 60
        while "Pull it" not in (told := self.next()):
            self.assertLess(time.monotonic(), end, told)
            if ("due since" in told or "now" in told) and "Look" not in told:
                self.page.one("h1").click()
                self.page.press(Keys.SPACE)
                # Pressed once for each: what is shown next may be the pull.
                what = TIMED.sub("", told)
                self.page.wait(lambda what=what: not self.next().startswith(what), 10)
            time.sleep(0.3)

    def seen(self) -> tuple[int, int]:
        """The swatches of base and rim that an eye would match now."""
        self.evening.step()
        bake = self.evening.bake
        launched = next(one for one in bake["happened"] if one["kind"] == "bake.launched" and one["payload"].get("pizza", 1) == bake["pizza"])
        at = self.evening.now()
        since = self.evening._since_heat_s
        launched_s = since(type(at).fromisoformat(launched["at"]))
        look = self.evening.hidden.look(launched_s, (), since(at) - launched_s)
        base, rim = (min(CRUST_L, key=lambda one, l_star=l_star: abs(one - l_star)) for l_star in (look.base, look.rim))  # type: ignore[misc]
        return base, rim

    def see(self, part: str, l_star: int) -> None:
        self.page.one(f"[data-testid='see-{part}-{l_star}']").send_keys(Keys.ENTER)

    def sound(self, name: str) -> None:
        """The audit is clean, nothing is wider than the phone or too small for a floury finger."""
        self.assertEqual(self.page.findings(), [], name)
        self.assertEqual(too_small(self.driver, "bake"), [], name)
        self.assertLessEqual(self.driver.execute_script("return document.documentElement.scrollWidth"), 390)
        if folder := os.environ.get("MATTONE_LOOK"):
            self.driver.save_screenshot(str(Path(folder) / f"{name}.png"))

    def test_three_pizzas(self) -> None:
        self.first_by_keyboard_with_the_server_killed()
        self.second_without_a_line()
        self.third_with_another_device_and_asleep()
        self.at_the_end()

    def first_by_keyboard_with_the_server_killed(self) -> None:
        page = self.page
        self.stage("heating", 1)
        page.one("#deck-reading").send_keys(f"{self.evening.hidden.read(60.0 * ENTERED_MIN):.0f}", Keys.ENTER)
        # The first answer of a fresh engine, drawn in full beside whatever else the machine does.
        page.wait(lambda: page.has_text("by 1 reading"), 60)
        self.sound("evening-heating")
        page.wait(lambda: "Launch now" in self.next(), 60)
        page.one("h1").click()
        page.press(Keys.SPACE)
        self.stage("baking", 1)
        page.wait(lambda: len(self.told("launched")) == 1)
        page.wait(lambda: "due since" in self.next() or "now" in self.next(), 40)
        page.press(Keys.SPACE)
        page.wait(lambda: len(self.told("done")) == 1)
        base, rim = self.seen()
        self.see("base", base)
        self.see("rim", rim)
        page.wait(lambda: len(self.told("seen")) == 2)
        self.driver.refresh()
        self.stage("baking", 1)
        self.one.kill_server()
        self.see("cheese", 78)
        page.says("kept on this device")
        self.one.serve()
        page.wait(lambda: len(self.told("seen")) == 3, 30)
        self.until_pull()
        page.one("h1").click()
        page.press(Keys.SPACE)
        self.stage("heating", 2)
        page.wait(lambda: len(self.told("pulled")) == 1)

    def second_without_a_line(self) -> None:
        page = self.page
        # A server that began anew answers from a fresh engine.
        page.wait(lambda: page.has_text("wanted"), 60)
        # What was told reached the server; whether its answer came before the line went does not matter.
        time.sleep(1.0)
        self.driver.set_network_conditions(offline=True, latency=0, throughput=0)
        page.texted("button", lambda told: told.startswith("Launched")).click()
        self.stage("baking", 2)
        page.says("by the plan")
        # Opened anew where nobody answers: the page is there, and the bake as it was.
        self.driver.refresh()
        self.stage("baking", 2)
        self.see("base", 70)
        page.wait(lambda: page.one("[data-testid='see-base-70']").get_attribute("aria-pressed") == "true", 2.0)
        page.says("kept on this device")
        self.sound("evening-offline")
        self.until_pull()
        page.button("I pulled it").click()
        self.stage("heating", 3)
        self.assertEqual(self.told("launched", 2), [])
        self.driver.delete_network_conditions()
        page.wait(lambda: len(self.told("pulled", 2)) == 1, 30)
        self.assertEqual((len(self.told("launched", 2)), len(self.told("seen", 2))), (1, 1))

    def third_with_another_device_and_asleep(self) -> None:
        other, there = self.device()
        self.stage("heating", 3, there)
        there.texted("button", lambda told: told.startswith("Launched")).click()
        self.stage("baking", 3)
        page = self.page
        # Asleep over what comes due: it says so, and since when.
        page.wait(lambda: self.next())
        self.driver.execute_cdp_cmd("Page.setWebLifecycleState", {"state": "frozen"})
        end = time.monotonic() + 30
        while "due since" not in there.one("[data-testid=next]").text and time.monotonic() < end:
            time.sleep(0.3)
        time.sleep(6.0)
        self.driver.execute_cdp_cmd("Page.setWebLifecycleState", {"state": "active"})
        page.says("while the phone slept")
        there.wait(lambda: "Pull it" in there.one("[data-testid=next]").text or there.one("main").text.count("Leave it out") == 1, 40)
        there.button("I pulled it").click()
        self.stage("pulled", 3, there)
        there.wait(lambda: len(self.told("pulled", 3)) == 1)
        self.stage("pulled", 3)
        other.quit()

    def at_the_end(self) -> None:
        page = self.page
        page.button("End this bake").click()
        self.stage("ended", 3)
        for pizza in (1, 2, 3):
            page.says(f"Pizza {pizza}")
        self.sound("evening-log")
        page.wait(lambda: len(self.told("ended")) == 1)
        self.assertEqual([self.driver.find_elements(By.CSS_SELECTOR, "[role=alert]"), len(self.told("launched", 3)), len(self.told("pulled", 3))], [[], 1, 1])
