"""Kitchens of many kinds with their own sizes, entered by page in inches and Fahrenheit as in centimetres and Celsius."""

from __future__ import annotations

from dataclasses import dataclass

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement

from e2e.story import StoryCase
from kitchen.models import Hearth, Pan, Surface


@dataclass(frozen=True)
class Entered:
    """A thing begun from one of the catalogue, with what is typed over: field, unit as it is kept, value there."""

    noun: str
    begun_from: str
    name: str
    typed: tuple[tuple[str, str, str, float], ...]


def hearth(begun_from: str, name: str, most_c: float, levels: int = 4) -> Entered:
    return Entered("hearth", begun_from, name, (("dial goes to", "°C", "max_setpoint_c", most_c), ("rack levels", "", "levels", levels)))


def support(noun: str, begun_from: str, name: str, wide: float, deep: float, thick: float, *more: tuple[str, str, str, float]) -> Entered:
    first, second = ("diameter", "across it (an oval)") if "iron" in begun_from else ("width", "depth")
    sizes = ((first, "cm", "width_cm", wide), (second, "cm", "depth_cm", deep), ("thickness", "mm", "thickness_mm", thick))
    return Entered(noun, begun_from, name, (*sizes, *more))


WALL = ("height of its wall", "cm", "wall_cm")
TWO = ("how many of them", "", "quantity", 2)
FLOOR = ("its floor or grate gets to", "°C", "max_setpoint_c")
FIRE, HOT_BOX = (Entered("hearth", "flame oven", name, ((*FLOOR, most_c),)) for name, most_c in (("08 fire", 455.0), ("10 hot box", 399.0)))

# Invented figures of situations, a hearth and what is baked on in each: every kind of thing once, and a pan of its own wall.
KITCHENS = (
    (hearth("electric oven", "01 oven", 248.0), support("pan", "26 cm cast-iron pan", "01 pan", 25.4, 25.4, 4.5)),
    (hearth("gas oven", "02 oven", 262.0, 3), support("surface", "6 mm steel", "02 steel", 40.6, 35.6, 6.4)),
    (hearth("electric oven", "03 oven", 232.0), support("pan", "bright sheet", "03 half sheets", 45.7, 33.0, 1.0, TWO)),
    (hearth("electric oven", "05 oven", 240.0), support("pan", "thin tray", "05 large tray", 43.2, 36.8, 0.8)),
    (FIRE, support("surface", "30 mm firebrick", "08 floor", 60.0, 60.0, 38.0)),
    (HOT_BOX, support("surface", "15 mm stone", "10 stone", 31.8, 31.8, 12.0)),
    (hearth("electric oven", "15 oven", 260.0), support("pan", "dark aluminium pan", "15 half sheet", 45.7, 33.0, 1.2, (*WALL, 2.5))),
    (hearth("electric oven", "16 oven", 271.0), support("pan", "blue-steel tray", "16 sheet", 39.4, 29.8, 1.5)),
)  # fmt: skip
AMERICAN = {"°C": "°F", "cm": "in", "mm": "in", "": ""}
PER = {"cm": 1 / 2.54, "mm": 1 / 25.4}


def shown(unit: str, kept: float) -> float:
    """As a cook of inches and Fahrenheit types it, to what a rule and a dial show."""
    return round(kept * 1.8 + 32) if unit == "°C" else round(kept * PER[unit], 3) if unit else kept


class KitchensStory(StoryCase):
    def test_kitchens_are_entered_in_both_systems(self) -> None:
        page = self.signed_in()
        page.press("1")
        page.one("[data-thing='kitchen oven']")
        for i, things in enumerate(KITCHENS):
            american = i % 2 == 0
            if american != bool(page.driver.execute_script("return localStorage.getItem('units') === 'us'")):
                page.driver.execute_script("document.activeElement.blur()")
                page.press("u")
            for thing in things:
                self.enter(thing, american=american)
        # What was typed in one system reads as typed, and as what it is in the other.
        kept = {row.name: row for model in (Hearth, Surface, Pan) for row in model.objects.filter(deleted_at=None)}
        for i, things in enumerate(KITCHENS):
            for thing in things:
                for _, unit, field, value in thing.typed:
                    with self.subTest(thing.name, field=field):
                        wanted = value if i % 2 or not unit else (shown(unit, value) - 32) / 1.8 if unit == "°C" else shown(unit, value) / PER[unit]
                        self.assertAlmostEqual(getattr(kept[thing.name], field), wanted, places=2)
        self.assertEqual(self.console(), [])

    def enter(self, thing: Entered, *, american: bool) -> None:
        page = self.page
        page.texted("button", lambda text: text in (f"Add a {thing.noun}", f"Add an {thing.noun}")).click()
        page.texted("[role=dialog] button", lambda text: text == thing.begun_from).click()
        page.wait(lambda: page.one("aside h2").text.startswith(thing.begun_from))
        self.put(page.one("aside form input"), thing.name)
        for label, unit, _, value in thing.typed:
            named = f"{label}, {AMERICAN[unit] if american else unit}" if unit else label
            self.put(page.one(f"aside input[aria-label='{named}']"), f"{shown(unit, value) if american else value:g}")
        page.button("Keep").click()
        refused = page.wait(
            lambda: (
                [a.text for a in self.driver.find_elements(By.CSS_SELECTOR, "aside [role=alert]")]
                or self.driver.find_elements(By.CSS_SELECTOR, f"[data-thing='{thing.name}']")
            )
        )
        self.assertFalse([text for text in refused if isinstance(text, str)], thing.name)
        page.wait(lambda: not page.has_text("changed, not kept yet"))

    def put(self, field: WebElement, text: str) -> None:
        field.send_keys(Keys.CONTROL, "a")
        field.send_keys(text)
