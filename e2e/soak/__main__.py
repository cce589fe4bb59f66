"""`./mattone soak [plans|fuzz|kills|cooks|edges|memory] [figures]`: what the suite does in small, done until it would show."""

from __future__ import annotations

import sys

import django

NAMES = ("plans", "fuzz", "kills", "cooks", "edges", "memory")


def main(arguments: list[str]) -> int:
    django.setup()
    from e2e.soak import cooks, edges, fuzz, kills, memory, plans

    parts = {"plans": plans.main, "fuzz": fuzz.main, "kills": kills.main, "cooks": cooks.main, "edges": edges.main, "memory": memory.main}
    if arguments and arguments[0] not in parts:
        print(f"say which: {', '.join(NAMES)}, or none for all")
        return 2
    chosen = arguments[:1] or list(NAMES)
    failed = [name for name in chosen if not parts[name](arguments[1:])]
    print(f"soak: {', '.join(chosen)}: {'FAILED: ' + ', '.join(failed) if failed else 'all as it should be'}")
    return 1 if failed else 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
