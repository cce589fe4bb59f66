"""A hundred and twenty lists as people write them, each line against its right reading (`lists/`)."""

from __future__ import annotations

import re
from dataclasses import dataclass
from functools import cache
from pathlib import Path
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st
from mattone_engine.dough.batch import DoughInput, way_warnings
from mattone_engine.dough.formula import formula
from mattone_engine.dough.ingredients import ingredients
from mattone_engine.dough.lines import FormulaInput, Piece
from mattone_engine.dough.measures import to_grams
from mattone_engine.dough.read_line import Reading
from mattone_engine.dough.read_text import CorrectedInput, Correction, ReadInput, corrected, read_text
from mattone_engine.errors import InputError

LISTS = Path(__file__).with_name("lists")


@dataclass(frozen=True)
class Right:
    """What one thing of a line is: "-" left out, "?" to be asked about, else an ingredient with its grams, part and temperature."""

    kind: str
    part: str = ""
    key: str = ""
    amount: float = 0.0
    unit: str = ""
    temp_c: float | None = None

    def is_met_by(self, one: Reading) -> bool:
        if self.kind == "-":
            return one.ingredient == "" and one.grams is None and not one.problem
        if self.kind == "?":
            return not one.sure
        grams = one.amount if self.unit == "%" else one.grams
        wanted = self.amount if self.unit == "%" else to_grams(self.key, self.amount, self.unit)
        part = "poolish" if one.part == "sponge" else one.part
        return (
            one.ingredient == self.key and grams is not None and abs(grams - wanted) <= 0.01 * wanted and not one.problem and part == self.part
            and (self.temp_c is None or (one.temp_c is not None and abs(one.temp_c - self.temp_c) < 0.2))
        )  # fmt: skip


def right_of(text: str) -> Right:
    if text in "-?":
        return Right(text)
    found = re.fullmatch(r"(?:(\w+): )?(\w+) ([\d.]+) ([a-z %]+?)(?: @([\d.]+))?", text)
    assert found is not None and found.group(2) in ingredients(), text
    part, key, amount, unit, temp = found.groups()
    return Right("", part or "", key, float(amount), unit, float(temp) if temp else None)


@cache
def corpus() -> dict[str, list[tuple[str, list[Right]]]]:
    """Every list by its title: its lines, and what is right of each."""
    found: dict[str, list[tuple[str, list[Right]]]] = {}
    for file in sorted(LISTS.glob("*.txt")):
        for line in file.read_text(encoding="utf-8").splitlines():
            if line.startswith("## "):
                found[line[3:]] = []
            elif line and not line.startswith("#"):
                text, _, said = line.rpartition(" | ")
                found[next(reversed(found))].append((text, [right_of(one) for one in said.split(" + ")]))
    return found


class Corpus(TestCase):
    def test_no_wrong_line_is_sure_and_nearly_all_are_right(self) -> None:
        lists = corpus()
        self.assertGreaterEqual(len(lists), 120)
        told, right, wrong, sure = 0, 0, [], []
        for title, lines in lists.items():
            readings = read_text(ReadInput(text="\n".join(text for text, _ in lines))).readings
            wanted = [(text, one) for text, rights in lines for one in rights]
            with self.subTest(title):
                self.assertEqual(len(readings), len(wanted), [one.text for one in readings])
            for (text, one), reading in zip(wanted, readings, strict=False):
                told += 1
                right += (met := one.is_met_by(reading))
                if not met:
                    wrong.append(f"{title}: {text!r} as {reading!r}")
                if not met and reading.sure:
                    sure.append(f"{title}: {text!r}")
        self.assertEqual(sure, [], "wrong and marked sure")
        self.assertGreaterEqual(right / told, 0.95, "\n".join(wrong))

    def test_what_is_plain_is_sure(self) -> None:
        """A reader that is never sure would pass the other test."""
        lines = [(text, rights) for lines in corpus().values() for text, rights in lines if rights[0].kind == "" and rights[0].unit in ("g", "kg", "oz", "lb")]
        sure = 0
        for text, _ in lines:
            sure += read_text(ReadInput(text=text)).readings[0].sure
        self.assertGreater(sure / len(lines), 0.85)


class Parts(TestCase):
    def test_parts_of_a_list_are_made_before_and_count_in_the_whole(self) -> None:
        apart = read_text(ReadInput(text="Poolish:\n200 g flour\n200 g water\n0.4 g instant yeast\nDough:\n800 g flour\n450 g water\n22 g salt"))
        whole = read_text(ReadInput(text="1000 g flour\n650 g water\n0.4 g instant yeast\n22 g salt"))
        self.assertEqual({line.ingredient: round(line.pct, 6) for line in apart.lines}, {line.ingredient: round(line.pct, 6) for line in whole.lines})
        (poolish,) = apart.preferments
        self.assertEqual((poolish.kind, poolish.flour_pct, poolish.hydration_pct, round(poolish.yeast_pct, 6)), ("poolish", 20.0, 100.0, 0.2))
        # It is a dough that can be worked out as it is.
        self.assertAlmostEqual(formula(FormulaInput(lines=apart.lines, preferments=apart.preferments, pieces=(Piece(mass_g=1000),))).hydration_pct, 65.0)

    def test_a_correction_leaves_the_parts_as_they_are(self) -> None:
        told = read_text(ReadInput(text="For the paste:\n40 g flour\n160 g milk\nDough\n460 g flour\n200 g milk\nTopping\n100 g water"))
        lines = [Correction(text=r.text, ingredient=r.ingredient, amount=r.amount, unit=r.unit or "g", part=r.part) for r in told.readings]
        again = corrected(CorrectedInput(lines=tuple(lines)))
        self.assertEqual(again.preferments, told.preferments)
        self.assertEqual([p.kind for p in told.preferments], ["paste"])
        self.assertEqual(again.lines, told.lines)
        self.assertEqual(again.dough_g, 860.0)

    def test_a_thick_sponge_is_a_biga(self) -> None:
        for water, kind in ((100, "poolish"), (55, "biga")):
            told = read_text(ReadInput(text=f"Sponge:\n100 g flour\n{water} g water\nDough:\n400 g flour\n200 g water"))
            self.assertEqual([p.kind for p in told.preferments], [kind])


class Minds(TestCase):
    def test_cups_that_make_a_soup_say_what_dipping_would_make_of_it(self) -> None:
        told = read_text(ReadInput(text="3 cups flour\n1 1/2 cups water\n1 tsp salt"))
        self.assertIn("99 % water is wet", told.minds)
        self.assertIn("dipped it would be 84 %", told.minds)
        for text in ("3 cups flour\n1 cup water", "360 g flour\n355 g water"):
            self.assertEqual(read_text(ReadInput(text=text)).minds, "")

    def test_how_warm_a_recipe_wants_its_water_is_kept_and_told(self) -> None:
        one = read_text(ReadInput(text="500 g flour\n300 g water at 105 F")).readings[1]
        self.assertEqual((one.temp_c, one.grams, one.sure), (40.6, 300.0, True))
        self.assertIn("{40.6 C}", one.note)
        hot = read_text(ReadInput(text="500 g flour\n300 g water (60°C)")).readings[1]
        self.assertIn("kills yeast", hot.note)
        # Of nothing but a liquid.
        self.assertIsNone(read_text(ReadInput(text="500 g flour at 20 C")).readings[0].temp_c)

    def test_the_protein_of_a_flour_is_kept_and_counts(self) -> None:
        for said in ("13.2% protein", "13,2 % protein", "protein 13.2 %", "protein content: 13.2%"):
            told = read_text(ReadInput(text=f"500 g bread flour ({said})\n325 g water\n10 g salt"))
            with self.subTest(said):
                self.assertEqual([one.protein_pct for one in told.lines], [13.2, None, None])
                self.assertEqual((told.readings[0].grams, told.readings[0].sure, told.lines[1].pct), (500.0, True, 65.0))
                self.assertIn("13.2 % protein, kept", told.readings[0].note)
        # Of two lines of one flour the mean, where both say it; nonsense is not taken.
        both = "300 g plain flour, 10 % protein\n100 g plain flour, 12 % protein\n260 g water"
        self.assertEqual(read_text(ReadInput(text=both)).lines[0].protein_pct, 10.5)
        self.assertIsNone(read_text(ReadInput(text=both.replace("12 % protein", ""))).lines[0].protein_pct)
        self.assertIsNone(read_text(ReadInput(text="500 g flour, 90 % protein\n300 g water")).lines[0].protein_pct)
        # Another amount is another amount; what its bag says stays.
        put_right = CorrectedInput(lines=({"text": "500 g flour", "ingredient": "plain_flour", "amount": 400.0, "protein_pct": 11.0},))
        self.assertEqual(corrected(put_right).lines[0].protein_pct, 11.0)
        self.assertIsNone(
            corrected(CorrectedInput(lines=({"text": "10 g salt", "ingredient": "salt", "amount": 9.0, "protein_pct": 11.0},))).readings[0].protein_pct
        )
        # What is no ingredient at all is asked about.
        strange = CorrectedInput(lines=({"text": "plain", "ingredient": "sawdust", "protein_pct": 11.0},))
        self.assertTrue(corrected(strange).readings[0].problem)
        # A weak flour is minded by what it says of itself, not by its kind.
        for pct, minded in ((9.0, True), (12.9, False)):
            lines = ({"ingredient": "bread_flour", "pct": 100, "protein_pct": pct}, {"ingredient": "water", "pct": 62})
            dough = DoughInput(formula={"lines": lines, "pieces": ({"count": 2, "mass_g": 250},)}, steps=({"hours": 48, "temp_c": 4},))
            self.assertEqual(any("protein is weak" in one.text for one in way_warnings(dough)), minded, pct)

    def test_names_as_lists_of_other_countries_have_them(self) -> None:
        for text, ingredient, sure in (
            ("500 g farine T55", "plain_flour", True), ("500 g farina Manitoba", "bread_flour", True), ("500 g farina tipo 0", "plain_flour", True),
            ("200 g pasta madre", "starter", True),
            ("7 g lievito di birra secco", "instant_yeast", True), ("25 g lievito di birra fresco", "fresh_yeast", True),
            # Which of the two is not said: asked about.
            ("12 g lievito di birra", "fresh_yeast", False),
        ):  # fmt: skip
            one = read_text(ReadInput(text=text)).readings[0]
            self.assertEqual((one.ingredient, one.sure), (ingredient, sure), text)

    def test_shares_alone_make_a_dough_of_a_kilogram_of_flour_and_other_shares_ask(self) -> None:
        told = read_text(ReadInput(text="bread flour 80%\nrye flour 20%\nwater 68%\nsalt 2%"))
        self.assertEqual({line.ingredient: line.pct for line in told.lines}, {"bread_flour": 80.0, "rye_flour": 20.0, "water": 68.0, "salt": 2.0})
        self.assertEqual(told.dough_g, 1700.0)
        asked = read_text(ReadInput(text="water 68%\nsalt 2%"))
        self.assertTrue(all("how much flour" in one.problem for one in asked.readings))

    @given(st.sampled_from(sorted(key for key, thing in ingredients().items() if thing.role == "flour" and not thing.gluten)), st.integers(50, 900), st.data())
    def test_no_flour_without_gluten_is_ever_read_as_wheat(self, key: str, grams: int, data: st.DataObject) -> None:
        name = data.draw(st.sampled_from((ingredients()[key].name, *ingredients()[key].words)))
        dressed = data.draw(st.sampled_from(("{} g {}", "{}g of {}", "{} g organic {}", "{} g fine {}, sifted", "{} g {} (or more)")))
        one = read_text(ReadInput(text=dressed.format(grams, name))).readings[0]
        self.assertTrue(one.ingredient == "" or not ingredients()[one.ingredient].gluten, one)
        self.assertTrue(one.ingredient == key or not one.sure, one)

    @given(st.text(max_size=400))
    @settings(max_examples=200)
    def test_whatever_is_pasted_is_read_or_refused_in_words(self, text: str) -> None:
        try:
            told = read_text(ReadInput(text=text))
        except InputError:
            return
        self.assertTrue(all(one.grams is None or 0.0 < one.grams <= 30000.0 for one in told.readings))
        self.assertTrue(all(line.pct <= 150.0 for line in told.lines))
