"""One mix with several futures, and a list with parts, in the real browser."""

from __future__ import annotations

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.support.ui import Select

from demo.loading import demo_data
from dough.models import Dough
from e2e.browser import PASTE
from e2e.story import Page, StoryCase
from timeline.models import Supper

PARTS = "Poolish:\n200 g bread flour\n200 g water\n1 g instant yeast\nDough:\n400 g bread flour\n200 g water (105 F)\n9 g salt\nSauce:\n1 can tomatoes"


class WaysStory(StoryCase):
    def test_one_mix_with_several_futures_and_a_list_with_parts(self) -> None:
        self.signed_in()
        dough = Dough.objects.get(name=demo_data()["supper"]["dough"], part=True)
        page = self.gone_to(f"/dough/{dough.pk}")
        page.one("[data-part=pieces]").click()
        page.button("another size from the same dough").click()
        Select(page.one("[aria-label='When piece 2 is baked']")).select_by_visible_text("frozen")
        page.wait(lambda: page.has_text("for a month at most"))
        page.press(Keys.ESCAPE)
        page.texted("button", lambda text: text.startswith("1 ball of") and "frozen" in text).click()
        page.wait(lambda: "freezer" in page.one("[aria-label='Where the dough spends its time']").text)
        self.audit("a way of their own")
        # On paper stands how warm the water is, how the yeast goes in, what holds the dough, and what is frozen.
        sheet = self.driver.execute_script("return document.querySelector('[aria-label=\"Batch sheet\"]').textContent")
        for words in ("Water at", "yeast for the scale", "container of", "freezer at", "for a month at most"):
            self.assertIn(words, sheet)
        page.button("Save").click()
        page.wait(lambda: page.one("button[disabled]") and page.has_text("Saved"))
        # The days tell what is done with it.
        self.gone_to(f"/timeline/{Supper.objects.get(name=demo_data()['supper']['name']).pk}")
        page.one("[aria-label^='Pin ']").click()
        page.wait(lambda: page.has_text("into the freezer"))
        self.assertTrue(page.has_text("when wanted"))

        # A list with a part, temperatures and a sauce: all of it is shown, its own mass is offered.
        self.gone_to(f"/dough/{dough.pk}")
        page.texted("[role=tab]", lambda text: text == "Paste a recipe").click()
        self.driver.execute_script(PASTE, page.one("[aria-label='A list of ingredients']"), PARTS)
        page.button("Read it").click()
        page.wait(lambda: page.has_text("of the poolish"))
        self.assertTrue(page.has_text("wanted at 41 °C"))
        self.assertTrue(page.has_text("not of the dough"))
        page.texted("button", lambda text: text.startswith("Use it as it is, 1010 g")).click()
        page.settled()
        page.wait(lambda: "poolish" in page.one("#sentence").text)
        water = page.one("[data-ingredient='water'] td:nth-of-type(1) input").get_attribute("value")
        self.assertAlmostEqual(float(water or 0), 66.7, delta=0.2)
        # Another list is shown as itself, whatever stood in the rows before.
        self.driver.execute_script(PASTE, page.one("[aria-label='A list of ingredients']"), "300 g rye flour\n210 g milk")
        page.button("Read it").click()
        page.wait(lambda: len(self.driver.find_elements(By.CSS_SELECTOR, "[data-reading]")) == 2)
        self.assertEqual(page.one("[data-reading='0'] input").get_attribute("value"), "300")
        self.assertEqual([line for line in self.console() if "422" not in line], [])

    def gone_to(self, path: str) -> Page:
        self.driver.get(self.page.base + path)
        self.page.settled()
        return self.page
