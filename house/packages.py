"""The third-party packages that Mattone ships: their licences for the *About* page, and a bill of materials.

Read from what is installed, by the locks: requirements/app.txt with the virtual environment, and web/package-lock.json with
node_modules. Packages that only build, test or check are left out, but for those whose code ends up in the page.
"""

from __future__ import annotations

import base64
import binascii
import json
import re
import uuid
from collections.abc import Iterator
from dataclasses import dataclass, field
from importlib.metadata import Distribution, distributions
from pathlib import Path
from typing import Any
from urllib.parse import quote

from house.places import ROOT, VENV, WEB

# Built into the page or its worker by packages that otherwise only build.
SHIPPED = re.compile(r"^(workbox-(core|precaching|routing|strategies|expiration)|tailwindcss|vite-plugin-pwa)$")
LICENCE_FILE = re.compile(r"^(licen[cs]e|copying|notice|ofl)", re.I)
_PINNED = re.compile(r"^([A-Za-z0-9._-]+)(?:\[[^\]]*\])?==([^\s;\\]+)(?:[^\n]*;[^\n]*)?", re.M)


@dataclass(frozen=True)
class Package:
    """One package. kind: "pypi" or "npm". hashes: algorithm and hex digest. licence: an SPDX expression or a name; text: as it is shipped."""

    kind: str
    name: str
    version: str
    licence: str
    text: str
    hashes: tuple[tuple[str, str], ...] = field(default=())

    @property
    def purl(self) -> str:
        """Its package URL."""
        return f"pkg:{self.kind}/{quote(self.name, safe='/')}@{quote(self.version, safe='')}"


def packages() -> list[Package]:
    """All of them, by kind and name."""
    return sorted([*_python_packages(), *_web_packages()], key=lambda one: (one.kind, one.name.lower(), one.version))


def _plain(name: str) -> str:
    return re.sub(r"[-_.]+", "-", name).lower()


def _python_packages() -> Iterator[Package]:
    lock = (ROOT / "requirements" / "app.txt").read_text(encoding="utf-8")
    site = next((VENV / "lib").glob("python*/site-packages"))
    there = {_plain(str(one.metadata["Name"])): one for one in distributions(path=[str(site)])}
    starts = [*_PINNED.finditer(lock)]
    for i, found in enumerate(starts):
        part = lock[found.start() : starts[i + 1].start() if i + 1 < len(starts) else len(lock)]
        installed = there.get(_plain(found.group(1)))
        # Pinned for other systems, and not installed on this one.
        if installed is None:
            continue
        hashes = tuple(("SHA-256", digest) for digest in re.findall(r"--hash=sha256:([0-9a-f]{64})", part))
        yield Package("pypi", _plain(found.group(1)), found.group(2), _python_licence(installed), _python_text(installed), hashes)


def _python_licence(installed: Distribution) -> str:
    metadata = installed.metadata
    if metadata["License-Expression"]:
        return str(metadata["License-Expression"])
    classified = [line.rpartition(" :: ")[2] for line in metadata.get_all("Classifier") or () if line.startswith("License :: ")]
    short = str(metadata["License"] or "").strip().split("\n")[0]
    return ", ".join(classified) or short[:80] or "see its text"


def _python_text(installed: Distribution) -> str:
    texts = []
    for file in installed.files or ():
        if ".dist-info" in str(file) and LICENCE_FILE.match(file.name):
            place = Path(str(installed.locate_file(file)))
            if place.is_file():
                texts.append(place.read_text(encoding="utf-8", errors="replace"))
    return "\n\n".join(texts)


def _web_packages() -> Iterator[Package]:
    lock = json.loads((WEB / "package-lock.json").read_text(encoding="utf-8"))
    for place, row in lock["packages"].items():
        name = place.rpartition("node_modules/")[2]
        folder = WEB / place
        if not place or (row.get("dev") and not SHIPPED.match(name)) or not (folder / "package.json").exists():
            continue
        manifest = json.loads((folder / "package.json").read_text(encoding="utf-8"))
        licence = manifest.get("license") or manifest.get("licenses") or "see its text"
        text = "\n\n".join(
            file.read_text(encoding="utf-8", errors="replace") for file in sorted(folder.iterdir()) if file.is_file() and LICENCE_FILE.match(file.name)
        )
        yield Package("npm", name, row["version"], licence if isinstance(licence, str) else str(licence), text, _integrity(row.get("integrity", "")))


def _integrity(integrity: str) -> tuple[tuple[str, str], ...]:
    kind, _, digest = integrity.partition("-")
    try:
        return ((f"SHA-{kind[3:]}", base64.b64decode(digest, validate=True).hex()),) if kind.startswith("sha") else ()
    except (binascii.Error, ValueError):
        return ()


def licences_json(found: list[Package]) -> str:
    """For the *About* page."""
    rows = [{"kind": one.kind, "name": one.name, "version": one.version, "licence": one.licence, "text": one.text} for one in found]
    return json.dumps(rows, ensure_ascii=False)


def sbom(found: list[Package], version: str, made_at: str) -> dict[str, Any]:
    """A bill of materials, CycloneDX 1.6 (ECMA-424). Its serial number follows from what is in it."""
    named = json.dumps([(one.purl, one.hashes) for one in found])
    ref = f"pkg:generic/mattone@{version}"
    return {
        "$schema": "http://cyclonedx.org/schema/bom-1.6.schema.json",
        "bomFormat": "CycloneDX",
        "specVersion": "1.6",
        "serialNumber": f"urn:uuid:{uuid.uuid5(uuid.NAMESPACE_URL, named)}",
        "version": 1,
        "metadata": {
            "timestamp": made_at,
            "component": {"type": "application", "bom-ref": ref, "name": "mattone", "version": version, "licenses": [{"license": {"id": "MIT"}}]},
        },
        "components": [
            {
                "type": "library", "bom-ref": one.purl, "name": one.name, "version": one.version, "purl": one.purl,
                "licenses": [{"license": {"name": one.licence}}],
                "hashes": [{"alg": kind, "content": digest} for kind, digest in one.hashes],
            }
            for one in found
        ],
        "dependencies": [{"ref": ref, "dependsOn": [one.purl for one in found]}],
    }  # fmt: skip
