"""Debian's Chromium without a screen, as the stories and the screenshot maker drive it."""

from __future__ import annotations

import contextlib
import os
from collections.abc import Iterator
from typing import Any

from selenium.webdriver import Chrome, ChromeOptions
from selenium.webdriver.chrome.service import Service

# The program itself: its script in /usr/bin stays in between, and Chromedriver does not find the page then.
SHELL = "/usr/lib/chromium/chromium-headless-shell"
FLAGS = (
    "--headless", "--disable-gpu", "--disable-dev-shm-usage", "--disable-quic", "--no-first-run",
    "--disable-background-networking", "--disable-component-update", "--disable-sync", "--force-color-profile=srgb",
    "--hide-scrollbars", "--force-prefers-reduced-motion", "--force-device-scale-factor=1",
)  # fmt: skip


SIZE = (1280, 800)

# Sets a field as typing would, at once.
PASTE = """
const set = Object.getOwnPropertyDescriptor(HTMLTextAreaElement.prototype, 'value').set;
set.call(arguments[0], arguments[1]);
arguments[0].dispatchEvent(new Event('input', {bubbles: true}));
"""


@contextlib.contextmanager
def browser(width: int = SIZE[0], height: int = SIZE[1]) -> Iterator[Chrome]:
    """A fresh browser of exactly this size, with a profile that Chromedriver makes and removes."""
    options = ChromeOptions()
    options.binary_location = SHELL
    for flag in FLAGS:
        options.add_argument(flag)
    if os.geteuid() == 0:
        options.add_argument("--no-sandbox")
    options.set_capability("goog:loggingPrefs", {"browser": "ALL"})
    driver = Chrome(options=options, service=Service("/usr/bin/chromedriver"))
    try:
        resize(driver, width, height)
        yield driver
    finally:
        driver.quit()


def emptied(driver: Chrome, origin: str) -> None:
    """As a fresh browser again: one empty window of the usual size; what pages of this origin kept is gone, and so is what was set for them."""
    driver.delete_network_conditions()
    old = driver.window_handles
    driver.switch_to.window(old[0])
    driver.switch_to.new_window("tab")
    new = driver.current_window_handle
    for window in old:
        driver.switch_to.window(window)
        driver.close()
    driver.switch_to.window(new)
    driver.execute_cdp_cmd("Network.clearBrowserCookies", {})
    driver.execute_cdp_cmd("Storage.clearDataForOrigin", {"origin": origin, "storageTypes": "all"})
    driver.get_log("browser")  # type: ignore[no-untyped-call]
    resize(driver, *SIZE)


def resize(driver: Chrome, width: int, height: int) -> None:
    metrics: dict[str, Any] = {"width": width, "height": height, "deviceScaleFactor": 1, "mobile": width < 600}
    driver.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", metrics)
