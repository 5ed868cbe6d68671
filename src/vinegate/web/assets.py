"""The application's own files, under a path that changes with their content, so that they can be kept for good."""

from __future__ import annotations

import gzip
import hashlib
import mimetypes
from collections.abc import Callable
from functools import cache
from pathlib import Path
from typing import Final

import brotli
from flask import Flask, Response, abort, request

_YEAR_S = 31_536_000
_FOLDER = Path(__file__).parent / "static"


_AS_TEXT: Final = ("text/", "image/svg+xml", "application/json")
_WAYS: Final[dict[str, Callable[[bytes], bytes]]] = {
    "br": lambda body: brotli.compress(body, quality=11),
    "gzip": lambda body: gzip.compress(body, 9, mtime=0),
}


class Assets:
    """Serves static/ from memory under /s/DIGEST/; each file is pressed hard, once, when first asked for."""

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
        kind = mimetypes.guess_type(name)[0] or "application/octet-stream"
        way = _way(kind)
        response = Response(_pressed(body, way) if way else body, mimetype=kind)
        response.vary.add("Accept-Encoding")
        if way:
            response.content_encoding = way
        if digest == self._digest:
            response.cache_control.public = True
            response.cache_control.max_age = _YEAR_S
            response.cache_control.immutable = True
        return response


def _way(kind: str) -> str:
    """The best way to press this kind of file that the browser takes; empty for those pressed already."""
    if not kind.startswith(_AS_TEXT):
        return ""
    return request.accept_encodings.best_match(list(_WAYS), default="") or ""


@cache
def _pressed(body: bytes, way: str) -> bytes:
    return _WAYS[way](body)
