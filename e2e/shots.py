"""Remake docs/screenshots from the demo data: `./mattone shots`."""

from __future__ import annotations

import sys
import time
import uuid
from datetime import datetime, timedelta
from pathlib import Path
from typing import Any

from selenium.webdriver import Chrome
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.support.ui import WebDriverWait

from e2e.browser import PASTE, browser, resize

FOLDER = Path(__file__).resolve().parents[1] / "docs" / "screenshots"


def until(driver: Chrome, css: str) -> None:
    WebDriverWait(driver, 30, 0.05).until(lambda d: d.find_elements(By.CSS_SELECTOR, css))


def settled(driver: Chrome) -> None:
    until(driver, "main[data-played=now]")
    time.sleep(0.4)


# Nothing of a supper that was begun for an earlier picture.
NO_DRAFTS = "for (const key of Object.keys(localStorage)) if (key.startsWith('mattone-own')) localStorage.removeItem(key)"


def keep(driver: Chrome, name: str) -> None:
    driver.save_screenshot(str(FOLDER / f"{name}.png"))
    print(f"  docs/screenshots/{name}.png", flush=True)


def demo_log() -> str:
    return (FOLDER.parents[1] / "server" / "demo" / "log-steel.csv").read_text(encoding="utf-8")


def days(driver: Chrome, base: str) -> None:
    """Dough and Timeline, wide and on a phone."""
    driver.get(base + "/dough")
    settled(driver)
    until(driver, "[data-oven=now]")
    keep(driver, "dough")
    driver.get(base + "/match/style/tall_square_pan")
    until(driver, "[data-testid=style-said]")
    keep(driver, "style")
    driver.get(base + "/timeline")
    settled(driver)
    keep(driver, "timeline")
    driver.execute_script(NO_DRAFTS)
    resize(driver, 390, 844)
    driver.get(base + "/timeline")
    settled(driver)
    keep(driver, "timeline-phone")
    resize(driver, 1280, 800)


# Through the page's own session: a bake that has been under way for a while.
TELL = """
const [path, body, done] = arguments;
const token = /(?:^|; )csrftoken=([^;]+)/.exec(document.cookie)?.[1] ?? "";
fetch(path, {method: "POST", body: JSON.stringify(body), headers: {"Content-Type": "application/json", "X-CSRFToken": token}})
  .then((r) => r.json()).then(done);
"""


def at_hand(driver: Chrome, base: str) -> None:
    """A bake on a phone: heating with two readings, and baking with a look answered."""
    now = datetime.now().astimezone()

    def tell(path: str, body: dict[str, Any]) -> Any:
        return driver.execute_async_script(TELL, path, body)

    def happened(kind: str, ago_s: float, payload: dict[str, Any]) -> dict[str, Any]:
        return {"id": str(uuid.uuid4()), "kind": f"bake.{kind}", "subject_id": bake, "at": (now - timedelta(seconds=ago_s)).isoformat(), "payload": payload}

    bake = tell("/api/bakes", {"plan_id": 2, "pizzas": 3, "heat_on_at": (now - timedelta(minutes=34)).isoformat()})["id"]
    tell("/api/events", {"events": [happened("read", 1000, {"deck_c": 141}), happened("read", 300, {"deck_c": 212})]})
    driver.get(f"{base}/bake/{bake}")
    until(driver, "[data-testid=next]")
    time.sleep(0.4)
    keep(driver, "bake-heating")
    tell("/api/events", {"events": [happened("launched", 285, {}), happened("done", 80, {"do": "turn"})]})
    tell("/api/events", {"events": [happened("seen", 6, {"base": 76}), happened("seen", 4, {"rim": 82})]})
    driver.get(f"{base}/bake/{bake}")
    until(driver, "[data-testid=next]")
    time.sleep(0.4)
    keep(driver, "bake")
    resize(driver, 1280, 800)
    time.sleep(0.4)
    keep(driver, "bake-wide")
    resize(driver, 390, 844)
    driver.set_network_conditions(offline=True, latency=0, throughput=0)
    cheese = driver.find_element(By.CSS_SELECTOR, "[data-testid='see-cheese-74']")
    driver.execute_script("arguments[0].scrollIntoView({block: 'center'})", cheese)
    cheese.click()
    WebDriverWait(driver, 40, 0.2).until(lambda d: "No answer just now" in d.find_element(By.TAG_NAME, "main").text)
    driver.execute_script("window.scrollTo(0, 0)")
    time.sleep(0.4)
    keep(driver, "bake-offline")
    driver.delete_network_conditions()
    time.sleep(1.0)
    tell("/api/events", {"events": [happened("ended", 0, {})]})


def logbook(driver: Chrome, base: str) -> None:
    """What the autumn taught; one of its bakes with its photos; the same on a phone."""
    resize(driver, 1280, 800)
    driver.get(base + "/logbook")
    until(driver, "ul[aria-label=Bakes] a")
    until(driver, "section[aria-label^=What] figure")
    time.sleep(0.4)
    keep(driver, "logbook")
    next(row for row in driver.find_elements(By.CSS_SELECTOR, "ul[aria-label=Bakes] a") if row.text.startswith("Before the gale")).click()
    until(driver, "[aria-label='photo of the top']")
    driver.find_element(By.CSS_SELECTOR, "[aria-label='photo of the top']").click()
    driver.execute_script("document.querySelector('section[aria-label=Photos]').scrollIntoView()")
    time.sleep(1.0)
    keep(driver, "logbook-photo")
    resize(driver, 390, 844)
    driver.execute_script("document.querySelector('article').scrollIntoView()")
    time.sleep(0.6)
    keep(driver, "logbook-phone")


def main(base: str, email: str, password: str) -> int:
    FOLDER.mkdir(parents=True, exist_ok=True)
    with browser() as driver:
        driver.get(base + "/")
        until(driver, "input[type=email]")
        driver.find_element(By.CSS_SELECTOR, "input[type=email]").send_keys(email)
        driver.find_element(By.CSS_SELECTOR, "input[type=password]").send_keys(password, Keys.ENTER)
        settled(driver)
        driver.get(base + "/plan")
        settled(driver)
        keep(driver, "plan")
        driver.get(base + "/match")
        # Until every rig is tried.
        WebDriverWait(driver, 60).until(
            lambda d: d.find_elements(By.CSS_SELECTOR, "[data-cell]") and "rigs tried" not in d.find_element(By.TAG_NAME, "main").text
        )
        driver.find_element(By.CSS_SELECTOR, "[data-cell='new_york thin tray']").click()
        until(driver, "[aria-label='What would help most'] :is(li, p)")
        keep(driver, "match")
        driver.find_elements(By.CSS_SELECTOR, "[data-cell='neapolitan its own floor']")[-1].click()
        next(b for b in driver.find_elements(By.TAG_NAME, "button") if b.text.startswith("Plan ") and b.text.endswith("this")).click()
        settled(driver)
        keep(driver, "plan-flame")
        driver.execute_script(NO_DRAFTS)
        days(driver, base)
        driver.get(base + "/kitchen")
        until(driver, "[data-thing]")
        driver.find_element(By.CSS_SELECTOR, "[data-thing='lamp-room sender']").click()
        next(a for a in driver.find_elements(By.TAG_NAME, "a") if a.text.startswith("What it says")).click()
        WebDriverWait(driver, 60, 0.2).until(lambda d: int(d.find_element(By.CSS_SELECTOR, "[data-readings]").get_attribute("data-readings") or 0) > 60)
        keep(driver, "live")
        driver.get(base + "/kitchen")
        until(driver, "[data-thing]")
        driver.find_element(By.CSS_SELECTOR, "[data-thing='10 mm steel']").click()
        time.sleep(0.3)
        keep(driver, "kitchen")
        driver.find_element(By.CSS_SELECTOR, "[data-thing='kitchen oven']").click()
        next(a for a in driver.find_elements(By.TAG_NAME, "a") if a.text.startswith("Does the dial")).click()
        until(driver, "textarea[aria-label='the log']")
        driver.execute_script(PASTE, driver.find_element(By.CSS_SELECTOR, "textarea[aria-label='the log']"), demo_log())
        next(b for b in driver.find_elements(By.TAG_NAME, "button") if b.text == "Read the log").click()
        until(driver, "[aria-label='What the log says'] figure")
        time.sleep(0.3)
        keep(driver, "calibrate")
        driver.execute_script("localStorage.setItem('light', 'evening')")
        driver.get(base + "/plan/1")
        settled(driver)
        keep(driver, "plan-tray-evening")
        driver.execute_script("localStorage.setItem('light', 'day')")
        resize(driver, 390, 844)
        driver.get(base + "/plan/1")
        settled(driver)
        driver.execute_script("document.querySelector('[aria-label=\"The card\"]').scrollIntoView({block: 'end'})")
        time.sleep(0.3)
        keep(driver, "card-phone")
        at_hand(driver, base)
        logbook(driver, base)
    return 0


if __name__ == "__main__":
    sys.exit(main(*sys.argv[1:4]))
