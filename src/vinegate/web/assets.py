"""The application's own files, under a path that changes with their content, so that they can be kept for good."""

from __future__ import annotations

import hashlib
from pathlib import Path

from flask import Flask, Response, send_from_directory

_YEAR_S = 31_536_000


class Assets:
    """Serves static/ under /s/DIGEST/."""

    def __init__(self, app: Flask) -> None:
        self._folder = Path(__file__).parent / "static"
        self._digest = _digest(self._folder)
        app.add_url_rule("/s/<digest>/<path:name>", "assets", self._send)

    def url(self, name: str) -> str:
        return f"/s/{self._digest}/{name}"

    def _send(self, digest: str, name: str) -> Response:
        age = _YEAR_S if digest == self._digest else 0
        response = send_from_directory(self._folder, name, max_age=age)
        if age:
            response.cache_control.immutable = True
        return response


def _digest(folder: Path) -> str:
    found = hashlib.sha256()
    for path in sorted(folder.rglob("*")):
        if path.is_file():
            found.update(str(path.relative_to(folder)).encode() + b"\0" + path.read_bytes())
    return found.hexdigest()[:12]
