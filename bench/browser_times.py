"""From a moved pointer to the crust repainted, in the real page."""

from __future__ import annotations

import statistics

from selenium.webdriver import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.support.ui import WebDriverWait

from bench.http_times import demo_cook
from e2e.browser import browser

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


def drag_to_repaint_ms(base: str, drags: int = 14) -> float:
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
        ActionChains(driver).click_and_hold(deck).perform()
        for i in range(drags):
            before = driver.execute_script("return window.spent.length")
            ActionChains(driver, duration=0).move_by_offset(0, 60 if i % 4 < 2 else -60).perform()
            try:
                WebDriverWait(driver, 1.5, 0.02).until(lambda d: d.execute_script(f"return window.spent.length > {before}"))
            except Exception:
                continue
        ActionChains(driver).release().perform()
        spent = driver.execute_script("return window.spent")
        return statistics.median(spent) if spent else float("nan")
