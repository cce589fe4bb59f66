"""Two cooks, one device: whoever is not signed in leaves nothing that can be read; unsent events wait for their own cook."""

from __future__ import annotations

import json
from typing import Any
from unittest.mock import patch

from django.contrib.auth.models import User
from django.contrib.sessions.models import Session
from django.test import Client
from django.utils import timezone
from selenium.webdriver.common.by import By

from bakes.models import Bake
from bakes.tests.fewer import fewer_draws
from demo.loading import demo_data
from e2e.story import StoryCase
from events.models import Event
from kitchen.models import Kitchen
from plans.models import Plan

MATE, PASSWORD = "mate@skerry-light.example", "a-long-way-out"

# Everything that a page can leave behind in this browser, as text.
LEFT = """
const done = arguments[0];
const text = (value) => JSON.stringify(value, (_, part) =>
  part instanceof Uint8Array ? '<' + part.length + ' bytes>' + new TextDecoder('latin1').decode(part) : part) ?? '';
const all = (request) => new Promise((resolve) => { request.onsuccess = () => resolve(request.result); request.onerror = () => resolve([]); });
(async () => {
  const found = [document.documentElement.outerHTML, JSON.stringify({...localStorage}), JSON.stringify({...sessionStorage})];
  for (const {name} of await indexedDB.databases()) {
    const base = await all(indexedDB.open(name));
    for (const store of base.objectStoreNames) found.push(name + ' ' + store + ' ' + text(await all(base.transaction(store).objectStore(store).getAll())));
    base.close();
  }
  for (const name of await caches.keys()) {
    const cache = await caches.open(name);
    for (const request of await cache.keys()) {
      const kind = /text|json|html|javascript/;
      const answer = await cache.match(request);
      if (kind.test(answer.headers.get('content-type') ?? '') && !/assets/.test(request.url)) found.push(request.url + await answer.text());
    }
  }
  done(found);
})();
"""


class TwoCooks(StoryCase):
    def setUp(self) -> None:
        super().setUp()
        self.enterContext(fewer_draws())
        self.keeper = User.objects.get(email=demo_data()["email"])
        self.mate = User.objects.create_user("mate", MATE, PASSWORD)
        Kitchen.objects.create(owner=self.mate, name="The mate's galley")

    def baking(self) -> Bake:
        """The keeper is signed in on the device, with a bake under way on screen."""
        client = Client()
        client.force_login(self.keeper)
        plan = next(plan for plan in Plan.objects.filter(owner=self.keeper, part=False) if plan.question.has_deck and plan.question.fire is None)
        body = {"plan_id": plan.pk, "pizzas": 1, "heat_on_at": timezone.now().isoformat()}
        client.post("/api/bakes", json.dumps(body), content_type="application/json")
        bake = Bake.objects.get()
        self.page.sign_in(demo_data()["email"], demo_data()["password"])
        self.page.one("[aria-label=Views]")
        self.driver.get(f"{self.page.base}/bake/{bake.pk}")
        self.page.one("[data-testid=next]")
        return bake

    def told_offline(self) -> None:
        """A deck reading that the server does not get."""
        self.offline(True)
        self.page.one("#deck-reading").send_keys("190\n")
        self.page.says("kept on this device until")
        self.assertEqual(Event.objects.filter(kind="bake.read").count(), 0)

    def sign_in_page(self) -> None:
        # The account's own page has such a field, too.
        self.page.wait(lambda: not self.driver.find_elements(By.CSS_SELECTOR, "[aria-label=Views]"))
        self.page.one("input[type=password]")

    def assert_nothing_left_of(self, cook: User) -> None:
        """Neither what is shown nor what is stored says anything of this cook."""
        bake = Bake.objects.first()
        theirs = [cook.email, cook.kitchen.name, *([bake.name] if bake and bake.owner_id == cook.pk else []), "deck_c", "bake.read"]
        self.driver.set_script_timeout(20)
        for part in self.driver.execute_async_script(LEFT):
            for word in theirs:
                self.assertNotIn(word, part, part[:300])

    def signed_in_as(self, email: str, password: str) -> None:
        for css, text in (("input[type=email]", email), ("input[type=password]", password)):
            self.page.one(css).clear()
            self.page.one(css).send_keys(text)
        self.page.one("form button[type=submit]").click()
        self.page.one("[aria-label=Views]")

    def test_a_session_that_expired_shows_the_next_cook_nothing_and_loses_nothing(self) -> None:
        self.baking()
        self.told_offline()
        Session.objects.all().delete()
        self.offline(False)
        # The page finds out by itself, and leads to the sign-in at once.
        self.sign_in_page()
        self.page.says("One entry of a cook")
        self.assert_nothing_left_of(self.keeper)
        self.driver.refresh()
        self.sign_in_page()
        self.signed_in_as(MATE, PASSWORD)
        self.page.wait(lambda: "The mate's galley" in self.driver.page_source)
        self.assert_nothing_left_of(self.keeper)
        self.assertEqual(Event.objects.count(), 0, "nothing is sent in the mate's name")
        self.page.texted("nav button", lambda text: text == "Sign out").click()
        self.sign_in_page()
        self.assert_nothing_left_of(self.mate)
        self.signed_in_as(demo_data()["email"], demo_data()["password"])
        self.page.wait(lambda: Event.objects.filter(kind="bake.read", owner=self.keeper, refused="").count() == 1)

    def test_signing_out_works_offline_and_holds(self) -> None:
        self.baking()
        self.told_offline()
        self.page.texted("nav button", lambda text: text == "Sign out").click()
        self.sign_in_page()
        self.assert_nothing_left_of(self.keeper)
        self.assertEqual(Session.objects.count(), 2, "the server has not heard of it yet")
        self.driver.refresh()
        self.sign_in_page()
        self.page.says("You are signed out on this device")
        self.offline(False)
        # The server hears of it as soon as it answers, without anybody's doing.
        self.page.wait(lambda: Session.objects.count() == 1)
        self.driver.refresh()
        self.sign_in_page()

    def test_another_window_that_signs_out_or_in_as_another_locks_this_one(self) -> None:
        bake = self.baking()
        first = self.driver.current_window_handle
        self.driver.switch_to.new_window("tab")
        self.driver.get(self.page.base + "/account")
        self.page.texted("nav button", lambda text: text == "Sign out").click()
        self.sign_in_page()
        self.driver.switch_to.window(first)
        self.sign_in_page()
        self.signed_in_as(demo_data()["email"], demo_data()["password"])
        self.page.one("[data-testid=next]")
        self.assertTrue(self.driver.current_url.endswith(f"/bake/{bake.pk}"), "the same cook goes on where they were")
        # Signed in as the mate without this page's knowledge: the cookie is another's now.
        other = Client()
        other.force_login(self.mate)
        self.driver.delete_cookie("sessionid")
        self.driver.add_cookie({"name": "sessionid", "value": other.cookies["sessionid"].value, "path": "/"})
        self.page.wait(lambda: "The mate's galley" in self.driver.page_source)
        self.assert_nothing_left_of(self.keeper)
        self.assertEqual(Event.objects.filter(owner=self.mate).count(), 0)


class Versions(StoryCase):
    def test_a_page_that_is_older_than_the_server_asks_for_a_reload(self) -> None:
        page = self.signed_in()
        self.assertEqual(self.driver.find_elements(By.CSS_SELECTOR, "[data-testid=new-version]"), [])
        with patch("config.gate.spoken_version", return_value="9.9.9+newer"), patch("config.page.build", return_value="newer"):
            self.driver.find_element(By.CSS_SELECTOR, "a[href='/logbook']").click()
            page.one("[data-testid=new-version]")
            page.texted("[data-testid=new-version] button", lambda text: text == "Reload").click()
            page.one("[aria-label=Views]")
            page.wait(lambda: "newer" in self.driver.page_source)
            self.assertEqual(self.driver.find_elements(By.CSS_SELECTOR, "[data-testid=new-version]"), [])

    def test_an_event_that_is_not_recorded_is_shown_exported_and_discarded(self) -> None:
        page = self.signed_in()
        real: Any = __import__("events.api", fromlist=["KINDS"]).KINDS
        client = Client()
        client.force_login(User.objects.get(email=demo_data()["email"]))
        supper = client.get("/api/timeline").json()[0]["id"]
        self.driver.get(f"{page.base}/timeline/{supper}")
        page.settled()
        with patch("events.api.KINDS", {key: kind for key, kind in real.items() if key != "supper.done"}):
            page.texted("[aria-label='The steps'] button", lambda text: text == "done").click()
            page.says("This kind of entry (supper.done) is not known here")
        self.assertEqual(Event.objects.count(), 0)
        self.driver.refresh()
        page.one("[data-testid=rejected]")
        page.texted("[data-testid=rejected] button", lambda text: text == "Discard").click()
        page.wait(lambda: not self.driver.find_elements(By.CSS_SELECTOR, "[data-testid=rejected]"))
        page.texted("button", lambda text: text == "Undo").click()
        page.one("[data-testid=rejected]")
