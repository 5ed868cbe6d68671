"""What comes with a request, read strictly: counts, and paths to go back to."""

from __future__ import annotations

from urllib.parse import urlsplit


def whole_in(text: str, most_digits: int = 9) -> int | None:
    """None where it is none: signs, other scripts' digits and raised ones are not counted with.

    >>> whole_in("42"), whole_in("²"), whole_in("٣"), whole_in(""), whole_in("-1"), whole_in("1234567890")
    (42, None, None, None, None, None)
    """
    if not text or len(text) > most_digits or not text.isascii() or not text.isdigit():
        return None
    return int(text)


def own_path(text: str) -> str:
    """A path of this application; empty for anything that leads elsewhere, or cannot be read.

    >>> own_path("/jobs/1?sort=tag"), own_path("//elsewhere"), own_path("http://[") , own_path("/a\\\\b")
    ('/jobs/1?sort=tag', '', '', '')
    """
    if not text.startswith("/") or text.startswith("//") or any(sign in text for sign in "\\\r\n\t\0"):
        return ""
    try:
        parts = urlsplit(text)
    except ValueError:
        return ""
    return "" if parts.netloc or parts.scheme else text
