"""Each test's time, in one process and in several."""

from __future__ import annotations

import io
import time
import unittest

from django.test import SimpleTestCase

from config.timings import TimedRemoteResult, TimedResult, summary


def sample() -> unittest.TestCase:
    """A test that is run by hand: made here, so that discovery does not find it."""

    class Sample(unittest.TestCase):
        def runTest(self) -> None:
            time.sleep(0.05)

    return Sample()


class Times(SimpleTestCase):
    def result(self) -> TimedResult:
        return TimedResult(unittest.runner._WritelnDecorator(io.StringIO()), False, 0)

    def test_of_one_process_and_of_another_are_the_same(self) -> None:
        here, there, replayed = self.result(), TimedRemoteResult(), self.result()
        sample().run(here)
        sample().run(there)
        for event in there.events:
            handler = getattr(replayed, event[0], None)
            if handler is not None:
                handler(sample(), *event[2:])
        for result in (here, replayed):
            ((seconds, name),) = result.times
            self.assertAlmostEqual(seconds, 0.05, delta=0.05)
            self.assertTrue(name.endswith("Sample.runTest"))
        self.assertEqual(replayed.testsRun, 1)

    def test_the_slowest_are_said_first(self) -> None:
        lines = summary([(1.0, "a.b.C.d"), (3.0, "a.b.C.e"), (2.0, "x.y.Z.q")]).splitlines()
        self.assertTrue(lines[0].startswith("6 s in 3 tests"))
        self.assertEqual([line.split()[2] for line in lines[1:4]], ["a.b.C.e", "x.y.Z.q", "a.b.C.d"])
        self.assertEqual(lines[-2].split(), ["4.0", "s", "a.b", "(2)"])
