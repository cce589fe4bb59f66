"""Twenty-one kitchens, each from its own list to a card, a dough sheet and a supper sheet that agree."""

from __future__ import annotations

import traceback

from e2e.situations import SituationCase, situations


class _Played(SituationCase):
    numbers: tuple[str, ...] = ()

    def test_its_sheets_agree(self) -> None:
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
