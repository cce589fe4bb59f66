"""The evening of a situation: baked with the view at hand, into the book as it came, and the next one changed for a reason."""

from __future__ import annotations

import math
import re
import uuid
from collections.abc import Callable
from datetime import datetime, timedelta
from typing import Any

from django.utils import timezone
from logbook.models import Entry
from selenium.webdriver.common.keys import Keys

from e2e.situations import Cook, SituationCase
from plans.models import Plan
from timeline.models import Supper

# So near its target a crust is as wanted, L*.
NEAR_L = 12.0
# How it came, unless its situation says otherwise: a word paler than foretold, base and rim, L*.
PALER = {"base_l": 8.0, "rim_l": 7.0, "score": 6, "next_time": "browner"}


class EveningCase(SituationCase):
    """A situation to its end."""

    def play(self, number: str) -> None:
        super().play(number)
        cook = self.cook
        supper = Supper.objects.get(owner=cook.user)
        plan = supper.plan
        assert plan is not None
        entry_id = self.baked(cook, supper, plan)
        self.came(cook, entry_id)
        self.known_next_time(cook, supper, plan)
        self.changed_for_a_reason(entry_id, plan)
        # What this kitchen alone must show.
        also: Callable[[Plan], None] = getattr(self, f"also_{number}", lambda _: None)
        also(plan)

    def also_02(self, plan: Plan) -> None:
        """The same afternoon, or five days cold: dosed for either, its balls are ripe, with ever less yeast."""
        dough = self.cook.send("POST", "/dough/start", {"plan": {"sentence": plan.said.words.model_dump(mode="json")}})
        doses = []
        for hours in (
            (("balls", "room", 2.0, 22.0),),
            (("balls", "fridge", 40.0, 4.0), ("balls", "room", 1.5, 21.0)),
            (("balls", "fridge", 118.0, 4.0), ("balls", "room", 1.5, 21.0)),
        ):
            steps = [
                {"stage": stage, "place": place, "hours": for_h, "temp_c": temp_c} for stage, place, for_h, temp_c in (("bulk", "room", 1.0, 21.0), *hours)
            ]
            rise = self.cook.send("POST", "/dough/batch", {"dough": dough | {"steps": steps}, "solve": "yeast"})["rise"]
            self.assertEqual((rise["windows"][-1]["word"], rise["good"]), ("ripe", True))
            doses.append(rise["yeast_pct"])
        self.assertGreater(doses[0], 1.5 * doses[1])
        self.assertGreater(doses[1], 1.3 * doses[2])

    def also_09(self, plan: Plan) -> None:
        """High under the element first, then down onto the lower steel, the element off by then."""
        controls = plan.answer["controls"]
        self.assertLess(controls["overhead"]["level"], controls["level"])
        self.assertLessEqual(controls["top_element"]["off_s"], controls["move"]["at_s"])
        self.go(f"/supper/{plan.supper.pk}/plan")
        self.page.one("[data-testid=flag-move]")
        self.page.says("second deck")

    def also_14(self, plan: Plan) -> None:
        """Deck, not dial: what ten, twenty and thirty minutes give, by key on the strip of its plan."""
        page = self.page
        self.go(f"/supper/{plan.supper.pk}/plan")
        handle, found = page.one("[data-testid=heat-on]"), []
        for minutes in (30, 20, 10):
            handle.send_keys(Keys.ARROW_RIGHT * ((page.preheat() - minutes) // 5))
            page.wait(lambda minutes=minutes: page.preheat() == minutes)
            page.settled()
            section = page.one("[aria-label='The section']").text
            deck = re.search(r"deck (\d+) °C", section)
            assert deck, section
            found.append((int(deck.group(1)), page.one("[aria-label='The slice'] dd").text))
        decks = [deck for deck, _ in found]
        self.assertEqual(decks, sorted(decks, reverse=True))
        self.assertLess(decks[-1], decks[0] - 60)
        self.assertIn("golden", found[0][1])
        self.assertIn("pale", found[-1][1])
        page.says("not here")

    def baked(self, cook: Cook, supper: Supper, plan: Plan) -> int:
        """Its first pizza, launched so long ago that it is due; out again. The entry that comes of it."""
        controls, told = plan.answer["controls"], plan.answer["result"]
        now = timezone.now()
        launched = now - timedelta(seconds=told["likely_done_s"])
        heat_on = launched - timedelta(minutes=controls["preheat_min"])
        bake = cook.send("POST", "/bakes", {"supper_id": supper.pk, "pizzas": 1, "heat_on_at": heat_on.isoformat()})
        self.tell(cook, bake["id"], "launched", launched)
        if self.by_page:
            self.pulled_by_page(bake["id"])
        else:
            self.tell(cook, bake["id"], "pulled", timezone.now())
            self.tell(cook, bake["id"], "ended", timezone.now())
        self.assertEqual(cook.client.get(f"/api/bakes/{bake['id']}").json()["stage"], "ended")
        # The server makes it by itself; the book would, where that is not through yet.
        cook.send("POST", "/logbook/take-in", {})
        entries = list(Entry.objects.filter(bake_id=bake["id"]).values_list("pk", flat=True))
        self.assertEqual(len(entries), 1)
        return int(entries[0])

    @property
    def by_page(self) -> bool:
        """Whether its evening is the page's too: where something of its own is to be seen. The others' goes through the same doors."""
        return "change" in self.cook.told or hasattr(self, f"also_{self.number}")

    @staticmethod
    def tell(cook: Cook, bake_id: int, kind: str, at: datetime) -> None:
        event = {"id": str(uuid.uuid4()), "kind": f"bake.{kind}", "subject_id": bake_id, "at": at.isoformat(), "payload": {}}
        cook.send("POST", "/events", {"events": [event]})

    def pulled_by_page(self, bake_id: int) -> None:
        """Out of the oven and to the end by the page's own buttons."""
        page = self.page
        self.driver.get(f"{page.base}/bake/{bake_id}")
        page.one("[data-testid=bake][data-stage=baking]")
        page.wait(lambda: page.one("[data-testid=next]").text, 40)
        page.button("I pulled it").click()
        page.one("[data-testid=bake][data-stage=pulled]")
        page.button("End this bake").click()
        page.one("[data-testid=bake][data-stage=ended]")
        page.wait(lambda: self.cook.client.get(f"/api/bakes/{bake_id}").json()["stage"] == "ended")

    def came(self, cook: Cook, entry_id: int) -> None:
        """How it came, told against what was foretold of it."""
        entry = cook.client.get(f"/api/logbook/{entry_id}").json()
        how = PALER | cook.told.get("came", {})
        self.assertIsNotNone(entry["foretold"])
        came: dict[str, Any] = {part: min(84.0, entry["foretold"][f"{part}_l"] + how[f"{part}_l"]) for part in ("base", "rim")}
        came |= {key: how[key] for key in ("score", "next_time", "faults") if key in how}
        body = {"name": entry["name"], "pulled_min": entry["pulled_s"] / 60.0, "counts": None, "came": entry["came"] | came}
        entry = cook.send("PUT", f"/logbook/{entry_id}?version={entry['version']}", body)
        self.assertEqual(entry["teaches_not"], "", "what was seen of it teaches")

    def known_next_time(self, cook: Cook, supper: Supper, plan: Plan) -> None:
        """The same once more: by what this bake taught its pull comes later, and its window is narrower."""
        sentence = plan.said.words.model_dump(mode="json")
        made = supper.dough.dough.model_dump(mode="json") if supper.dough is not None else None
        again = cook.send("POST", "/plans/preview", {"sentence": sentence, "controls": plan.answer["controls"], "dough": made})["result"]["result"]
        before = plan.answer["result"]
        width = [math.log(told["not_later_s"] / told["look_from_s"]) for told in (before, again)]
        self.assertLess(width[1], 0.97 * width[0])
        self.assertGreater(again["likely_done_s"], before["likely_done_s"])

    def changed_for_a_reason(self, entry_id: int, plan: Plan) -> None:
        """The book offers one thing to be changed, and why; planned, that one thing is different and no other."""
        cook, why = self.cook, str(self.cook.told.get("change", ""))
        offers = [one for one in cook.client.get(f"/api/logbook/{entry_id}/next").json()["changes"] if one["nearer"]]
        if not offers and not why:
            # It came out as wanted, for it was foretold darker than that: there is nothing to change.
            came, wanted = cook.client.get(f"/api/logbook/{entry_id}").json()["came"], plan.answer["wanted"]
            for part in ("base", "rim"):
                self.assertLess(abs(came[part] - wanted[f"{part}_l"]), NEAR_L, part)
            return
        self.assertTrue(offers and all("pull at" in one["effect"] for one in offers), offers)
        self.assertTrue(not why or any(one["label"] == why for one in offers[:4]), offers)
        chosen = next((one for one in offers[:4] if one["of"] == "control"), None)
        if chosen is None:
            # The minutes, the dough or its topping: nothing that a plan's controls hold.
            self.assertTrue(all(one["of"] in ("pull", "dough", "topping", "deck") for one in offers[:4]))
            return
        if self.by_page:
            changed = self.planned_by_page(entry_id)
        else:
            sentence = plan.said.words.model_dump(mode="json")
            changed = cook.send("POST", "/plans", {"name": "the next one", "sentence": sentence, "controls": chosen["controls"]})["result"]["controls"]
        before = plan.answer["controls"]
        self.assertEqual(len([key for key in before if before[key] != changed[key]]), 1, (before, changed))

    def planned_by_page(self, entry_id: int) -> dict[str, Any]:
        """The first change of the book's page, planned there: its controls."""
        page = self.page
        self.driver.get(f"{page.base}/logbook/{entry_id}")
        page.one("button[aria-label^='Plan it: ']").click()
        page.wait(lambda: "/supper/new/plan" in self.driver.current_url)
        page.settled()
        controls: dict[str, Any] = Plan.objects.filter(owner=self.cook.user, part=False).latest("id").answer["controls"]
        return controls
