"""Django's runner with each test's time and one plain line at the end; and the one Hypothesis profile of all tests."""

import gc
import os
import shutil
from pathlib import Path
from typing import Any

import hypothesis
from django.conf import settings
from django.test.runner import DiscoverRunner

from config.timings import TimedParallelSuite, TimedResult, summary

# A busy neighbour makes everything slow without any fault of the code: neither an example's time nor the drawing of it is a failure.
hypothesis.settings.register_profile(
    "mattone",
    deadline=None,
    suppress_health_check=[hypothesis.HealthCheck.too_slow, hypothesis.HealthCheck.data_too_large, hypothesis.HealthCheck.filter_too_much],
    print_blob=True,
)
hypothesis.settings.load_profile("mattone")


class CountingRunner(DiscoverRunner):
    """Prints the slowest tests, and `N passed, N failed` last. With MATTONE_TEST_TIMES=FILE every test's time is written there."""

    parallel_test_suite = TimedParallelSuite

    def get_resultclass(self) -> Any:
        return super().get_resultclass() or TimedResult

    def run_suite(self, suite: Any, **kwargs: Any) -> Any:
        # All modules are loaded by now and stay: looking through them for garbage again and again finds none.
        gc.freeze()
        gc.set_threshold(50_000, 20, 20)
        self.outcome = super().run_suite(suite, **kwargs)
        return self.outcome

    def teardown_test_environment(self, **kwargs: Any) -> None:
        super().teardown_test_environment(**kwargs)
        shutil.rmtree(settings.MEDIA_ROOT, ignore_errors=True)

    def run_tests(self, test_labels: Any, **kwargs: Any) -> int:
        failed = super().run_tests(test_labels, **kwargs)
        times = getattr(self.outcome, "times", [])
        if len(times) > 1:
            print(summary(times), flush=True)
        if file := os.environ.get("MATTONE_TEST_TIMES"):
            Path(file).write_text("".join(f"{seconds:.3f} {name}\n" for seconds, name in sorted(times, reverse=True)))
        run = self.outcome.testsRun
        skipped = len(self.outcome.skipped)
        print(f"{max(0, run - failed - skipped)} passed, {failed} failed" + (f", {skipped} skipped" if skipped else ""), flush=True)
        return failed
