"""Every view on a phone: nothing wider than the screen, nothing too small for a finger, the views in one line."""

from __future__ import annotations

from django.contrib.auth.models import User
from selenium.webdriver import Chrome
from selenium.webdriver.common.by import By

from demo.loading import demo_data
from e2e.browser import resize
from e2e.story import StoryCase
from kitchen.models import Hearth, Instrument

VIEWS = ("kitchen", "match", "plan", "dough", "timeline", "bake", "logbook", "account")
# What lies beyond the edge, but for what is meant to be pushed along.
BEYOND = """
const wide = document.documentElement.clientWidth;
return [...document.querySelectorAll('body *')].filter((e) => {
  const r = e.getBoundingClientRect();
  return r.width > 1 && r.height > 1 && (r.right > wide + 1 || r.left < -1) && !e.closest('[data-scrolls], svg, .sr-only');
}).map((e) => `${e.tagName} ${(e.getAttribute('aria-label') || e.textContent || '').slice(0, 50)}`);
"""
# What a finger is to find, as high as asked; a box is as high as the label it stands in.
SMALL = """
const least = arguments[0];
const CONTROLS = 'main :is(button, a[href], input, select, textarea, summary, [role=slider]:not([data-tick]), [role=tab]), nav :is(button, a)';
return [...document.querySelectorAll(CONTROLS)].filter((e) => {
  const shown = e.checkVisibility({visibilityProperty: true, opacityProperty: true}) && !e.closest('.sr-only');
  const label = e.matches('[type=checkbox], [type=radio]') ? e.closest('label') : null;
  const r = (label ?? e).getBoundingClientRect();
  return shown && r.width > 1 && r.height > 0 && r.height < least - 0.5;
}).map((e) => `${e.tagName} ${Math.round(e.getBoundingClientRect().height)} px high: ${(e.getAttribute('aria-label') || e.textContent || '').slice(0, 50)}`);
"""
LEAST_PX = {"plan": 32, "dough": 32, "timeline": 32, "bake": 44}


def too_small(driver: Chrome, view: str) -> list[str]:
    return [f"{view}: {said}" for said in driver.execute_script(SMALL, LEAST_PX.get(view, 24))]


class PhoneStory(StoryCase):
    def test_every_view_fits(self) -> None:
        resize(self.driver, 390, 844)
        page = self.signed_in()
        wrong = []
        cook = User.objects.get(email=demo_data()["email"])
        oven = Hearth.objects.get(owner=cook, name="kitchen oven").pk
        sender = Instrument.objects.get(owner=cook, kind="wireless").pk
        views = (*VIEWS, f"kitchen/dial/{oven}", f"kitchen/instrument/{sender}", "match/style/tall_square_pan")
        for system in ("metric", "us"):
            self.driver.execute_script("localStorage.setItem('units', arguments[0])", system)
            for view in views:
                self.driver.get(f"{page.base}/{view}")
                page.one("main h1, main #sentence")
                if view in ("plan", "dough", "timeline"):
                    page.settled()
                wrong += [f"{view} {system}: {said}" for said in self.driver.execute_script(BEYOND)] + too_small(self.driver, view)
        self.maxDiff = None
        self.assertEqual(sorted(set(wrong)), [])
        # The views stand in one line, and the open one is in sight.
        bar = page.one("nav[aria-label=Views]")
        self.assertLess(bar.size["height"], 60)
        self.driver.get(f"{page.base}/logbook")
        here = page.one("nav [aria-current=page]")
        page.wait(lambda: here.rect["x"] >= 0 and here.rect["x"] + here.rect["width"] <= 390)
        # What is the cook's own is one touch away.
        page.one("nav button[aria-label='more: units, light, account']").click()
        # One quantity by itself: Celsius with ounces.
        page.texted("[role=dialog] button", lambda text: text == "°F").click()
        kept = "return JSON.parse(localStorage.getItem('units'))"
        page.wait(lambda: self.driver.execute_script(kept) == {"temperature": "metric", "mass": "us", "length": "us", "volume": "us"})
        self.assertEqual([one.text for one in self.driver.find_elements(By.CSS_SELECTOR, "[role=dialog] [aria-label=Units] button")], ["°C", "oz", "in", "qt"])
        self.look("units-phone")
        self.assertTrue(self.driver.find_elements(By.CSS_SELECTOR, "[role=dialog] a[href='/account']"))
        self.assertEqual(self.console(), [])
