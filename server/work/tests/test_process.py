"""The engine beside the server: it answers alike, gives up what nobody waits for, and comes back when it dies."""

from __future__ import annotations

import os
import threading
import time
from concurrent.futures import ThreadPoolExecutor
from io import BytesIO
from typing import Any
from unittest.mock import patch

from django.test import RequestFactory, TestCase, override_settings
from mattone_engine.bake.controls import Controls
from mattone_engine.bake.match import MatchInput, MatchRig
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.commands import run
from mattone_engine.errors import InputError
from mattone_engine.things import Surface

from accounts.ownership import cook_id
from demo.loading import load_demo
from work import answers
from work.answers import answer_text, client_gone, question_key
from work.fair import BusyError, FairLine, GoneError
from work.models import MOST_KEPT, KeptAnswer, keep, kept, prune
from work.process import EngineDiedError, EngineFaultError, EnginePool, EngineProcess

ASK = PlanInput(surface=Surface(kind="steel", thickness_mm=10.0), controls=Controls(setpoint_c=250.0, level=3, preheat_min=45.0))
# Some seconds of work, to be given up in the middle.
LONG = MatchInput(rigs=tuple(MatchRig(key=f"r{i}", surface=Surface(kind="stone", thickness_mm=10.0 + i)) for i in range(24)))


def stay() -> bool:
    return False


class Beside(TestCase):
    """One process for all: its kernels are loaded once."""

    engine = EngineProcess()

    @classmethod
    def tearDownClass(cls) -> None:
        cls.engine.end()
        super().tearDownClass()

    def test_it_answers_as_in_the_server_itself(self) -> None:
        told = self.engine.answer("plan", ASK.model_dump_json(), gone=stay, longest_s=60.0)
        self.assertEqual(told, run("plan", ASK.model_dump_json()))

    def test_a_refusal_keeps_its_place(self) -> None:
        with self.assertRaises(InputError) as refused:
            self.engine.answer("plan", '{"people": "many"}', gone=stay, longest_s=60.0)
        self.assertEqual(refused.exception.path, "people")
        with self.assertRaises(InputError):
            self.engine.answer("sing", "{}", gone=stay, longest_s=60.0)

    def test_what_nobody_waits_for_is_given_up_and_the_process_goes_on(self) -> None:
        self.engine.answer("water", "{}", gone=stay, longest_s=60.0)
        process, left = self.engine._process, threading.Event()
        threading.Timer(0.3, left.set).start()
        began = time.monotonic()
        with self.assertRaises(GoneError):
            self.engine.answer("match", LONG.model_dump_json(), gone=left.is_set, longest_s=60.0)
        self.assertLess(time.monotonic() - began, 3.0)
        self.assertIs(self.engine._process, process, "it was asked to stop, not ended")
        self.engine.answer("water", "{}", gone=stay, longest_s=60.0)

    def test_what_takes_too_long_is_told_as_busy(self) -> None:
        with self.assertRaises(BusyError):
            self.engine.answer("match", LONG.model_dump_json(), gone=stay, longest_s=0.2)

    def test_a_fault_of_the_engine_is_a_fault(self) -> None:
        process = self.engine._running()
        process.stdin, kept_in = BytesIO(), process.stdin
        process.stdout, kept_out = _spoken(b"fault 9\nTraceback"), process.stdout
        try:
            with self.assertRaises(EngineFaultError) as fault:
                self.engine.answer("water", "{}", gone=stay, longest_s=60.0)
        finally:
            process.stdin, process.stdout = kept_in, kept_out
        self.assertIn("Traceback", str(fault.exception))

    def test_a_killed_process_is_begun_again(self) -> None:
        pool = EnginePool(1)
        try:
            pool.answer("water", "{}", gone=stay, longest_s=60.0)
            victim = pool._idle[0]._process
            assert victim is not None
            victim.kill()
            victim.wait()
            self.assertTrue(pool.answer("water", "{}", gone=stay, longest_s=60.0))
            # Killed in the middle of a job: done once more, by a new one.
            victim = pool._idle[0]._process
            assert victim is not None
            threading.Timer(0.1, victim.kill).start()
            self.assertTrue(pool.answer("plan", ASK.model_dump_json(), gone=stay, longest_s=60.0))
        finally:
            pool.end()


def _spoken(data: bytes) -> Any:
    """A pipe that says this."""
    read, write = os.pipe()
    os.write(write, data)
    os.close(write)
    return os.fdopen(read, "rb")


class Asking(TestCase):
    def setUp(self) -> None:
        self.cook, _ = load_demo()
        self.request = RequestFactory().get("/")
        self.request.user = self.cook
        answers.recent.__init__(32_000_000)  # type: ignore[misc]

    def test_the_same_question_is_worked_out_once(self) -> None:
        with patch.object(answers, "run", wraps=run) as worked:
            first = answer_text(self.request, "plan", ASK)
            self.assertEqual(answer_text(self.request, "plan", ASK), first)
            # Another process finds it in the database.
            answers.recent.__init__(32_000_000)  # type: ignore[misc]
            self.assertEqual(answer_text(self.request, "plan", ASK), first)
            other = ASK.model_copy(update={"people": 5})
            answer_text(self.request, "plan", other)
        self.assertEqual(worked.call_count, 2)

    def test_who_asks_the_same_meanwhile_waits_for_the_one_answer(self) -> None:
        calls, started, go = [], threading.Event(), threading.Event()

        def slow(request: Any, name: str, text: str) -> str:
            calls.append(text)
            started.set()
            go.wait(5)
            return "answer"

        with patch.object(answers, "_turn", slow), ThreadPoolExecutor(4) as threads:
            first = threads.submit(answer_text, self.request, "plan", ASK, keep_it=False)
            started.wait(5)
            others = [threads.submit(answer_text, self.request, "plan", ASK, keep_it=False) for _ in range(3)]
            time.sleep(0.05)
            go.set()
            self.assertEqual([one.result(5) for one in (first, *others)], ["answer"] * 4)
        self.assertEqual(len(calls), 1)

    def test_when_the_first_who_asked_leaves_another_goes_on(self) -> None:
        calls: list[int] = []
        started, go = threading.Event(), threading.Event()

        def first_leaves(request: Any, name: str, text: str) -> str:
            calls.append(1)
            if len(calls) == 1:
                started.set()
                go.wait(5)
                raise GoneError
            return "answer"

        with patch.object(answers, "_turn", first_leaves), ThreadPoolExecutor(2) as threads:
            leaves = threads.submit(answer_text, self.request, "plan", ASK, keep_it=False)
            started.wait(5)
            stays = threads.submit(answer_text, self.request, "plan", ASK, keep_it=False)
            time.sleep(0.05)
            go.set()
            self.assertEqual(stays.result(5), "answer")
            self.assertIsInstance(leaves.exception(5), GoneError)

    def test_an_error_is_told_to_all_and_not_kept(self) -> None:
        bad = ASK.model_copy(update={"hearth": ASK.hearth.model_copy(update={"max_setpoint_c": 105.0}), "controls": None})
        for _ in range(2):
            with self.assertRaises(InputError):
                answer_text(self.request, "plan", bad)
        self.assertIsNone(kept(question_key("plan", bad.model_dump_json())))

    @override_settings(ENGINE_PROCESSES=True)
    def test_an_engine_that_will_not_live_is_told_as_busy(self) -> None:
        with patch.object(answers, "pool") as pool:
            pool.return_value.answer.side_effect = EngineDiedError
            with self.assertRaises(BusyError):
                answer_text(self.request, "plan", ASK, keep_it=False)

    def test_a_full_line_is_429_with_a_time_in_json(self) -> None:
        self.client.force_login(self.cook)
        kitchen = self.client.get("/api/kitchen").json()
        sentence = {"hearth_id": kitchen["hearths"][0]["id"], "surface_id": kitchen["surfaces"][0]["id"], "people": 7}
        for most, each, status in ((5, 0, 429), (0, 5, 503)):
            with patch.object(answers, "line", lambda most=most, each=each: FairLine(1, most, each)):
                refused = self.client.post("/api/plans/preview", {"sentence": sentence}, content_type="application/json")
            self.assertEqual(refused.status_code, status)
            self.assertGreaterEqual(int(refused.headers["Retry-After"]), 1)
            self.assertTrue(refused.json()["error"]["message"])

    def test_a_request_knows_when_its_browser_left(self) -> None:
        self.assertFalse(client_gone(self.request))
        left = threading.Event()
        self.request.scope = {"mattone.gone": left}  # type: ignore[attr-defined]
        self.assertFalse(client_gone(self.request))
        left.set()
        self.assertTrue(client_gone(self.request))
        self.assertEqual(cook_id(self.request), self.cook.pk)


class Pruning(TestCase):
    def test_the_newest_are_kept(self) -> None:
        keep("first", "1")
        KeptAnswer.objects.bulk_create(KeptAnswer(key=f"k{i}", engine="x", body="b") for i in range(MOST_KEPT))
        prune()
        self.assertLessEqual(KeptAnswer.objects.count(), MOST_KEPT // 2)
        self.assertIsNone(kept("first"))
        keep("new", "2")
        keep("new", "another process had the same")
        self.assertEqual(kept("new"), "2")
