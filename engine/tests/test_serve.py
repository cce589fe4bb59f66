"""The engine as a process: framed answers, one job at a time, given up on request."""

from __future__ import annotations

import io
import json
import os
import subprocess
import sys
import threading
from typing import Any
from unittest import TestCase

from mattone_engine.bake.parallel import AbandonedError, abandoned_when, in_parallel
from mattone_engine.commands import run
from mattone_engine.serve import serve, worked_out


def frame(name: str, request: Any) -> bytes:
    data = json.dumps(request).encode()
    return f"{name} {len(data)}\n".encode() + data


def result(requests: bytes) -> list[tuple[str, str]]:
    """What is answered to these, until they end."""
    answers = io.BytesIO()
    serve(io.BytesIO(requests), answers)
    rest, found = answers.getvalue(), []
    while rest:
        head, rest = rest.split(b"\n", 1)
        word, length = head.decode().split(" ")
        found.append((word, rest[: int(length)].decode()))
        rest = rest[int(length) :]
    return found


class Frames(TestCase):
    def test_each_request_has_its_answer_in_order(self) -> None:
        asks = [("water", {}), ("water", {"room_c": 30.0}), ("read", {"text": "500 g flour — crème"})]
        got = result(b"".join(frame(name, request) for name, request in asks))
        self.assertEqual(got, [("ok", run(name, json.dumps(request))) for name, request in asks])

    def test_refusals_and_strangers_do_not_end_it(self) -> None:
        got = result(frame("water", {"room_c": "warm"}) + frame("sing", {}) + frame("water", {}))
        self.assertEqual([word for word, _ in got], ["input", "input", "ok"])
        path, _, message = got[0][1].partition("\n")
        self.assertEqual(path, "room_c")
        self.assertIn("not a number", message)

    def test_an_end_in_the_middle_of_a_request_ends_it(self) -> None:
        self.assertEqual(result(b""), [])

    def test_it_ends_with_its_server(self) -> None:
        process = subprocess.Popen([sys.executable, "-m", "mattone_engine.serve"], stdin=subprocess.PIPE, stdout=subprocess.PIPE, env=os.environ)
        assert process.stdin is not None and process.stdout is not None
        process.stdin.write(frame("water", {}))
        process.stdin.flush()
        self.assertTrue(process.stdout.readline().startswith(b"ok "))
        process.stdin.close()
        self.assertEqual(process.wait(20), 0)
        process.stdout.close()


class Abandoned(TestCase):
    def test_work_stops_between_two_bakes(self) -> None:
        done: list[int] = []
        with self.assertRaises(AbandonedError), abandoned_when(lambda: len(done) >= 3):
            in_parallel(done.append, range(1000))
        self.assertLess(len(done), 50)
        # Afterwards nothing is given up any more.
        self.assertEqual(len(in_parallel(lambda i: i, range(10))), 10)

    def test_an_abandoned_job_says_so(self) -> None:
        gone = threading.Event()
        gone.set()
        rigs = {"rigs": [{"key": "a", "surface": {"kind": "stone", "thickness_mm": 17.3}}]}
        self.assertEqual(worked_out("match", json.dumps(rigs), gone), ("abandoned", ""))
