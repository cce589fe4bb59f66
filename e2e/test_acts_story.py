"""Every button, box, list and field of Plan, Dough and Timeline: what a cook gave changes by an act that names it, or can be taken back."""

from __future__ import annotations

import json
import time
from typing import Any

from selenium.common.exceptions import WebDriverException
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from e2e.acts import CONTROLS, FOLDED, REQUESTS, changed, unasked
from e2e.story import StoryCase

# What leads elsewhere, saves, prints or tells the server: no change of the supper at hand.
ELSEWHERE = (
    "Suppers",
    "Setups",
    "Recipes",
    "Save",
    "Saved",
    "print",
    "copy",
    "save as a file",
    "into the calendar",
    "heat on now",
    "Done: ",
    "Name of",
    "Pin",
    "Its",
)
LINE = ("when it is eaten", "what it is", "where it is baked", "its dough")
# The page asks for the line so long after a change, s.
SETTLES_S = 0.42


def a_few(rows: list[tuple[int, str, str]]) -> list[tuple[int, str, str]]:
    """Of a long list of choices the second and the last; all where there are few, or where they are not alike."""
    presses = [row for row in rows if row[1] == "press"]
    return rows if len(presses) <= 4 else [row for row in rows if row[1] != "press" or row in (presses[1], presses[-1])]


class Acts(StoryCase):
    def test_nothing_changes_that_an_act_does_not_name(self) -> None:
        page = self.signed_in()
        self.driver.execute_cdp_cmd("Page.addScriptToEvaluateOnNewDocument", {"source": REQUESTS})
        supper_id = self.driver.execute_script("return fetch('/api/timeline').then(r => r.json()).then(r => r[0].id)")
        wrong: list[str] = []
        acts = 0
        for part in ("plan", "dough", "timeline"):
            self.driver.get(f"{page.base}/supper/{supper_id}/{part}")
            page.settled()
            for place, kind, name in self.controls("main"):
                # The line is the same in every view.
                if name.startswith(ELSEWHERE if part == "plan" else (*ELSEWHERE, *LINE)) or not name:
                    continue
                for said, paths, undo in self.done(place, kind, name):
                    acts += 1
                    if left := unasked(f"{part} {said}", paths, undo=undo):
                        wrong.append(f"{part} {said}: {sorted(left)} (undo: {undo})")
        self.assertEqual(wrong, [])
        self.assertGreater(acts, 60)

    def controls(self, inside: str) -> list[tuple[int, str, str]]:
        return [tuple(row) for row in self.driver.execute_script(CONTROLS, inside)]

    def supper(self) -> Any:
        text = self.driver.execute_script("return window.__supper")
        return json.loads(text) if text else None

    def done(self, place: int, kind: str, name: str) -> list[tuple[str, set[str], bool]]:
        """Press it, and each choice that folds down from it: what each changed, and whether it can be undone."""
        found = []
        if (first := self.act("main", place, kind, name)) is not None:
            found.append(first)
        for inner_place, inner_kind, inner_name in a_few(self.controls(FOLDED)):
            if inner_name and (one := self.act(FOLDED, inner_place, inner_kind, f"{name} > {inner_name}")) is not None:
                found.append(one)
            if not self.driver.find_elements(By.CSS_SELECTOR, FOLDED):
                self.act("main", place, kind, name)
        if self.driver.find_elements(By.CSS_SELECTOR, FOLDED):
            self.driver.find_element(By.TAG_NAME, "body").send_keys(Keys.ESCAPE)
        return found

    def act(self, inside: str, place: int, kind: str, name: str) -> tuple[str, set[str], bool] | None:
        """One act: what changed, and whether an undo is offered; None where the control is gone by now."""
        rows = {row[0]: row for row in self.controls(inside)}
        if place not in rows or rows[place][2].split(":")[0] != name.split(" > ")[-1].split(":")[0]:
            return None
        before, noticed = self.supper(), self.undo()
        control = self.driver.execute_script("return window.__controls[arguments[0]]", place)
        try:
            if kind == "press":
                self.driver.execute_script("arguments[0].click()", control) if control.get_attribute("type") == "checkbox" else control.click()
            elif kind == "select":
                control.send_keys(Keys.ARROW_DOWN)
            elif kind == "slider":
                control.send_keys(Keys.ARROW_RIGHT)
            else:
                control.send_keys(Keys.ARROW_UP, Keys.TAB)
        except WebDriverException:
            return None
        time.sleep(SETTLES_S)
        after = self.supper()
        # A notice of an earlier act still stands for a while: it takes back nothing of this one.
        return name, changed(before, after) if before is not None else set(), self.undo() not in ("", noticed)

    def undo(self) -> str:
        """What the notice says that can be undone; empty where there is none."""
        found = self.driver.find_elements(By.XPATH, "//*[@role='status'][.//button[.='Undo']]")
        return found[0].text if found else ""
