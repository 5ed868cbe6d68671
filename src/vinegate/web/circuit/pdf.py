"""The calculation sheet as PDF, from the same page that prints."""

from __future__ import annotations

import logging
import mimetypes
import re
import socket
import time
from collections.abc import Callable, Mapping
from contextvars import ContextVar
from hashlib import sha256
from pathlib import Path
from threading import Semaphore
from typing import Any, Final

from flask import has_request_context, request

from vinegate.store import papers
from vinegate.store.models import Revision

_STATIC = Path(__file__).parent.parent / "static"
_ASSET = re.compile(r"^(?:vinegate:)?/s/[0-9a-f]+/(.+)$")


# A page's style sheets do not reach into its drawings on the way to PDF: a drawing there brings its own, in ink.
_INK = (
    "<style>text{font-family:'Plex Sans',sans-serif;font-size:11px;fill:#444}"
    ".grid{stroke:#ddd}.ghost{fill:none;stroke:#999}.used{fill:none;stroke:#111;stroke-width:2.4}"
    ".speed{fill:none;stroke:#333;stroke-width:1.6;stroke-dasharray:6 4}"
    ".volts{fill:none;stroke:#333;stroke-dasharray:1.5 3}.beyond{fill:#f2f2f2}.limit{stroke:#111;stroke-width:1.4}"
    ".reached,.moment{stroke:#555;stroke-dasharray:2 3}.may{fill:#aaa;opacity:.45}.school{stroke:#555}"
    ".reached-dot{fill:#333}.acts{fill:#bbb}.rail{stroke:#999}.plumb{stroke:#555;stroke-dasharray:1 4}"
    ".line{fill:none;stroke:#111;stroke-width:1.4}.band{fill:#999;opacity:.25;stroke:none}"
    ".line.start{stroke-width:2.6}.line.first{stroke-dasharray:3 3}.line.damage{stroke-dasharray:9 4}"
    ".line.upstream{stroke:#777;stroke-dasharray:2 3}.line.fault{stroke:#999;stroke-dasharray:6 4}"
    ".stall{fill:#fff;stroke:#111;stroke-width:2}"
    "</style>"
)
_CIRCUIT = (
    "<style>text{font-family:'Plex Sans',sans-serif;font-size:11px;fill:#444;stroke:none}"
    ".name{fill:#000;font-weight:600}.number{font-size:10px}.pin{font-size:8px}"
    ".wire{fill:none;stroke:#000;stroke-width:1.2}.contact,.coil{fill:none;stroke:#000;stroke-width:1.6}"
    ".dot{fill:#000}.grid{fill:none;stroke:#777;stroke-dasharray:4 3}.leap{stroke:#000;stroke-width:3}</style>"
)
_DRAWING = re.compile(r'(<svg class="(strip-drawing|time-current|circuit-drawing)[^"]*"[^>]*>)')


def inked(page: str) -> str:
    """The page with each of its charts bringing its own styles."""
    return _DRAWING.sub(
        lambda match: match.group(1) + (_CIRCUIT if match.group(2) == "circuit-drawing" else _INK), page
    )


_AT_ONCE: Final = Semaphore(2)
"""Each takes a core and a good deal of memory for seconds: more wait, and are told to come again."""
_WAITS_S: Final = 20.0


_LOOKS_S: Final = 0.5


class TooMany(RuntimeError):
    """Others' are being written still."""


class AskerLeft(RuntimeError):
    """Nobody waits for it any more."""


Left = Callable[[], bool]
"""Whether who asked has gone."""


def asker_left(environment: Mapping[str, Any]) -> Left:
    """By the request's own connection: closed at the other end there is nothing to be read but its end."""
    connection = environment.get("gunicorn.socket")

    def left() -> bool:
        try:
            return connection is not None and connection.recv(1, socket.MSG_PEEK | socket.MSG_DONTWAIT) == b""
        except BlockingIOError:
            return False
        except OSError:
            return True

    return left


def to_pdf(page: str, left: Left | None = None) -> bytes:
    """Write a page as PDF. Only the application's own files are read: nothing is fetched.

    Given up between two of its steps, each page's layout one, where the asker of this request has left. Raises
    TooMany, AskerLeft.
    """
    left = left or (asker_left(request.environ) if has_request_context() else lambda: False)
    deadline = time.monotonic() + _WAITS_S
    while not _AT_ONCE.acquire(timeout=_LOOKS_S):
        if left():
            raise AskerLeft
        if time.monotonic() > deadline:
            raise TooMany
    try:
        _STEPS.left.set(left)
        return _written(page)
    finally:
        _STEPS.left.set(None)
        _AT_ONCE.release()


def pdf_of(page: str, revision: Revision | None) -> bytes:
    """The page as PDF; of an issued plan as it was written before, where that was of this very page."""
    if revision is None:
        return to_pdf(page)
    digest = sha256(page.encode()).hexdigest()
    body = papers.kept(revision, digest)
    if body is None:
        body = to_pdf(page)
        papers.keep(revision, digest, body)
    return body


class _Steps(logging.Handler):
    """Hears of each step of the writing, in the thread that writes, and gives it up."""

    left: ContextVar[Left | None] = ContextVar("left", default=None)

    def emit(self, record: logging.LogRecord) -> None:
        left = self.left.get()
        if left is not None and left():
            raise AskerLeft


_STEPS: Final = _Steps()
_PROGRESS: Final = logging.getLogger("weasyprint.progress")
_PROGRESS.setLevel(logging.INFO)
_PROGRESS.propagate = False
_PROGRESS.addHandler(_STEPS)


def _written(page: str) -> bytes:
    from weasyprint import HTML
    from weasyprint.urls import URLFetcher, URLFetcherResponse

    class OwnFiles(URLFetcher):
        def fetch(self, url: str, headers: Any = None) -> Any:
            match = _ASSET.match(url)
            path = (_STATIC / match.group(1)).resolve() if match else None
            if path is None or not path.is_relative_to(_STATIC.resolve()):
                raise ValueError(f"not a file of the application: {url}")
            kind = mimetypes.guess_type(path.name)[0] or "application/octet-stream"
            return URLFetcherResponse(url, path.read_bytes(), {"Content-Type": kind})

    body: bytes = HTML(string=inked(page), base_url="vinegate:/", url_fetcher=OwnFiles()).write_pdf()
    return body
