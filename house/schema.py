"""Write the server's OpenAPI schema and the page's types from it, or check that they are in step.

Run with the virtual environment's Python: it loads Django.
"""

from __future__ import annotations

import json
import subprocess
import sys
import tempfile
from pathlib import Path

from house.places import WEB

OPENAPI = WEB / "openapi.json"
TYPES = WEB / "src" / "api" / "schema.d.ts"


def schema_text() -> str:
    import django

    django.setup()
    from config.api import api

    return json.dumps(api.get_openapi_schema(path_prefix="/api/"), indent=1, sort_keys=True) + "\n"


def types_text(schema: str) -> str:
    with tempfile.TemporaryDirectory() as folder:
        source, made = Path(folder) / "openapi.json", Path(folder) / "schema.d.ts"
        source.write_text(schema)
        subprocess.run(["npx", "openapi-typescript", str(source), "-o", str(made)], cwd=WEB, check=True, capture_output=True)
        return made.read_text()


def main() -> int:
    schema = schema_text()
    types = types_text(schema)
    if "--check" in sys.argv:
        stale = [str(path) for path, text in ((OPENAPI, schema), (TYPES, types)) if not path.exists() or path.read_text() != text]
        for path in stale:
            print(f"{path} is not what the server says; run ./mattone schema")
        return 1 if stale else 0
    TYPES.parent.mkdir(parents=True, exist_ok=True)
    OPENAPI.write_text(schema)
    TYPES.write_text(types)
    return 0


if __name__ == "__main__":
    sys.exit(main())
