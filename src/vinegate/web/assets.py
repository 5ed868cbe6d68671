"""The application's own files, under a path that changes with their content, so that they can be kept for good."""

from __future__ import annotations

import hashlib
import mimetypes
from pathlib import Path

from flask import Flask, Response, abort

_YEAR_S = 31_536_000
_FOLDER = Path(__file__).parent / "static"


class Assets:
    """Serves static/ from memory under /s/DIGEST/."""

    def __init__(self, app: Flask) -> None:
        self._files = {
            path.relative_to(_FOLDER).as_posix(): path.read_bytes()
            for path in sorted(_FOLDER.rglob("*"))
            if path.is_file()
        }
        found = hashlib.sha256()
        for name, body in self._files.items():
            found.update(name.encode() + b"\0" + body)
        self._digest = found.hexdigest()[:12]
        app.add_url_rule("/s/<digest>/<path:name>", "assets", self._send)

    def url(self, name: str) -> str:
        """The address of a file. Raises KeyError for one that does not ship."""
        if name not in self._files:
            raise KeyError(name)
        return f"/s/{self._digest}/{name}"

    def _send(self, digest: str, name: str) -> Response:
        body = self._files.get(name)
        if body is None:
            abort(404)
        response = Response(body, mimetype=mimetypes.guess_type(name)[0] or "application/octet-stream")
        if digest == self._digest:
            response.cache_control.public = True
            response.cache_control.max_age = _YEAR_S
            response.cache_control.immutable = True
        return response
