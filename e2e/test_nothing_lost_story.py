"""Nothing lost, nothing blocked: two windows, a server that is away, kitchens that are not the demo's."""

from __future__ import annotations

import json
from typing import Any

from django.contrib.auth.models import User
from django.test import Client
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from demo.loading import demo_data
from dough.models import Dough
from e2e.browser import resize
from e2e.story import StoryCase, whole_supper
from events.models import Event
from kitchen.models import Hearth, Pan, Surface
from timeline.models import Supper

MATE = ("mate@skerry-light.example", "lamp-oil-and-rope")


class TwoWindows(StoryCase):
    def setUp(self) -> None:
        super().setUp()
        self.other = Client()
        self.other.force_login(User.objects.get(email=demo_data()["email"]))

    def elsewhere(self, supper_id: int, **changes: Any) -> dict[str, Any]:
        """Another window saves the supper with these changes."""
        path = f"/api/timeline/{supper_id}"
        version, body = self.other.get(path).json()["version"], whole_supper(self.other, supper_id)
        saved = self.other.put(f"{path}?version={version}", json.dumps(body | changes), content_type="application/json")
        self.assertEqual(saved.status_code, 200, saved.content[:300])
        return dict(saved.json())

    def test_a_plan_changed_in_two_windows_is_shown_twice_and_neither_is_lost(self) -> None:
        page = self.signed_in()
        supper = Supper.objects.get()
        self.driver.get(f"{page.base}/supper/{supper.pk}/plan")
        page.settled()
        page.one("input[aria-label='Name of the supper']").send_keys(Keys.CONTROL, "a")
        page.one("input[aria-label='Name of the supper']").send_keys("Mine, this window")
        page.one("[data-testid=deck]").send_keys(Keys.ARROW_DOWN)
        page.settled()
        self.elsewhere(supper.pk, name="Theirs, the other window")
        # A reload in the middle: the draft knows that it began from the older one.
        self.driver.refresh()
        dialog = page.one("[role=alertdialog]")
        self.assertIn("Theirs, the other window", dialog.text)
        self.assertIn("Mine, this window", dialog.text)
        self.audit("two versions")
        page.button("Keep both: yours as a new one").click()
        page.wait(lambda: Supper.objects.filter(name="Mine, this window, mine").exists())
        names = {row["name"] for row in self.other.get("/api/timeline").json()}
        self.assertTrue({"Theirs, the other window", "Mine, this window, mine"} <= names, names)

    def renamed_in_both(self) -> Supper:
        """A supper that this window calls wetter and another one has saved as saltier, as this one saves it."""
        page = self.signed_in()
        supper = Supper.objects.get()
        self.driver.get(f"{page.base}/supper/{supper.pk}/dough")
        page.settled()
        name = page.one("input[aria-label='Name of the supper']")
        name.send_keys(Keys.CONTROL, "a")
        name.send_keys("Wetter rounds")
        self.elsewhere(supper.pk, name="Saltier rounds")
        page.button("Save").click()
        return supper

    def test_a_save_over_a_newer_one_is_told_and_can_take_its_place(self) -> None:
        supper = self.renamed_in_both()
        page = self.page
        self.assertIn("Saltier rounds", page.one("[role=alertdialog]").text)
        page.button("Yours in its place, the other as a copy").click()
        page.wait(lambda: Supper.objects.filter(pk=supper.pk, name="Wetter rounds").exists())
        self.assertTrue(Supper.objects.filter(name="Saltier rounds, the other").exists())
        page.wait(lambda: not self.driver.find_elements(By.CSS_SELECTOR, "[role=alertdialog]"))

    def test_taking_the_other_can_be_taken_back(self) -> None:
        self.renamed_in_both()
        page = self.page
        page.button("Take the other").click()
        page.wait(lambda: page.one("input[aria-label='Name of the supper']").get_attribute("value") == "Saltier rounds")
        page.button("Undo").click()
        page.wait(lambda: page.one("input[aria-label='Name of the supper']").get_attribute("value") == "Wetter rounds")


class ServerAway(StoryCase):
    def test_what_is_done_while_the_server_is_away_is_told_when_it_is_back(self) -> None:
        page = self.signed_in()
        supper = self.saved_supper()
        self.driver.get(f"{page.base}/timeline/{supper}")
        page.settled()
        self.offline(True)
        page.texted("[aria-label='The steps'] button", lambda text: text == "done").click()
        page.says("kept on this device until")
        self.assertEqual(Event.objects.count(), 0)
        self.offline(False)
        page.wait(lambda: Event.objects.filter(kind="supper.done", refused="").count() == 1)
        page.wait(lambda: not page.has_text("kept on this device until"))
        event = Event.objects.get()
        self.assertLess(event.at, event.received_at)

    def saved_supper(self) -> int:
        other = Client()
        other.force_login(User.objects.get(email=demo_data()["email"]))
        return int(other.get("/api/timeline").json()[0]["id"])


class OtherKitchens(StoryCase):
    """Cooks who own other things than the demo's."""

    def setUp(self) -> None:
        super().setUp()
        self.mate = User.objects.create_user("mate", *MATE)

    def come_in(self) -> None:
        self.page.sign_in(*MATE)
        self.page.says("Sign out")

    def test_a_flame_oven_alone_reaches_plan(self) -> None:
        Hearth.objects.create(owner=self.mate, name="garden oven", kind="flame_oven", max_setpoint_c=430.0, levels=1)
        self.come_in()
        self.page.one("main[data-played=now]")
        self.page.says("garden oven")
        self.assertTrue(self.page.one("[aria-label='The card']").is_displayed())

    def test_a_grill_alone_reaches_plan(self) -> None:
        Hearth.objects.create(owner=self.mate, name="quay grill", kind="gas_grill", max_setpoint_c=320.0, levels=1)
        self.come_in()
        self.page.one("main[data-played=now]")
        self.page.says("quay grill")

    def test_what_does_not_fit_says_so_instead_of_an_empty_kitchen(self) -> None:
        Hearth.objects.create(owner=self.mate, name="boat oven", kind="countertop_oven", levels=3, rack_width_cm=30, rack_depth_cm=26)
        Surface.objects.create(owner=self.mate, name="great stone", kind="stone", thickness_mm=15, width_cm=45, depth_cm=40)
        self.come_in()
        self.page.says("Does not fit the boat oven")
        self.assertFalse(self.page.has_text("Nothing in this kitchen yet"))
        self.audit("nothing bakes here yet")
        self.driver.get(self.page.base + "/match")
        self.page.says("great stone")

    def test_a_thin_and_a_thick_deck_are_planned(self) -> None:
        Hearth.objects.create(owner=self.mate, name="oven", kind="electric_oven", max_setpoint_c=250.0, levels=4, top_element_kw=2.0, top_element_usable=True)
        Surface.objects.create(owner=self.mate, name="thin steel", kind="steel", thickness_mm=1.5, width_cm=36, depth_cm=34)
        Surface.objects.create(owner=self.mate, name="great stone", kind="stone", thickness_mm=50, width_cm=36, depth_cm=34)
        self.come_in()
        self.page.settled()
        self.page.pick("surface", "great stone")
        self.page.settled()
        self.assertFalse(self.driver.find_elements(By.CSS_SELECTOR, "[role=alert]"))

    def test_a_pan_is_changed_and_duplicated(self) -> None:
        Pan.objects.create(owner=self.mate, name="tall pan", kind="dark_aluminium", thickness_mm=1.6, width_cm=34, depth_cm=24, wall_cm=5)
        self.come_in()
        self.driver.get(self.page.base + "/kitchen")
        self.page.one("button[data-thing='tall pan']").click()
        width = self.page.one("input[aria-label='width, cm']")
        width.send_keys(Keys.CONTROL, "a")
        width.send_keys("30", Keys.ENTER)
        self.page.wait(lambda: Pan.objects.get(name="tall pan").width_cm == 30.0)
        # It is duplicated as the page knows it: as it was saved.
        self.driver.refresh()
        self.page.one("button[data-thing='tall pan']").click()
        self.page.button("Duplicate").click()
        self.page.wait(lambda: Pan.objects.filter(name="tall pan, second", width_cm=30.0).exists())
        self.assertFalse(self.driver.find_elements(By.CSS_SELECTOR, "aside [role=alert]"))

    def test_a_pan_changed_in_two_windows_keeps_both(self) -> None:
        pan = Pan.objects.create(owner=self.mate, name="tall pan", kind="dark_aluminium", thickness_mm=1.6, width_cm=34, depth_cm=24)
        self.come_in()
        self.driver.get(self.page.base + "/kitchen")
        self.page.one("button[data-thing='tall pan']").click()
        width = self.page.one("input[aria-label='width, cm']")
        width.send_keys(Keys.CONTROL, "a")
        width.send_keys("30")
        Pan.objects.filter(pk=pan.pk).update(depth_cm=20.0, version=2)
        self.page.button("Keep").click()
        self.assertIn("20", self.page.one("[role=alertdialog]").text)
        self.page.button("Keep both: yours as a new one").click()
        self.page.wait(lambda: Pan.objects.filter(name="tall pan, mine", width_cm=30.0, depth_cm=24.0).exists())
        pan.refresh_from_db()
        self.assertEqual((pan.width_cm, pan.depth_cm), (34.0, 20.0))

    def test_whoever_forgot_a_password_is_told_the_way(self) -> None:
        resize(self.driver, 390, 844)
        self.driver.get(self.page.base + "/")
        self.page.texted("summary", lambda text: "forgot" in text).click()
        self.page.says("./mattone password")
        self.assertLessEqual(self.driver.execute_script("return document.documentElement.scrollWidth"), 390)


class Lists(StoryCase):
    def paste(self, text: str) -> None:
        field = self.page.one("textarea[aria-label='A list of ingredients']")
        field.send_keys(Keys.CONTROL, "a")
        field.send_keys(text)
        self.page.button("Read it").click()

    def amounts(self) -> list[str]:
        return [str(i.get_attribute("value")) for i in self.driver.find_elements(By.CSS_SELECTOR, "[data-reading] input")]

    def test_a_second_list_shows_its_own_amounts(self) -> None:
        page = self.signed_in()
        self.driver.get(page.base + "/dough/new")
        page.texted("[role=tab]", lambda text: text == "Paste a recipe").click()
        self.paste("500 g bread flour\n325 g water\n10 g salt")
        page.wait(lambda: self.amounts() == ["500", "325", "10"])
        self.paste("800 g bread flour\n600 g water\n16 g salt")
        page.wait(lambda: self.amounts() == ["800", "600", "16"])
        self.paste("400 g gluten-free plain flour\n380 g water\n300 g kamut flour")
        page.wait(lambda: self.amounts() == ["400", "380", "300"])
        page.says("without gluten")
        page.says("which flour is kamut flour")
        self.assertEqual(page.one("[data-reading='0'] select").get_attribute("value"), "gluten_free_blend")

    def test_the_flour_left_out_can_be_put_back(self) -> None:
        page = self.signed_in()
        self.driver.get(f"{page.base}/dough/{Dough.objects.get(part=True).pk}")
        page.settled()
        page.one("button[aria-label='Leave out strong bread flour']").click()
        page.one("[role=alert]")
        page.button("Undo").click()
        page.one("tr[data-ingredient=bread_flour]")
        page.settled()
        page.one("button[aria-label='Leave out strong bread flour']").click()
        page.one("select[aria-label='Add an ingredient']").send_keys("plain flour")
        page.one("tr[data-ingredient=plain_flour]")
        page.settled()
        self.assertFalse(page.has_text("What is shown is the last that went"))
