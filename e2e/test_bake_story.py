"""Bake at hand: from a saved plan to the pull, on a phone; a look answered, taken back, kept while the server is away."""

from __future__ import annotations

from datetime import timedelta

from django.contrib.auth.models import User
from django.test import Client
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.support.ui import Select

from bakes.models import Bake
from bakes.tests.fewer import fewer_draws
from demo.loading import demo_data
from e2e.browser import resize
from e2e.story import StoryCase
from events.models import Event
from plans.models import Plan

# What the page does to a device, written down instead.
CALLS = """
window.calls = {lock: [], said: [], tones: [], shaken: []};
Object.defineProperty(navigator, 'wakeLock', {value: {request: async (kind) => {
  window.calls.lock.push(kind);
  return {release: async () => { window.calls.lock.push('released'); }};
}}});
Object.defineProperty(navigator, 'vibrate', {value: (pattern) => { window.calls.shaken.push(String(pattern)); return true; }});
Object.defineProperty(window, 'speechSynthesis', {value: {cancel() {}, speak: (one) => window.calls.said.push(one.text)}});
const start = OscillatorNode.prototype.start;
OscillatorNode.prototype.start = function (at) { window.calls.tones.push(String(at)); return start.call(this, at); };
"""


class BakeStory(StoryCase):
    def setUp(self) -> None:
        super().setUp()
        self.enterContext(fewer_draws())
        resize(self.driver, 390, 844)
        self.cook = User.objects.get(email=demo_data()["email"])

    def started(self) -> Bake:
        """A bake of the plan on the steel, its heat on now."""
        data = demo_data()
        self.page.sign_in(data["email"], data["password"])
        self.page.one("[data-testid=deck]")
        self.begin(1)
        self.page.one("[data-testid=bake][data-stage=heating]")
        self.page.one("[data-testid=next]")
        return Bake.objects.get()

    def begin(self, pizzas: int) -> None:
        """At Bake's door: so many pizzas by the saved plan on the steel."""
        self.driver.get(self.page.base + "/bake")
        name = next(plan.name for plan in Plan.objects.filter(owner=self.cook, part=False) if plan.question.has_deck and plan.question.fire is None)
        self.page.one(f"[aria-label='Heat on now: {name}']")
        Select(self.page.one("main label:nth-of-type(2) select")).select_by_visible_text(str(pizzas))
        self.driver.find_elements(By.CSS_SELECTOR, f"[aria-label='Heat on now: {name}']")[-1].click()

    def passes(self, minutes: float) -> None:
        """So many minutes pass: everything told so far lies that much further back."""
        by = timedelta(minutes=minutes)
        row = Bake.objects.get()
        launched = row.launched_at - by if row.launched_at else None
        Bake.objects.filter(pk=row.pk).update(heat_on_at=row.heat_on_at - by, launched_at=launched)
        for event in Event.objects.all():
            Event.objects.filter(pk=event.pk).update(at=event.at - by)
        self.driver.refresh()
        self.page.one("[data-testid=next]")

    def tap(self, css: str) -> None:
        """As hands do it: scrolled clear of the pull, which is never out of reach."""
        self.page.one(css)
        self.driver.execute_script("document.querySelector(arguments[0]).scrollIntoView({block: 'center'})", css)
        self.page.one(css).click()

    def next(self) -> str:
        return self.page.one("[data-testid=next]").text

    def big(self, css: str, least: float) -> None:
        """Nothing that hands tap there is smaller than that, px."""
        small = [e.text or e.get_attribute("aria-label") for e in self.driver.find_elements(By.CSS_SELECTOR, css) if e.size["height"] < least]
        self.assertEqual(small, [])

    def inside(self) -> None:
        self.assertLessEqual(self.driver.execute_script("return document.documentElement.scrollWidth"), 390)

    def test_an_evening_with_one_pizza(self) -> None:
        bake, page = self.started(), self.page
        self.assertIn("Launch about", self.next())
        self.passes(30)
        page.one("#deck-reading").send_keys("190", Keys.ENTER)
        page.wait(lambda: Event.objects.filter(kind="bake.read").count() == 1)
        page.says("by 1 reading")
        self.inside()
        self.audit("heating")
        self.look("bake-heating")
        page.one("#deck-reading").send_keys("9000", Keys.ENTER)
        page.says("A deck is read between")
        page.texted("button", lambda told: told.startswith("Launched")).click()
        page.one("[data-testid=bake][data-stage=baking]")
        self.passes(2.2)
        page.wait(lambda: "Look" in self.next() or "Turn" in self.next() or "element" in self.next())
        self.big("main button", 44)
        self.tap("[data-testid='see-base-70']")
        page.wait(lambda: page.one("[data-testid='see-base-70']").get_attribute("aria-pressed") == "true", 1.0)
        self.tap("[data-testid='see-rim-58']")
        page.wait(lambda: page.has_text("hard to believe"), 40)
        page.says("so far.")
        self.inside()
        self.audit("baking")
        self.look("bake-baking")
        resize(self.driver, 1280, 800)
        self.look("bake-wide")
        resize(self.driver, 390, 844)
        # With the keyboard: along the swatches, and one tap taken back.
        page.one("[data-testid='see-rim-58']").send_keys(Keys.ARROW_RIGHT, Keys.ENTER)
        page.wait(lambda: Event.objects.filter(kind="bake.seen").count() == 3)
        page.texted("button", lambda told: told.startswith("Take back")).click()
        page.wait(lambda: Event.objects.filter(kind="bake.undone").count() == 1)
        self.driver.execute_script("document.querySelector('summary').click()")
        page.button("one side darker").click()
        first = page.one("[data-testid=do-turn]")
        self.driver.execute_script("arguments[0].scrollIntoView({block: 'center'})", first)
        first.click()
        page.wait(lambda: Event.objects.filter(kind="bake.done").count() >= 1)
        page.button("I pulled it").click()
        page.one("[data-testid=bake][data-stage=pulled]")
        page.says("Rest it on a rack")
        self.audit("resting")
        page.button("End this bake").click()
        page.one("[data-testid=bake][data-stage=ended]")
        page.wait(lambda: Bake.objects.filter(pk=bake.pk, ended_at__isnull=False).exists())
        self.assertEqual([entry for entry in self.console() if "favicon" not in entry], [])

    def test_a_second_device_sees_it_and_may_act_in_it(self) -> None:
        bake, page = self.started(), self.page
        other = Client()
        other.force_login(self.cook)
        self.assertEqual([one["id"] for one in other.get("/api/bakes/under-way").json()], [bake.pk])
        event = {"id": "0b7f6d52-6a1c-4d8f-9c37-3a5b1f0c9e11", "kind": "bake.launched", "subject_id": bake.pk, "at": bake.heat_on_at.isoformat(), "payload": {}}
        other.post("/api/events", {"events": [event]}, content_type="application/json")
        page.one("[data-testid=bake][data-stage=baking]")
        self.driver.get(page.base + "/kitchen")
        page.wait(lambda: "Baking" in page.one("[data-testid=under-way]").text)
        # Its next thing, too, and when.
        page.wait(lambda: any(word in page.one("[data-testid=under-way-next]").text for word in (" in ", " now", " since ")))
        page.one("[data-testid=under-way]").click()
        page.one("[data-testid=bake][data-stage=baking]")
        # Another hearth may be begun beside it; this one not a second time.
        self.begin(1)
        page.says("is under way in the kitchen oven already")
        page.texted("a", lambda told: told.startswith("Back to")).click()
        page.one("[data-testid=bake][data-stage=baking]")
        # Space acknowledges what is due.
        page.wait(lambda: self.next())
        if "Look" not in self.next():
            page.press(Keys.SPACE)
            page.wait(lambda: Event.objects.filter(kind="bake.done").count() == 1)

    def test_it_calls_when_something_is_due_and_keeps_the_screen_on(self) -> None:
        self.driver.execute_cdp_cmd("Page.addScriptToEvaluateOnNewDocument", {"source": CALLS})
        self.started()
        page = self.page

        def called(what: str) -> list[str]:
            return list(self.driver.execute_script(f"return window.calls.{what}"))

        page.texted("button", lambda told: told.startswith("Launched")).click()
        page.one("[data-testid=bake][data-stage=baking]")
        page.wait(lambda: " in " in self.next())
        self.driver.execute_script("document.querySelector('[data-testid=calls]').scrollIntoView({block: 'center'})")
        page.texted("summary", lambda told: told == "How it calls you").click()
        page.texted("label", lambda told: told == "Say it aloud").click()
        minutes, seconds = (int(one) for one in self.next().rsplit(" ", 1)[1].split(":"))
        self.passes(minutes + (seconds - 15.0) / 60.0)
        # A page sounds only after it was touched.
        page.press("x")
        page.wait(lambda: called("lock") == ["screen"])
        page.wait(lambda: called("said"), 40)
        self.assertTrue(self.next().startswith(called("said")[0]), (self.next(), called("said")))
        self.assertTrue(called("tones") and called("shaken"))
        page.button("I pulled it").click()
        page.button("End this bake").click()
        page.wait(lambda: called("lock") == ["screen", "released"])
        # Each thing calls once.
        self.assertEqual(len(called("said")), len(set(called("said"))))

    def test_what_is_tapped_while_the_server_is_away_is_kept_and_told_later(self) -> None:
        self.started()
        page = self.page
        page.texted("button", lambda told: told.startswith("Launched")).click()
        page.one("[data-testid=bake][data-stage=baking]")
        page.one("[data-testid='see-base-76']")
        self.driver.set_network_conditions(offline=True, latency=0, throughput=0)
        self.tap("[data-testid='see-base-76']")
        page.wait(lambda: page.one("[data-testid='see-base-76']").get_attribute("aria-pressed") == "true", 1.0)
        page.says("kept on this device")
        page.button("I pulled it").click()
        page.says("Rest it on a rack")
        self.look("bake-offline")
        self.assertFalse(Event.objects.filter(kind="bake.pulled").exists())
        self.driver.delete_network_conditions()
        page.wait(lambda: Event.objects.filter(kind__in=["bake.seen", "bake.pulled"], refused="").count() == 2)
        page.one("[data-testid=bake][data-stage=pulled]")
