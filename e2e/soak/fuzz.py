"""Requests by the ten thousand, drawn from the schema and with leaves gone bad: no 5xx; then the engine's own commands."""

from __future__ import annotations

import json
import random
import sys
import time
from collections import Counter
from collections.abc import Callable
from typing import Any

from django.test.runner import DiscoverRunner
from hypothesis import HealthCheck, Phase, given, settings
from hypothesis.strategies import SearchStrategy

from house.places import ROOT

SEED = 7
# Commands that bake much for one answer.
SLOW = ("coverage", "help_most", "match")


def main(arguments: list[str]) -> bool:
    requests = int(arguments[0]) if arguments else 15_000
    runner = DiscoverRunner(verbosity=0, interactive=False, keepdb=False)
    runner.setup_test_environment()
    before = runner.setup_databases()
    try:
        wrongs, sent, codes = _requests(requests)
    finally:
        runner.teardown_databases(before)
        runner.teardown_test_environment()
    print(f"fuzz: {sent} requests, answered {dict(sorted(codes.items()))}; {len(wrongs)} wrong")
    for line in wrongs[:10]:
        print(f"  {line}")
    crashes = _commands(max(20, requests // 50))
    return not wrongs and not crashes


def _requests(most: int) -> tuple[list[str], int, Counter[int]]:
    """A third drawn from the schema, a third whole ones with a bad leaf, a third of a wrong kind, by one who owns one of everything."""
    from django.test import Client

    from config.tests.requests_drawn import Drawn, from_schema, of_wrong_kind, with_bad_leaves, wrong
    from config.tests.test_fuzz import Hostile

    codes: Counter[int] = Counter()

    class Counting(Client):
        def generic(self, *words: Any, **more: Any) -> Any:
            response = super().generic(*words, **more)
            codes[response.status_code] += 1
            return response

    found: list[str] = []
    sent = 0

    class Soaked(Hostile):
        def runTest(self) -> None:
            nonlocal sent
            client = Counting(raise_request_exception=False)
            client.force_login(self.owner)
            whole = [(one.method.upper(), one.path, json.loads(one.body)) for one in self.requests() if one.method != "get" and one.body]
            leaves, strange = ([drawn for words in whole for drawn in draw(*words)] for draw in (with_bad_leaves, of_wrong_kind))
            for rows in (leaves, strange):
                random.Random(SEED).shuffle(rows)
            drawn_ones: list[Drawn] = list(from_schema(max(2, most // 3 // 70), seed=SEED, ids=self.ids))
            rest = max(0, most - len(drawn_ones))
            for drawn in (*drawn_ones, *leaves[: rest // 2], *strange[: rest - rest // 2]):
                told = wrong(client, drawn)
                sent += 1
                if told:
                    found.append(told)

    Soaked.setUpClass()
    try:
        result = Soaked().run()
        if result is not None:
            found.extend(text for _, text in (*result.errors, *result.failures))
    finally:
        Soaked.tearDownClass()
    return found, sent, codes


def _commands(examples: int) -> int:
    """Every command of the engine, far from usual and with leaves gone bad; how many went wrong."""
    sys.path.insert(0, str(ROOT / "engine" / "tests"))
    from drawn import EXAMPLES, broken, near, valid
    from mattone_engine.commands import COMMANDS
    from test_hostile import ends_well

    wrongs = 0
    for name, (model, _) in COMMANDS.items():
        began = time.monotonic()
        told = _wrongs(name, near(model, EXAMPLES[name]) | valid(model) | broken(EXAMPLES[name]), examples // 5 if name in SLOW else examples, ends_well)
        wrongs += len(told)
        print(f"  engine {name}: {time.monotonic() - began:.0f} s, {len(told)} wrong")
    return wrongs


def _wrongs(name: str, drawn: SearchStrategy[Any], examples: int, ends_well: Callable[[str, Any], str]) -> set[str]:
    told: set[str] = set()

    @settings(max_examples=examples, deadline=None, database=None, suppress_health_check=list(HealthCheck), phases=[Phase.generate])
    @given(drawn)
    def ask(one: Any) -> None:
        try:
            said = ends_well(name, one)
        except Exception as error:
            said = f"{type(error).__name__}: {str(error)[:120]}"
        if said and said not in told:
            told.add(said)
            print(f"  {name}: {said} on {json.dumps(one)[:400]}")

    ask()
    return told
