"""The calculation sheet as PDF, from the same page that prints."""

from __future__ import annotations

import socket
from collections.abc import Mapping
from hashlib import sha256
from typing import Any

from flask import request

from vinegate.store import papers
from vinegate.store.models import Revision
from vinegate.typeset.press import Left, pressed


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


def to_pdf(page: str) -> bytes:
    """A page as PDF, for the asker of this request. Raises TooMany, AskerLeft, NotWritten."""
    return pressed(page, asker_left(request.environ))


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
