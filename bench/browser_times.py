"""From a moved pointer to the crust repainted, in the real page."""

from __future__ import annotations

import contextlib
from collections.abc import Callable

from selenium.common.exceptions import TimeoutException
from selenium.webdriver import Chrome
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.support.ui import WebDriverWait

from bench.pairs import Pairs, Told, yardstick_ms
from e2e.browser import browser
from house.commands import demo_cook

# Stamps pointer moves that change the level, and the first repaint of the crust bands after each.
WATCH = """
window.spent = []; window.begun = null;
const deck = document.querySelector('[data-testid=deck]');
new MutationObserver(() => { if (window.begun === null) window.begun = performance.now(); })
  .observe(deck, {attributes: true, attributeFilter: ['aria-valuenow']});
const band = document.querySelector('#band-rim');
new MutationObserver(() => {
  if (window.begun === null) return;
  const begun = window.begun; window.begun = null;
  requestAnimationFrame(() => window.spent.push(performance.now() - begun));
}).observe(band, {subtree: true, attributes: true, childList: true});
"""


def _longer_than(count: int) -> Callable[[Chrome], bool]:
    return lambda driver: len(driver.execute_script("return window.spent")) > count


def drag_to_repaint_time(base: str, drags: int = 14) -> Told:
    """Median ms from a changed level to repainted bands, dragging the deck up and down."""
    email, password = demo_cook()
    with browser() as driver:
        wait = WebDriverWait(driver, 30, 0.02)
        driver.get(base + "/")
        wait.until(lambda d: d.find_elements(By.CSS_SELECTOR, "input[type=email]"))[0].send_keys(email)
        driver.find_element(By.CSS_SELECTOR, "input[type=password]").send_keys(password, Keys.ENTER)
        wait.until(lambda d: d.find_elements(By.CSS_SELECTOR, "main[data-played=now]"))
        driver.execute_script(WATCH)
        deck = driver.find_element(By.CSS_SELECTOR, "[data-testid=deck]")
        box = deck.rect
        x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] - 20

        def mouse(kind: str, down: float) -> None:
            event = {"type": kind, "x": x, "y": y + down, "button": "left", "buttons": 1, "clickCount": 1}
            driver.execute_cdp_cmd("Input.dispatchMouseEvent", event)

        mouse("mousePressed", 0)
        pairs = Pairs()
        for i in range(drags):
            yard_ms = yardstick_ms()
            seen = driver.execute_script("return window.spent")
            mouse("mouseMoved", 45 if i % 2 else -45)
            # A move that changed no level has nothing to repaint.
            with contextlib.suppress(TimeoutException):
                WebDriverWait(driver, 1.5, 0.02).until(_longer_than(len(seen)))
                pairs.add(float(driver.execute_script("return window.spent")[-1]), yard_ms)
        mouse("mouseReleased", 0)
        return pairs.told()
