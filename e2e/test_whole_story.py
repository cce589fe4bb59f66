"""From a fresh account to a printed card: the kitchen, its dial, the board, a plan and its variants, a row."""

from __future__ import annotations

import json
import tempfile
import time
from datetime import UTC, datetime
from pathlib import Path

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.support.ui import Select

from demo.loading import demo_log
from demo.stand_in import send
from e2e.browser import PASTE
from e2e.story import Page, StoryCase

MAKE_TOKEN = """
const done = arguments[0];
const csrf = document.cookie.match(/csrftoken=([^;]+)/)[1];
fetch('/api/kitchen').then((r) => r.json()).then((kitchen) => fetch('/api/live/tokens', {
  method: 'POST', headers: {'Content-Type': 'application/json', 'X-CSRFToken': csrf},
  body: JSON.stringify({instrument_id: kitchen.instruments.find((i) => i.kind === 'wireless').id}),
})).then((r) => r.json()).then((made) => done(made.secret));
"""


class WholeStory(StoryCase):
    def fresh(self) -> Page:
        """A new account, in its empty kitchen."""
        page = self.page
        self.driver.get(self.live_server_url + "/")
        page.button("New here: open a kitchen").click()
        page.one("input[type=email]").send_keys("mate@skerry-light.example")
        page.one("input[type=password]").send_keys("lamp-oil-and-rope", Keys.ENTER)
        page.wait(lambda: page.has_text("Nothing in this kitchen yet"))
        page.press("1")
        page.wait(lambda: page.has_text("Add what you own"))
        return page

    def add(self, shelf: str, thing: str) -> None:
        """By keyboard alone: the shelf's button, then the thing in its list."""
        button = self.page.button(shelf)
        button.send_keys(Keys.ENTER)
        self.page.button(thing).send_keys(Keys.ENTER)
        self.page.one(f"[data-thing='{thing}'][aria-pressed=true]")

    def test_from_nothing_to_a_printed_card(self) -> None:
        began = time.monotonic()
        page = self.fresh()
        for shelf, thing in (("Add a hearth", "electric oven"), ("Add a surface", "15 mm stone"), ("Add a surface", "10 mm steel"), ("Add a pan", "thin tray")):
            self.add(shelf, thing)
        self.assertLess(time.monotonic() - began, 120)
        # The dial lies: its log tells.
        page.one("[data-thing='electric oven']").click()
        page.texted("a", lambda text: text == "Does the dial tell the truth?").send_keys(Keys.ENTER)
        log = page.one("textarea[aria-label='the log']")
        self.driver.execute_script(PASTE, log, demo_log())
        Select(page.one("select[aria-label='what was in the oven']")).select_by_visible_text("10 mm steel")
        page.button("Read the log").click()
        page.wait(lambda: page.has_text("cooler"))
        page.button("Use it").click()
        page.one("[aria-label='Calibrations in use'] li")
        page.texted("a", lambda text: text == "back to the kitchen").send_keys(Keys.ENTER)
        page.wait(lambda: page.has_text("measured"))
        # The board, by keyboard, to a plan that says what it stands on.
        page.press("2")
        page.one("[data-cell='home_oven_round 10 mm steel']").click()
        self.driver.switch_to.active_element.send_keys(Keys.ENTER)
        page.settled()
        self.why("measured, not guessed")
        # A method by the picker, then by a flag.
        page.pick("method", "shield")
        page.settled()
        page.wait(lambda: page.has_text("Empty sheet onto the level above"))
        shield = page.one("[data-testid=flag-shield-on]")
        before = int(shield.get_attribute("aria-valuenow") or 0)
        shield.send_keys(Keys.ARROW_LEFT * 4)
        page.settled()
        self.assertEqual(int(page.one("[data-testid=flag-shield-on]").get_attribute("aria-valuenow") or 0), before - 20)
        # Two variants on one axis, with only what differs.
        page.one("main").click()
        page.press("p")
        page.one("[data-testid=pins] [data-pin]")
        page.pick("method", "what Mattone would choose")
        page.settled()
        page.one("main").click()
        page.press("p")
        page.wait(lambda: len(self.driver.find_elements(By.CSS_SELECTOR, "[data-testid=pins] [data-pin]")) == 2)
        pinned = page.one("[data-testid=pins]").text
        self.assertIn("shield", pinned)
        self.assertNotIn("preheat 40", pinned.replace("preheat 40 min preheat", ""))
        self.audit("pins")
        # Pins outlive a reload.
        self.driver.refresh()
        page.settled()
        page.button("Compare 2").click()
        page.wait(lambda: len(self.driver.find_elements(By.CSS_SELECTOR, "[data-pin]")) == 2)
        page.button("Back to the strip").click()
        # Four in a row.
        self.tab("In a row")
        page.one("[data-row=now] ol li:nth-child(4)")
        self.assertIn("Number 4 against the first", page.one("[data-testid=row-said]").text)
        # Nothing is printed but the card.
        self.driver.execute_script("window.printed = 0; window.print = () => { window.printed += 1; }")
        page.button("print").click()
        self.assertEqual(self.driver.execute_script("return window.printed"), 1)
        self.assertEqual(self.console(), [])

    def tab(self, name: str) -> None:
        next(t for t in self.driver.find_elements(By.CSS_SELECTOR, "[role=tab]") if t.text == name).click()

    def why(self, text: str) -> None:
        self.tab("Why")
        self.page.wait(lambda: self.page.has_text(text))
        self.tab("The card")

    def test_every_hearth_has_its_section_and_is_audited(self) -> None:
        page = self.signed_in()
        for style, hearth, lever in (("Neapolitan-style", "borrowed flame oven", "flame"), ("grilled", "lee-wall grill", "lift")):
            page.pick("hearth", hearth)
            page.settled()
            page.pick("style", style)
            page.settled()
            handle = page.one(f"[data-testid={lever}]")
            before = handle.get_attribute("aria-valuenow")
            handle.send_keys(Keys.ARROW_DOWN if lever == "flame" else Keys.ARROW_UP)
            page.settled()
            page.wait(lambda lever=lever, before=before: page.one(f"[data-testid={lever}]").get_attribute("aria-valuenow") != before)
            page.one("[data-testid=floor]").send_keys(Keys.ARROW_DOWN)
            page.settled()
            page.wait(lambda: page.has_text("utdoors only"))
            self.audit(hearth)
        self.assertEqual(self.console(), [])

    def test_a_kitchen_changed_in_two_windows_tells_the_second(self) -> None:
        page = self.signed_in()
        page.press("1")
        page.one("[data-thing='kitchen oven']").click()
        first = self.driver.current_window_handle
        levels = page.one("input[aria-label='rack levels']")
        self.driver.switch_to.new_window("tab")
        self.driver.get(self.live_server_url + "/kitchen")
        page.one("[data-thing='kitchen oven']").click()
        page.one("input[aria-label='rack levels']").send_keys(Keys.BACKSPACE, "4")
        page.button("Keep").click()
        page.wait(lambda: page.has_text("4 levels"))
        self.driver.switch_to.window(first)
        levels.send_keys(Keys.BACKSPACE, "3")
        page.button("Keep").click()
        page.wait(lambda: page.has_text("changed in another window"))
        # Both versions stand side by side; the other is taken.
        page.button("Take the other").click()
        page.wait(lambda: page.one("input[aria-label='rack levels']").get_attribute("value") == "4")

    def test_a_kitchen_goes_out_and_comes_in_with_clashes_told(self) -> None:
        page = self.signed_in()
        page.press("1")
        page.one("[data-thing='kitchen oven']")
        told = self.driver.execute_async_script("const done = arguments[0]; fetch('/api/exchange/export').then((r) => r.text()).then(done);")
        folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        whole, newer, torn = folder / "kitchen.json", folder / "newer.json", folder / "torn.json"
        whole.write_text(told, encoding="utf-8")
        newer.write_text(json.dumps(json.loads(told) | {"version": 9}), encoding="utf-8")
        torn.write_text(told[:200], encoding="utf-8")
        picker = self.driver.find_element(By.CSS_SELECTOR, "input[type=file][accept*=json]")
        picker.send_keys(str(torn))
        page.wait(lambda: page.has_text("not whole JSON"))
        picker.send_keys(str(newer))
        page.wait(lambda: page.has_text("newer Mattone"))
        picker.send_keys(str(whole))
        page.wait(lambda: page.has_text("Already here"))
        page.button("leave those out").click()
        page.wait(lambda: page.has_text("were here already"))
        self.assertEqual(len(self.driver.find_elements(By.CSS_SELECTOR, "[data-thing='kitchen oven']")), 1)

    def test_an_own_style_is_made_and_stands_on_the_board(self) -> None:
        page = self.signed_in()
        page.press("2")
        page.one("[data-cell='new_york 10 mm steel']").click()
        page.texted("a", lambda text: text == "make a style of my own from this").click()
        name = page.one("input[aria-label='name of the style']")
        name.send_keys(Keys.CONTROL, "a")
        name.send_keys("harbour round")
        dough = page.one("input[aria-label='dough for one']")
        dough.send_keys(Keys.CONTROL, "a")
        dough.send_keys("9000")
        page.says("from 40 to 4000")
        dough.send_keys(Keys.CONTROL, "a")
        said = page.one("[data-testid=style-said]").text
        dough.send_keys("3900", Keys.TAB)
        page.wait(lambda: page.one("[data-testid=style-said]").text != said)
        # More than a base can hold is refused by the server, and nothing typed is lost by a reload.
        page.button("Keep it as my own").click()
        page.says("Change one of the two")
        self.driver.refresh()
        self.assertEqual(page.one("input[aria-label='name of the style']").get_attribute("value"), "harbour round")
        dough = page.one("input[aria-label='dough for one']")
        dough.send_keys(Keys.CONTROL, "a")
        dough.send_keys("310")
        # Its colours by tap; the crust drawn and said follows.
        page.one("[data-testid='see-base-46']").click()
        page.wait(lambda: "base brown" in page.one("[data-testid=style-said]").text)
        self.audit("a style")
        page.button("Keep it as my own").click()
        page.button("Kept")
        self.assertRegex(self.driver.current_url, r"/match/style/own-\d+$")
        # What is put aside can be had back; a style that is none leads to the board.
        page.one("[data-testid='see-rim-82']").click()
        page.button("Leave it").click()
        page.button("Undo").click()
        page.wait(lambda: "rim pale" in page.one("[data-testid=style-said]").text)
        page.button("Leave it").click()
        self.driver.get(page.base + "/match/style/own-999999")
        page.wait(lambda: self.driver.find_elements(By.CSS_SELECTOR, "[data-cell^='own-']"))
        self.driver.find_elements(By.CSS_SELECTOR, "[data-cell^='own-']")[0].send_keys(Keys.ENTER)
        page.settled()
        self.assertIn("Harbour round", page.one("[data-part=style]").text)

    def test_a_token_is_made_shown_once_and_revoked(self) -> None:
        page = self.signed_in()
        page.press("1")
        page.one("[data-thing='lamp-room sender']").click()
        page.texted("a", lambda text: text == "What it says, and its tokens").click()
        page.button("Make a token").click()
        secret = page.one("[data-testid=secret]").text
        self.assertTrue(secret.startswith("mtn_") and len(secret) > 40)
        self.driver.refresh()
        page.wait(lambda: page.has_text("not used yet"))
        self.assertNotIn(secret, self.driver.page_source)
        self.audit("live")
        # A reading that a device sends is drawn without asking.
        page.wait(lambda: self.driver.find_elements(By.CSS_SELECTOR, "[data-live=open]"))
        made = self.driver.execute_async_script(MAKE_TOKEN)
        send(self.live_server_url, made, [{"at": datetime.now(UTC).isoformat(), "deck_c": 123.0}])
        page.wait(lambda: page.has_text("123 °C"))
        for button in self.driver.find_elements(By.CSS_SELECTOR, "[aria-label^='Revoke the token']"):
            button.click()
        page.wait(lambda: not page.has_text("not used yet"))
