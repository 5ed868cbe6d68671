"""What the application is made of, as a bill of materials (CycloneDX 1.6) and as a page of licences.

Names, versions and digests are the lock's; licences are what each installed package says of itself.
"""

from __future__ import annotations

import json
import re
from dataclasses import dataclass
from importlib.metadata import PackageNotFoundError, metadata
from pathlib import Path
from typing import Any, Final

ROOT: Final = Path(__file__).parents[1]
_VENDORED: Final = (
    ("bulma", "1.0.4", "MIT", "styles, built from its own sources to what is used"),
    ("idiomorph", "0.8.0", "0BSD", "pages are morphed by it"),
    ("IBM Plex Sans", "6", "OFL-1.1", "the typeface, reduced to what is shown"),
)


@dataclass(frozen=True, slots=True)
class Package:
    """One of the lock: digests of the files it may be installed from."""

    name: str
    version: str
    digests: tuple[str, ...]
    licence: str


def packages(lock: str) -> list[Package]:
    """Those of a lock's text, in its order.

    >>> [one.version for one in packages("flask==3.1.3 \\\\\\n    --hash=sha256:ab12\\n")]
    ['3.1.3']
    """
    found = []
    for name, version, rest in re.findall(
        r"^([A-Za-z0-9._-]+)==(\S+)((?:\s*\\\s*\n\s+--hash=\S+)*)", lock, flags=re.MULTILINE
    ):
        found.append(Package(name, version, tuple(re.findall(r"sha256:([0-9a-f]+)", rest)), licence_of(name)))
    return found


def licence_of(name: str) -> str:
    """By its expression, else its field where that is short, else its classifiers; empty where it does not say."""
    try:
        said = metadata(name)
    except PackageNotFoundError:
        return ""
    short = (said.get("License") or "").strip()
    classes = [one.rpartition(" :: ")[2] for one in said.get_all("Classifier") or () if one.startswith("License ::")]
    if said.get("License-Expression"):
        return str(said["License-Expression"])
    return short if 0 < len(short) < 60 and "\n" not in short else ", ".join(classes)


def bill(version: str, found: list[Package]) -> dict[str, Any]:
    """CycloneDX: no time and no serial number, so that the same lock gives the same file."""
    components = [
        {
            "type": "library",
            "name": one.name,
            "version": one.version,
            "purl": f"pkg:pypi/{one.name}@{one.version}",
            **({"licenses": [{"license": {"name": one.licence}}]} if one.licence else {}),
            "hashes": [{"alg": "SHA-256", "content": digest} for digest in one.digests],
        }
        for one in found
    ]
    components += [
        {
            "type": "library",
            "name": name,
            "version": number,
            "description": what,
            "licenses": [{"license": {"name": licence}}],
        }
        for name, number, licence, what in _VENDORED
    ]
    return {
        "bomFormat": "CycloneDX",
        "specVersion": "1.6",
        "version": 1,
        "metadata": {"component": {"type": "application", "name": "vinegate", "version": version}},
        "components": components,
    }


def page(found: list[Package]) -> str:
    """A table for people."""
    rows = [f"| {one.name} | {one.version} | {one.licence or 'not said'} |" for one in found]
    rows += [f"| {name} ({what}) | {number} | {licence} |" for name, number, licence, what in _VENDORED]
    return "\n".join([
        "# What it is made of",
        "Made by `tools/sbom` from the lock; the same as a bill of materials: [sbom.json](sbom.json) (CycloneDX). "
        "Database and browser are Debian's.",
        "",
        "| package | version | licence, as it says itself |",
        "|---|---|---|",
        *rows,
        "",
    ])  # fmt: skip


def main() -> None:
    from vinegate import __version__

    found = packages((ROOT / "requirements.lock").read_text())
    (ROOT / "docs/sbom.json").write_text(json.dumps(bill(__version__, found), indent=1, ensure_ascii=False) + "\n")
    (ROOT / "docs/licences.md").write_text(page(found))
    print(f"{len(found)} packages, {sum(not one.licence for one in found)} without a word on their licence")


if __name__ == "__main__":
    main()
