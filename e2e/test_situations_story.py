"""Twenty-one kitchens, each from its own list to three sheets that agree, to the pull, into the book, and to the next one."""

from __future__ import annotations

import traceback

from bakes.tests.fewer import fewer_draws
from e2e.situation_evening import EveningCase
from e2e.situations import situations


class _Played(EveningCase):
    numbers: tuple[str, ...] = ()

    def setUp(self) -> None:
        super().setUp()
        self.enterContext(fewer_draws())

    def test_its_sheets_agree_and_the_next_one_is_changed_for_a_reason(self) -> None:
        # Every one is played, whatever became of the one before; told as text, for browsers do not travel between processes.
        failed = []
        for number in self.numbers:
            self.number = number
            try:
                self.play(number)
            except Exception:
                failed.append(f"{number}: {traceback.format_exc(limit=-3)}")
        self.assertFalse(failed, "\n".join(failed))


class FirstSituations(_Played):
    numbers = tuple(sorted(situations()))[:7]


class SecondSituations(_Played):
    numbers = tuple(sorted(situations()))[7:14]


class ThirdSituations(_Played):
    numbers = tuple(sorted(situations()))[14:]


del _Played
