"""From a moved pointer to the crust repainted, in the real page."""

from __future__ import annotations

import contextlib
import statistics
from collections.abc import Callable

from selenium.common.exceptions import TimeoutException
from selenium.webdriver import Chrome
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.support.ui import WebDriverWait

from bench.pairs import Pairs, Told, yardstick_ms
from e2e.browser import browser
from house.demo import demo_cook

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


# Stamps a tap on a swatch, and the repaint that shows it.
TAPS = """
window.taps = []; let begun = null;
document.addEventListener('pointerdown', () => { begun = performance.now(); }, true);
new MutationObserver((seen) => {
  if (begun === null || !seen.some((one) => one.target.getAttribute('aria-pressed') === 'true')) return;
  const from = begun; begun = null;
  requestAnimationFrame(() => window.taps.push(performance.now() - from));
}).observe(document.body, {subtree: true, attributes: true, attributeFilter: ['aria-pressed']});
"""
OPENED = """
const done = arguments[0];
const look = () => document.querySelector('[data-testid=bake]') ? done(performance.now()) : requestAnimationFrame(look);
look();
"""


def _signed_in(driver: Chrome, base: str) -> WebDriverWait[Chrome]:
    """The demo's cook at a drawn plan, and how the driver waits."""
    email, password = demo_cook()
    wait = WebDriverWait(driver, 30, 0.02)
    driver.get(base + "/")
    wait.until(lambda d: d.find_elements(By.CSS_SELECTOR, "input[type=email]"))[0].send_keys(email)
    driver.find_element(By.CSS_SELECTOR, "input[type=password]").send_keys(password, Keys.ENTER)
    wait.until(lambda d: d.find_elements(By.CSS_SELECTOR, "main[data-played=now]"))
    return wait


def bake_page_times(base: str) -> tuple[float, float]:
    """Of a bake on a phone, ms: from a tap on a swatch to its repaint (the 95th of 100); from opening it offline until it is drawn (the median)."""
    with browser(390, 844) as driver:
        wait = _signed_in(driver, base)
        driver.get(base + "/bake")
        wait.until(lambda d: d.find_elements(By.CSS_SELECTOR, "[aria-label^='Heat on now']"))[-1].click()
        wait.until(lambda d: d.find_elements(By.CSS_SELECTOR, "[data-stage=heating] [data-testid=next]"))
        driver.execute_script("[...document.querySelectorAll('button')].find((one) => one.textContent.startsWith('Launched')).click()")
        wait.until(lambda d: d.find_elements(By.CSS_SELECTOR, "[data-testid='see-base-70']"))
        driver.execute_script(TAPS)
        for i in range(20):
            for part in ("base", "rim"):
                swatch = driver.find_element(By.CSS_SELECTOR, f"[data-testid='see-{part}-{(76, 70)[i % 2]}']")
                driver.execute_script("arguments[0].scrollIntoView({block: 'center'})", swatch)
                swatch.click()
        taps = sorted(driver.execute_script("return window.taps"))
        wait.until(lambda d: d.execute_script("return navigator.serviceWorker.controller !== null"))
        opened = []
        driver.set_network_conditions(offline=True, latency=0, throughput=0)
        for _ in range(5):
            driver.refresh()
            opened.append(float(driver.execute_async_script(OPENED)))
        driver.delete_network_conditions()
        wait.until(lambda d: "kept on this device" not in d.find_element(By.TAG_NAME, "main").text)
        driver.execute_script("[...document.querySelectorAll('button')].find((one) => one.textContent === 'I pulled it').click()")
        return taps[int(0.95 * (len(taps) - 1))], statistics.median(opened)


def drag_to_repaint_time(base: str, drags: int = 14) -> Told:
    """Median ms from a changed level to repainted bands, dragging the deck up and down."""
    with browser() as driver:
        _signed_in(driver, base)
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
