"""The shortest way from nothing to paper: an oven, a surface, a recipe somebody sent, and the sheets for the wall."""

from __future__ import annotations

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement

from e2e.browser import PASTE, resize
from e2e.story import StoryCase
from timeline.models import Supper

MOST_ACTIONS = 40
RECIPE = "500 g bread flour\n325 ml water\n10 g salt\n1/2 tsp instant yeast\n1 tbsp olive oil"
# What the page would print is kept, in place of a printer.
PRINTS = "window.printed = 0; window.print = () => { window.printed += 1; };"


class FastestPath(StoryCase):
    """Every click, and every field that is typed or pasted into, is one action."""

    actions = 0

    def click(self, what: WebElement) -> None:
        self.actions += 1
        what.click()

    def types(self, css: str, *keys: str) -> None:
        self.actions += 1
        self.page.one(css).send_keys(*keys)

    def view(self, name: str) -> None:
        self.click(self.page.texted("nav a", lambda text: text.startswith(name)))

    def to_paper(self, narrow: bool) -> None:
        page, self.actions = self.page, 0
        self.driver.get(self.live_server_url + "/")
        if narrow:
            resize(self.driver, 390, 844)
        self.click(page.button("New here: open a kitchen"))
        self.types("input[type=email]", f"mate-{narrow}@skerry-light.example")
        self.types("input[type=password]", "lamp-oil-and-rope", Keys.ENTER)
        page.wait(lambda: page.has_text("Nothing in this kitchen yet"))
        self.view("Kitchen")
        for shelf, thing in (("Add a hearth", "electric oven"), ("Add a surface", "10 mm steel")):
            self.click(page.button(shelf))
            self.click(page.button(thing))
            page.one(f"[data-thing='{thing}'][aria-pressed=true]")
        self.view("Dough")
        self.click(page.texted("[role=tab]", lambda text: text == "Paste a recipe"))
        self.actions += 1
        self.driver.execute_script(PASTE, page.one("[aria-label='A list of ingredients']"), RECIPE)
        self.click(page.button("Read it"))
        self.click(page.texted("button", lambda text: text.startswith("Use it as it is")))
        page.settled()
        self.click(page.one("[data-part=line-where]"))
        self.click(page.texted("[role=option]", lambda text: text.startswith("10 mm steel")))
        self.click(page.one("[data-part=line-when]"))
        self.types("[aria-label='First pizza on the table, day and time']", Keys.CONTROL, "a")
        page.press("sat 19.30", Keys.ENTER)
        page.wait(lambda: "Saturday" in page.one("[data-testid=headline]").text)
        self.click(page.texted("[role=dialog] a", lambda text: text == "all of it, in Timeline"))
        page.one("[aria-label='The sheet']")
        page.settled()
        self.click(page.button("Save"))
        page.button("Saved")
        self.driver.execute_script(PRINTS)
        self.click(page.button("print the sheets"))
        page.wait(lambda: self.driver.execute_script("return window.printed") == 1)
        self.assertLessEqual(self.actions, MOST_ACTIONS)
        supper = Supper.objects.latest("id")
        assert supper.dough is not None and supper.plan is not None and supper.told is not None
        sheet = page.one("[aria-label='The sheet']").get_attribute("textContent") or ""
        for words in ("bread flour", "500", "10 mm steel"):
            self.assertIn(words, sheet)
        self.look(f"fastest-{narrow}")
        self.assertEqual([one for one in self.driver.find_elements(By.CSS_SELECTOR, "[role=alert]") if one.text], [])

    def test_on_a_wide_screen(self) -> None:
        self.to_paper(narrow=False)
        print(f"the fastest path: {self.actions} actions")

    def test_on_a_phone(self) -> None:
        self.to_paper(narrow=True)
