"""Django's runner with one plain line at the end."""

import shutil
from typing import Any

from django.conf import settings
from django.test.runner import DiscoverRunner


class CountingRunner(DiscoverRunner):
    """Prints `N passed, N failed` last."""

    def run_suite(self, suite: Any, **kwargs: Any) -> Any:
        self.outcome = super().run_suite(suite, **kwargs)
        return self.outcome

    def teardown_test_environment(self, **kwargs: Any) -> None:
        super().teardown_test_environment(**kwargs)
        shutil.rmtree(settings.MEDIA_ROOT, ignore_errors=True)

    def run_tests(self, test_labels: Any, **kwargs: Any) -> int:
        failed = super().run_tests(test_labels, **kwargs)
        run = self.outcome.testsRun
        skipped = len(self.outcome.skipped)
        print(f"{max(0, run - failed - skipped)} passed, {failed} failed" + (f", {skipped} skipped" if skipped else ""), flush=True)
        return failed
