"""`python -m mattone_engine.evidence DIRECTORY`: remake the evidence page there."""

import sys
from pathlib import Path

from mattone_engine.evidence.report import write

if len(sys.argv) != 2:
    raise SystemExit("Name the directory to write evidence.md to.")
write(Path(sys.argv[1]))
