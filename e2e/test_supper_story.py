"""The supper's line: the same in every view, and changed where it stands."""

from __future__ import annotations

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from e2e.story import Page, StoryCase
from kitchen.models import Surface
from timeline.models import Supper

LINE = "[data-testid=headline]"


class SupperLine(StoryCase):
    def line(self) -> str:
        return self.page.one(LINE).text

    def until(self, *words: str) -> None:
        self.page.wait(lambda: all(one in self.line() for one in words))

    def part(self, key: str) -> None:
        self.page.one(f"[data-part=line-{key}]").click()

    def chosen(self, key: str, name: str) -> None:
        self.part(key)
        self.page.texted("[role=option]", lambda text: text.startswith(name)).click()

    def saved(self, page: Page) -> Supper:
        page.button("Save").click()
        page.button("Saved")
        return Supper.objects.latest("id")

    def test_each_part_is_changed_in_every_view_and_stays(self) -> None:
        page = self.signed_in()
        self.until("No date yet", "10 mm steel")
        pull_s = page.pull_s()
        # When, typed; the rest is as it was.
        self.part("when")
        field = page.one("[aria-label='First pizza on the table, day and time']")
        field.send_keys(Keys.CONTROL, "a")
        field.send_keys("sat 20.15", Keys.ENTER)
        page.press(Keys.ESCAPE)
        self.until("Saturday", "20:15")
        page.settled()
        self.assertEqual(page.pull_s(), pull_s)
        # How many, and of what.
        self.part("what")
        count = page.one("[aria-label=Pizzas]")
        count.send_keys(Keys.CONTROL, "a")
        count.send_keys("3", Keys.ENTER)
        page.press(Keys.ESCAPE)
        self.until("3 of")
        supper = self.saved(page)
        assert supper.words_read is not None and supper.plan is not None
        self.assertEqual((supper.words_read.pizzas, supper.words_read.serve_at[11:16]), (3, "20:15"))
        # In its days: another surface, taken back, and taken.
        self.driver.get(f"{self.page.base}/supper/{supper.pk}/timeline")
        page.settled()
        before = self.line()
        self.chosen("where", "15 mm round stone")
        self.until("15 mm round stone")
        page.button("Undo").click()
        page.wait(lambda: self.line() == before)
        self.chosen("where", "15 mm round stone")
        self.until("15 mm round stone", "3 of", "20:15")
        page.settled()
        supper = self.saved(page)
        assert supper.plan is not None
        self.assertEqual(Surface.objects.get(name="15 mm round stone", owner=supper.owner).pk, supper.plan.said.words.surface_id)
        # In its dough, another style: of its plan, too.
        self.driver.get(f"{self.page.base}/supper/{supper.pk}/dough")
        page.settled()
        self.chosen("what", "New York-style")
        self.until("New York-style", "3 of", "20:15")
        page.settled()
        self.saved(page)
        lines = set()
        for view in ("plan", "dough", "timeline"):
            self.driver.get(f"{self.page.base}/supper/{supper.pk}/{view}")
            page.settled()
            self.audit(f"the line in {view}")
            self.look(f"line-{view}")
            lines.add(self.line())
        page.press("2")
        page.one("[data-cell]")
        lines.add(self.line())
        self.assertEqual(len(lines), 1, lines)
        self.assertEqual(self.console(), [])

    def test_a_cell_of_the_board_goes_into_the_supper_at_hand(self) -> None:
        page = self.signed_in()
        self.part("when")
        page.one("[aria-label='First pizza on the table, day and time']").send_keys(Keys.CONTROL, "a")
        page.press("sat 18.00", Keys.ENTER)
        page.press(Keys.ESCAPE)
        self.until("18:00")
        page.press("2")
        page.one("[data-cell='new_york 15 mm round stone']").click()
        page.button("Bake the supper above on this").click()
        page.settled()
        self.until("New York-style", "15 mm round stone", "18:00")
        self.assertEqual(len(self.driver.find_elements(By.CSS_SELECTOR, LINE)), 1)
