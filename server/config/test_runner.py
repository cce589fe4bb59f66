"""Django's runner with one plain line at the end."""

from typing import Any

from django.test.runner import DiscoverRunner


class CountingRunner(DiscoverRunner):
    """Prints `N passed, N failed` last."""

    def run_suite(self, suite: Any, **kwargs: Any) -> Any:
        self.outcome = super().run_suite(suite, **kwargs)
        return self.outcome

    def run_tests(self, test_labels: Any, **kwargs: Any) -> int:
        failed = super().run_tests(test_labels, **kwargs)
        run = self.outcome.testsRun
        skipped = len(self.outcome.skipped)
        print(f"{max(0, run - failed - skipped)} passed, {failed} failed" + (f", {skipped} skipped" if skipped else ""), flush=True)
        return failed
