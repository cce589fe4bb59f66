"""A dump every night, kept seven days. `./mattone demo` makes them by itself; elsewhere `./mattone db nightly` is called once a day."""

from __future__ import annotations

from collections.abc import Callable
from datetime import datetime, timedelta
from pathlib import Path

from house.places import LOCAL
from house.say import step

BACKUPS = LOCAL / "backups"
KEPT = 7
# In the night, when nobody bakes; or as soon as the machine is awake, where the last one is more than a day old.
NIGHT_HOURS = range(2, 6)
AT_NIGHT_AFTER, AT_ANY_TIME_AFTER = timedelta(hours=12), timedelta(hours=30)
_NAMED = "%Y-%m-%d_%H%M"


def nightly_dumps(folder: Path = BACKUPS) -> list[Path]:
    """The nightly dumps that there are, the oldest first."""
    return sorted(path for path in folder.glob("mattone-*.tar.gz") if _made_at(path) is not None)


def _made_at(file: Path) -> datetime | None:
    try:
        return datetime.strptime(file.name, f"mattone-{_NAMED}.tar.gz")
    except ValueError:
        return None


def is_due(now: datetime, folder: Path = BACKUPS) -> bool:
    """Whether a nightly dump should be made at this moment, by local time."""
    made = [at for file in nightly_dumps(folder) if (at := _made_at(file)) is not None and at <= now]
    if not made:
        return now.hour in NIGHT_HOURS
    since = now - made[-1]
    return since > AT_ANY_TIME_AFTER or (since > AT_NIGHT_AFTER and now.hour in NIGHT_HOURS)


def make_nightly(now: datetime, dump: Callable[[Path], None], folder: Path = BACKUPS) -> Path:
    """A dump named by its minute; then all but the newest seven nightly ones are removed. Other files are left alone."""
    folder.mkdir(parents=True, exist_ok=True)
    folder.chmod(0o700)
    file = folder / f"mattone-{now.strftime(_NAMED)}.tar.gz"
    if not file.exists():
        dump(file)
    for old in nightly_dumps(folder)[:-KEPT]:
        old.unlink()
        step(f"removed the old dump {old.name}")
    return file
