"""Kitchen and Match in the real browser: own things, see what they can do, take one to a plan."""

from __future__ import annotations

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from demo.loading import demo_log
from e2e.browser import PASTE, resize
from e2e.story import StoryCase


class KitchenStory(StoryCase):
    def test_add_change_retire_and_bring_back(self) -> None:
        page = self.signed_in()
        page.press("1")
        page.one("[data-thing='10 mm steel']")
        self.audit("kitchen")
        page.button("Add a surface").click()
        page.button("30 mm firebrick").click()
        page.one("[data-thing='30 mm firebrick'][aria-pressed=true]")
        width = page.one("input[aria-label='width, cm']")
        width.send_keys(Keys.BACKSPACE * 4, "wide")
        page.wait(lambda: page.has_text("Give a number."))
        width.send_keys(Keys.BACKSPACE * 4, "300", Keys.ENTER)
        page.wait(lambda: page.has_text("120"))
        self.assertEqual(width.get_attribute("value"), "300")
        width.send_keys(Keys.BACKSPACE * 4, "60", Keys.ENTER)
        page.wait(lambda: page.has_text("Measure the rack of the kitchen oven and enter its size"))
        page.button("Retire").click()
        page.wait(lambda: not self.driver.find_elements(By.CSS_SELECTOR, "[data-thing='30 mm firebrick']"))
        page.button("Undo").click()
        page.one("[data-thing='30 mm firebrick']")
        # It is all still there after a reload.
        self.driver.refresh()
        page.one("[data-thing='30 mm firebrick']")
        page.wait(lambda: page.has_text("Measure the rack of the kitchen oven and enter its size"))
        self.assertEqual([line for line in self.console() if "422" not in line], [])

    def test_a_cook_of_fahrenheit_and_inches_types_in_them_and_loses_no_edit(self) -> None:
        page = self.signed_in()
        page.press("1")
        page.one("[data-thing='kitchen oven']").click()
        dial = page.one("input[aria-label='dial goes to, °C']")
        self.assertEqual(dial.get_attribute("value"), "275")
        for unit in ("°C", "g", "cm", "l"):
            page.texted("[aria-label=Units] button", lambda text, unit=unit: text == unit).click()  # type: ignore[misc]
        dial = page.one("input[aria-label='dial goes to, °F']")
        self.assertEqual(dial.get_attribute("value"), "527")
        dial.send_keys(Keys.BACKSPACE * 4, "400")
        # Another thing is looked at, and the page reloaded: what was typed is there.
        page.one("[data-thing='thin tray']").click()
        page.one("input[aria-label='width, in']")
        self.driver.refresh()
        page.one("[data-thing='kitchen oven']").click()
        page.wait(lambda: page.one("input[aria-label='dial goes to, °F']").get_attribute("value") == "400")
        self.assertTrue(page.has_text("changed, not kept yet"))
        page.button("Keep").click()
        page.wait(lambda: "to 400 °F" in page.one("[data-thing='kitchen oven']").text)
        self.assertFalse(page.has_text("changed, not kept yet"))
        # What is refused is said in the same units.
        dial = page.one("input[aria-label='dial goes to, °F']")
        dial.send_keys(Keys.BACKSPACE * 4, "4000", Keys.ENTER)
        page.wait(lambda: page.has_text("is too high; give 1022 °F or less"))
        page.button("As it was").click()
        page.wait(lambda: page.one("input[aria-label='dial goes to, °F']").get_attribute("value") == "400")
        # A round has one size, an oval two; and there can be two of it.
        page.one("[data-thing='cast-iron pan']").click()
        across = page.one("input[aria-label='diameter, in']")
        across.send_keys(Keys.BACKSPACE * 6, "12")
        self.assertEqual(page.one("input[aria-label='across it (an oval), in']").get_attribute("value"), "12")
        many = page.one("input[aria-label='how many of them']")
        many.send_keys(Keys.BACKSPACE * 2, "2", Keys.ENTER)
        page.wait(lambda: "2 of them, 12 in across" in page.one("[data-thing='cast-iron pan']").text)
        # On a phone the form is gone to.
        resize(self.driver, 390, 844)
        page.one("[data-thing='hob']").click()
        page.wait(lambda: self.driver.switch_to.active_element.text.startswith("hob"))
        self.assertEqual([line for line in self.console() if "422" not in line], [])

    def test_from_the_board_to_a_plan_by_keyboard(self) -> None:
        page = self.signed_in()
        page.press("2")
        page.one("[data-cell='home_oven_round 10 mm steel']")
        self.audit("match")
        page.one("[data-cell='home_oven_round 10 mm steel']").click()
        for key in (Keys.ARROW_RIGHT, Keys.ARROW_DOWN):
            self.driver.switch_to.active_element.send_keys(key)
        here = self.driver.switch_to.active_element
        self.assertEqual(here.get_attribute("data-cell"), "new_york 15 mm round stone")
        word = str(here.get_attribute("aria-label")).split(",")[0].split(" ", 1)[1]
        here.send_keys(Keys.ENTER)
        page.settled()
        # Opened it is called what the board called it.
        page.wait(lambda: page.has_text(word))
        self.assertIn("New York-style", page.one("[data-part=style]").text)
        self.assertIn("15 mm round stone", page.one("[data-part=surface]").text)

    def test_a_pan_style_takes_a_pan_and_leaves_it_again(self) -> None:
        page = self.signed_in()
        page.pick("style", "tall square pan")
        page.settled()
        # What the style is made on comes first.
        self.assertIn("tall dark pan", page.one("[data-part=surface]").text)
        page.pick("surface", "tall dark pan on the 10 mm steel")
        page.settled()
        page.wait(lambda: page.has_text("pan on deck"))
        page.pick("style", "New York-style")
        page.settled()
        self.assertEqual(page.one("[data-part=surface]").text.rstrip("!"), "10 mm steel")

    def test_a_log_calibrates_the_oven_and_is_rolled_back(self) -> None:
        page = self.signed_in()
        page.press("1")
        page.one("[data-thing='kitchen oven']").click()
        page.texted("a", lambda text: text == "Does the dial tell the truth?").click()
        page.says("Nobody has measured this oven yet")
        log = page.one("textarea[aria-label='the log']")
        log.send_keys("minutes,deck\n0,20\n1,warm\n2,30")
        page.button("Read the log").click()
        page.wait(lambda: page.has_text("Line 3"))
        # What was pasted outlives a reload, in a view with an address of its own.
        self.driver.refresh()
        log = page.one("textarea[aria-label='the log']")
        self.assertIn("warm", log.get_attribute("value") or "")
        log.clear()
        self.driver.execute_script(PASTE, log, demo_log())
        page.button("Read the log").click()
        page.wait(lambda: page.has_text("14 °C cooler"))
        self.audit("calibrate")
        page.button("Use it").click()
        page.button("roll back").click()
        page.wait(lambda: not self.driver.find_elements(By.CSS_SELECTOR, "[aria-label='Calibrations in use']"))
        page.texted("a", lambda text: text == "back to the kitchen").click()
        page.one("[data-thing='kitchen oven']")
        # A thing that is not there, or that has no dial, has no such view.
        for no_such in ("dial/999999", "dial/x", "instrument/999999"):
            self.driver.get(f"{page.base}/kitchen/{no_such}")
            page.one("[data-thing='kitchen oven']")
        self.assertEqual([line for line in self.console() if "422" not in line], [])
