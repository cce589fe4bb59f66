"""The kitchens of situations.toml, set up by what earlier stories cover, then played in the page to their three sheets."""

from __future__ import annotations

import base64
import json
import re
import tomllib
from functools import cache
from pathlib import Path
from typing import Any

from django.contrib.auth.models import User
from django.http import HttpRequest
from django.test import Client
from mattone_engine.bake.match import MatchInput, match, portion
from mattone_engine.styles import style
from selenium.webdriver.common.by import By

from e2e.browser import PASTE
from e2e.story import Page, StoryCase, whole_supper
from kitchen.rigs import all_rigs
from timeline.models import Supper

PAPERS = ({"paperWidth": 8.27, "paperHeight": 11.69}, {"paperWidth": 8.5, "paperHeight": 11.0})
OUNCE_G = 28.349523


@cache
def situations() -> dict[str, dict[str, Any]]:
    return tomllib.loads(Path(__file__).with_name("situations.toml").read_text(encoding="utf-8"))


class Cook:
    """A cook of an empty account whose kitchen is set up through the API."""

    def __init__(self, number: str, told: dict[str, Any]) -> None:
        self.user = User.objects.create_user(f"cook-{number}", f"cook-{number}@skerry-light.example", "lamp-oil-and-rope")
        self.client, self.told, self.number = Client(), told, number
        self.client.force_login(self.user)

    def send(self, method: str, path: str, body: Any) -> dict[str, Any]:
        response = self.client.generic(method, f"/api{path}", json.dumps(body), "application/json")
        assert response.status_code in (200, 201), (self.number, path, response.content[:400])
        return dict(response.json())

    def owns(self, noun: str, name: str, thing: dict[str, Any]) -> int:
        return int(self.send("POST", f"/kitchen/{noun}", {"name": name} | thing)["id"])

    def planned(self) -> int:
        """The kitchen entered, and a supper saved that is baked in it: its number."""
        told = self.told
        kitchen = self.client.get("/api/kitchen").json()
        self.send("PUT", f"/kitchen?version={kitchen['version']}", {"name": f"kitchen {self.number}", "altitude_m": told.get("altitude_m", 0)})
        small = {} if "power_kw" in told["hearth"] else {"top_element_kw": 0.0, "top_element_usable": False, "has_fan": False}
        sentence: dict[str, Any] = {"hearth_id": self.owns("hearths", "the oven", small | told["hearth"]), "style": told["style"], "people": told["people"]}
        if told.get("hob"):
            self.owns("hearths", "the hob", {"kind": "hob", "power_kw": 2.0})
        for noun in ("surface", "pan"):
            if noun in told:
                sentence[f"{noun}_id"] = self.owns(f"{noun}s", f"the {noun}", told[noun])
        if "second" in told:
            self.owns("surfaces", "the second", told["second"])
        sentence |= {key: told[key] for key in ("diameter_cm", "method") if key in told}
        return int(self.send("POST", "/timeline", {"name": f"supper {self.number}", "plan": {"sentence": sentence, "controls": None}})["id"])

    def changes(self, supper_id: int, **parts: Any) -> None:
        version = self.client.get(f"/api/timeline/{supper_id}").json()["version"]
        self.send("PUT", f"/timeline/{supper_id}?version={version}", whole_supper(self.client, supper_id) | parts)

    def spends_its_hours(self, supper_id: int) -> None:
        """The dough as the style has it, its places and hours, and pieces that go their own way, as the situation has them."""
        body = self.send("POST", "/dough/start", {"plan": whole_supper(self.client, supper_id)["plan"]})
        body["steps"] = [{"stage": stage, "place": place, "hours": hours, "temp_c": temp_c} for stage, place, hours, temp_c in self.told["steps"]]
        pieces = body["formula"]["pieces"]
        ways = {way["name"]: way["steps"] for way in self.send("POST", "/dough/batch", {"dough": body})["offered_ways"]}
        for key, name in (("frozen", "frozen"), ("tomorrow", "a day later")):
            if key in self.told:
                pieces.append(pieces[0] | {"count": self.told[key], "way": ways[name]})
        if self.told.get("child"):
            pieces.append(
                pieces[0] | {"count": 1, "name": "small round", "mass_g": 150, "area_cm2": None, "loading_g_cm2": None, "way": ways["later the same day"]}
            )
        self.changes(supper_id, dough={"name": "", "dough": body, "mixed_at": None})

    def tops(self, supper_id: int) -> None:
        """What lies on the pizzas, and whether the sauce is cooked, as the situation has them."""
        supper = self.client.get(f"/api/timeline/{supper_id}").json()
        picks = [{"topping": key} for key in self.told.get("picks", ())] or supper["words"]["picks"]
        if self.told.get("halves"):
            picks = [*picks, {"topping": "mushrooms", "half": "left"}, {"topping": "cured_sausage", "half": "right"}]
        self.changes(supper_id, words=supper["words"] | {"picks": picks, "cooked_sauce": self.told.get("cooked_sauce", False)})


class SituationCase(StoryCase):
    """Plays situations; each class takes a share of them, so that several browsers work at once."""

    def play(self, number: str) -> None:
        told = situations()[number]
        self.cook = cook = Cook(number, told)
        supper_id = cook.planned()
        self.the_board_agrees(cook, supper_id)
        page = self.at(cook)
        cook.spends_its_hours(supper_id)
        self.the_list_becomes_the_dough(page, supper_id)
        batch = self.sheet("Batch sheet", pages={1})
        days = self.the_days_follow(page, cook, supper_id)
        self.walk(f"/supper/{supper_id}/plan")
        page.one("[aria-label='The card']")
        card = self.sheet("The card", pages={1})
        self.agree(cook, page, batch, days)
        everything = f"{batch}\n{days}\n{card}"
        for words in told.get("says", []):
            self.assertIn(words.lower(), everything.lower())
        for words in told.get("never", []):
            self.assertNotIn(words.lower(), everything.lower())
        self.assertNotRegex(everything, r"[{}]|undefined|NaN|null")

    def the_board_agrees(self, cook: Cook, supper_id: int) -> None:
        """The board's cell of this style and rig, opened in Plan, has the same dial, level, minutes and mass."""
        sentence = whole_supper(cook.client, supper_id)["plan"]["sentence"]
        request = HttpRequest()
        request.user = cook.user
        parts = ("hearth_id", "surface_id", "pan_id")
        rig = next((rig for out, rig in all_rigs(request)[1] if all(getattr(out, part) == sentence[part] for part in parts)), None)
        assert rig is not None, "its rig is on the board"
        board = match(MatchInput(rigs=(rig,), styles=(cook.told["style"],), altitude_m=cook.told.get("altitude_m", 0)))
        for cell in board.cells:
            # As the page opens it: what the situation wishes beside the cell is said in Plan.
            opened = {key: sentence[key] for key in (*parts, "style", "people")}
            told = cook.send("POST", "/plans/preview", {"sentence": opened, "controls": cell.controls.model_dump(mode="json")})
            said, shown = told["result"]["controls"], cell.controls
            self.assertEqual((said["setpoint_c"], said["level"], said["preheat_min"]), (shown.setpoint_c, shown.level, shown.preheat_min))
            self.assertEqual(told["result"]["result"]["likely_done_s"], cell.likely_done_s, (self.number, cell.controls))
            dough, _ = portion(style(cook.told["style"]), rig.pan_area_cm2)
            self.assertEqual((told["ask"]["dough"]["mass_g"], told["ask"]["dough"]["area_cm2"]), (dough.mass_g, dough.area_cm2))

    def at(self, cook: Cook) -> Page:
        self.driver.get(self.page.base + "/")
        self.driver.delete_all_cookies()
        self.driver.add_cookie({"name": "csrftoken", "value": "s" * 32, "path": "/"})
        self.driver.add_cookie({"name": "sessionid", "value": cook.client.cookies["sessionid"].value, "path": "/"})
        self.driver.execute_script("localStorage.clear(); localStorage.setItem('units', arguments[0])", cook.told["units"])
        return self.page

    def go(self, path: str) -> None:
        self.driver.get(self.page.base + path)
        self.page.settled()

    def walk(self, path: str) -> None:
        """The same without loading the page anew, as its own links lead."""
        self.driver.execute_script("history.pushState(null, '', arguments[0]); dispatchEvent(new PopStateEvent('popstate'))", path)
        self.page.settled()

    def sheet(self, label: str, *, pages: set[int]) -> str:
        """What stands on the sheet; it prints on so many pages, on A4 and on Letter."""
        text = self.page.one(f"[aria-label='{label}']").get_attribute("textContent") or ""
        # The longest is tried on both papers.
        papers = PAPERS if label == "The sheet" else PAPERS[1:]
        printed = [base64.b64decode(self.driver.execute_cdp_cmd("Page.printToPDF", paper)["data"]) for paper in papers]
        self.assertEqual({len(re.findall(rb"/Type\s*/Page\b", one)) for one in printed}, pages, label)
        return text

    def the_list_becomes_the_dough(self, page: Page, supper_id: int) -> None:
        told = situations()[self.number]
        self.go(f"/supper/{supper_id}/dough")
        page.texted("[role=tab]", lambda text: text == "Paste a recipe").click()
        self.driver.execute_script(PASTE, page.one("[aria-label='A list of ingredients']"), told["list"])
        page.button("Read it").click()
        page.button("Use it, for these pieces").click()
        page.settled()
        page.button("Save").click()
        page.button("Saved")

    def the_days_follow(self, page: Page, cook: Cook, supper_id: int) -> str:
        self.walk(f"/supper/{supper_id}/timeline")
        page.one("[aria-label='The sheet']")
        if self.driver.find_elements(By.CSS_SELECTOR, "[data-testid=clash]"):
            page.one("[data-offer]").click()
            page.wait(lambda: not self.driver.find_elements(By.CSS_SELECTOR, "[data-testid=clash]"))
            page.settled()
        page.button("Save").click()
        page.button("Saved")
        cook.tops(supper_id)
        self.go(f"/supper/{supper_id}/timeline")
        return self.sheet("The sheet", pages={2})

    number = ""
    cook: Cook

    def agree(self, cook: Cook, page: Page, batch: str, days: str) -> None:
        """The card, the dough's sheet and the supper's say the same."""
        supper = Supper.objects.get(owner=cook.user)
        plan, dough = supper.plan, supper.dough
        assert plan is not None and dough is not None
        told, words = supper.told, supper.words_read
        assert told is not None and words is not None
        row = told.result
        answer = plan.answer
        # The card stands on the supper's sheet, line by line, and its pull is the row's first.
        assert row.oven is not None
        self.assertEqual([line.text.removesuffix(", before each") for line in row.oven.lines], [step["text"] for step in answer["card"]])
        self.assertEqual(row.oven.pizzas[0].done_s, answer["result"]["likely_done_s"])
        pull = answer["result"]["likely_done_s"]
        said = f"{round(pull) // 60}:{round(pull) % 60:02d}" if pull < 595 else f"{round(pull / 60)}"
        self.assertIn(said, days)
        # What is to be had is what is weighed.
        weighed = cook.send("POST", "/dough/batch", {"dough": dough.dough.model_dump(mode="json")})["formula"]
        have = {item.name: item.grams for item in told.lists.shopping}
        for line in weighed["rows"]:
            if line["ingredient"] != "water":
                self.assertAlmostEqual(have[line["name"]], line["total_g"], delta=0.02 * line["total_g"] + 0.1)
                self.assertIn(line["name"], batch)
                self.assertIn(line["name"], days)
        # Its hours are the dough's, where nobody changed them.
        if words.yeast == "as_is":
            self.assertEqual(row.yeast_pct, told.dough_yeast_pct or 0.0)
            self.assertAlmostEqual(sum(row.rise.hours), sum(step.hours for step in dough.dough.steps), delta=0.01)
