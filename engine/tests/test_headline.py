"""The line at the head of every view says what is chosen so far, and no more."""

from __future__ import annotations

from unittest import TestCase

from mattone_engine.dough.batch import DoughInput, StartInput, started
from mattone_engine.dough.rise import RiseStep
from mattone_engine.styles import style
from mattone_engine.supper.evening import EveningWords
from mattone_engine.supper.headline import NO_DATE, NO_OVEN, USUAL_DOUGH, headline

STEPS = (RiseStep(hours=2, temp_c=22), RiseStep(hours=20, temp_c=4, stage="balls", place="fridge"))
WORDS = EveningWords(serve_at="2026-12-05T19:30", pizzas=4, programme="cold_2")


def dough(count: int = 4) -> DoughInput:
    return started(StartInput(style="home_oven_round", count=count, steps=STEPS))


class Lines(TestCase):
    def test_nothing_is_chosen_yet(self) -> None:
        told = headline()
        self.assertEqual((told.when, told.what, told.where, told.dough), (NO_DATE, "No pizza chosen yet", NO_OVEN, USUAL_DOUGH))

    def test_a_whole_supper(self) -> None:
        told = headline(words=WORDS, dough=dough(), dough_name="Relief-boat rounds", support="10 mm steel", hearth="kitchen oven")
        self.assertEqual(told.when, "Saturday 5 December, 19:30")
        self.assertEqual(told.what, "Home-oven round: 4 of {250 g} each")
        self.assertEqual(told.where, "10 mm steel, kitchen oven")
        self.assertEqual(told.dough, "Relief-boat rounds, two days in the fridge")

    def test_each_part_stands_by_itself(self) -> None:
        self.assertEqual(headline(known=style("new_york"), hearth="flame oven").where, "flame oven")
        self.assertEqual(headline(known=style("new_york"), piece=style("new_york").dough()).what, "New York-style, {272 g}")
        self.assertEqual(headline(dough=dough(1)).what, "Home-oven round: 1 of {250 g}")
        self.assertEqual(headline(words=WORDS.model_copy(update={"programme": "own"}), dough=dough()).dough, "its own dough, its own hours")

    def test_pieces_for_another_day_are_not_counted(self) -> None:
        whole = dough()
        later = whole.formula.pieces[0].model_copy(update={"count": 2, "way": STEPS[1:]})
        both = whole.model_copy(update={"formula": whole.formula.having(pieces=(*whole.formula.pieces, later))})
        self.assertEqual(headline(dough=both).what, "Home-oven round: 4 of {250 g} each")
