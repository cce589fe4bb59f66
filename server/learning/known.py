"""What a cook's bakes have taught of each rig: weighed anew when anything of it changes, remembered until then."""

from __future__ import annotations

import math
import threading
from collections import OrderedDict
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime
from functools import lru_cache, partial
from typing import Protocol

from django.db.models import Count, Max, Sum
from django.utils import timezone
from mattone_engine.knowledge.truths import Z80
from mattone_engine.learn.kitchen import Kitchen, Logged, Measured, learned
from mattone_engine.learn.lesson import CAUSES, Lesson
from mattone_engine.learn.told import RigKnown, as_learned, known_of
from mattone_engine.things.hearth import HearthLimits
from mattone_engine.things.knowledge import GENERAL, Knowledge

from documents.reading import readable
from learning.models import LESSON, Taught

# Of so many bakes the newest are weighed; older ones have faded.
MOST_WEIGHED = 4000
# And of all cooks so many lessons are kept in memory.
MOST_REMEMBERED = 8000
EPOCH = datetime(1970, 1, 1, tzinfo=UTC)


class HearthRow(Protocol):
    """What is asked of a hearth of the kitchen."""

    pk: int

    @property
    def limits(self) -> HearthLimits: ...
    @property
    def knowledge(self) -> Knowledge: ...


def rig_key(hearth_id: int, surface_id: int | None, pan_id: int | None) -> str:
    """A rig by the ids of its things."""
    return f"h{hearth_id}" + (f"s{surface_id}" if surface_id else "") + (f"p{pan_id}" if pan_id else "")


def figures(limits: HearthLimits) -> dict[str, float]:
    """What a lesson was worked out with, of its hearth."""
    return {"dial_error_k": limits.dial_error_k, "power_kw": limits.power_kw, "top_element_kw": limits.top_element_kw}


@dataclass(frozen=True)
class Known:
    """A cook's kitchen as it was taught; hearths by id. logged: every lesson, those too that do not count."""

    kitchen: Kitchen
    hearths: dict[int, HearthRow]
    logged: tuple[Logged, ...]

    def rig(self, hearth: HearthRow, key: str) -> RigKnown:
        """What is known of one rig."""
        return known_of(self.kitchen, str(hearth.pk), key, hearth.knowledge)

    def limits(self, hearth: HearthRow, key: str) -> tuple[HearthLimits, Knowledge]:
        """A hearth as it is planned with on a rig, and what is known of it."""
        return as_learned(hearth.limits, self.rig(hearth, key)) if self.kitchen.weighed else (hearth.limits, hearth.knowledge)


def known_to(owner_id: int, hearths: Sequence[HearthRow], rigs: Sequence[tuple[int, str]] = ()) -> Known:
    """What this cook's bakes have taught of these hearths, all of the kitchen's; rigs: (hearth, key) to be asked for."""
    logged = _logged(owner_id, _stamp(owner_id), tuple((hearth.pk, hearth.limits) for hearth in hearths))
    measured = tuple(one for hearth in hearths if (one := _measured(hearth)) is not None)
    asked = [*((str(hearth), key) for hearth, key in rigs), *((str(hearth.pk), rig_key(hearth.pk, None, None)) for hearth in hearths)]
    # A week at a time: what fades by the day would make every answer new each morning. Days are counted from the epoch.
    today = (timezone.now() - EPOCH).days
    return Known(learned(logged, measured=measured, rigs=asked, today=float(today - today % 7)), {hearth.pk: hearth for hearth in hearths}, logged)


def _stamp(owner_id: int) -> str:
    """Changes whenever anything does that lessons depend on: one question to the database."""
    found = Taught.objects.filter(owner_id=owner_id).aggregate(Count("id"), Sum("id"), Max("updated_at"), gone=Max("deleted_at"))
    return str(sorted(found.items()))


@lru_cache(maxsize=64)
def _logged(owner_id: int, stamp: str, hearths: tuple[tuple[int, HearthLimits], ...]) -> tuple[Logged, ...]:
    there = dict(hearths)
    rows = Taught.objects.filter(owner_id=owner_id, deleted_at__isnull=True, hearth_id__in=list(there)).order_by("-at", "-id")[:MOST_WEIGHED]
    found = []
    told = list(rows.values_list("pk", "updated_at", "hearth_id", "rig", "at", "counts", "planned_with"))
    lessons = remembered.of([(pk, updated_at) for pk, updated_at, *_ in told])
    for pk, _, hearth_id, rig, at, counts, planned_with in told:
        lesson = lessons[pk]
        if lesson is not None:
            day = at.timestamp() / 86400.0
            found.append(Logged(str(pk), str(hearth_id), rig, day, lesson, counts, _shift(planned_with, there[hearth_id])))
    return tuple(found)


class Remembered:
    """Lessons as they were read, the newest asked for: a new one does not make all others be read again."""

    def __init__(self, most: int) -> None:
        self.most = most
        self._rows: OrderedDict[tuple[int, datetime], Lesson | None] = OrderedDict()
        self._lock = threading.Lock()

    def of(self, keys: list[tuple[int, datetime]]) -> dict[int, Lesson | None]:
        """By their ids; None where one cannot be read here."""
        with self._lock:
            found = {key[0]: self._rows[key] for key in keys if key in self._rows}
        missing = [key for key in keys if key[0] not in found]
        stored = dict(Taught.objects.filter(pk__in=[pk for pk, _ in missing]).values_list("pk", "lesson")) if missing else {}
        read = {key: self._read(stored.get(key[0])) for key in missing}
        with self._lock:
            self._rows.update(read)
            while len(self._rows) > self.most:
                self._rows.popitem(last=False)
        return found | {key[0]: lesson for key, lesson in read.items()}

    @staticmethod
    def _read(stored: object) -> Lesson | None:
        lesson, _ = readable("logbook entry", partial(LESSON.read, stored))
        return lesson if lesson is not None and len(lesson.pull_by) == len(CAUSES) else None


remembered = Remembered(MOST_REMEMBERED)


def _shift(then: dict[str, float], now: HearthLimits) -> tuple[float, ...]:
    """How a hearth is planned with now against then, for each cause."""
    changed = {
        "dial_k": now.dial_error_k - float(then.get("dial_error_k", now.dial_error_k)),
        "power": math.log(now.power_kw / max(0.1, float(then.get("power_kw", now.power_kw)))),
        "top_element": math.log(max(0.05, now.top_element_kw) / max(0.05, float(then.get("top_element_kw", now.top_element_kw)))),
    }
    return tuple(changed.get(name, 0.0) for name in CAUSES)


def _measured(hearth: HearthRow) -> Measured | None:
    known = hearth.knowledge
    if known == GENERAL:
        return None
    return Measured(str(hearth.pk), known.dial_k.spread / Z80, known.power_ln.spread / Z80)
