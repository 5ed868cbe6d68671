"""The name this is called by, looked at before anything else: one that cannot be, or is not ours, gets a plain 400."""

from __future__ import annotations

import re
from collections.abc import Callable, Collection, Iterable
from typing import Any, Final

_LABEL: Final = r"[A-Za-z0-9_](?:[A-Za-z0-9_-]{0,61}[A-Za-z0-9_])?"
_NAME: Final = re.compile(rf"(?:{_LABEL}(?:\.{_LABEL})*\.?|\[[0-9A-Fa-f:.]{{2,45}}\])(?::(\d{{1,5}}))?")
_LONGEST: Final = 260


class Hosts:
    """Around the application; `known` names, empty: any that can be."""

    def __init__(self, inner: Callable[..., Iterable[bytes]], known: Collection[str]) -> None:
        self._inner, self._known = inner, {one.casefold() for one in known}

    def __call__(self, environ: dict[str, Any], start: Callable[..., Any]) -> Iterable[bytes]:
        if not self._may(str(environ.get("HTTP_HOST", ""))):
            body = b"This server is not called by that name.\n"
            start("400 Bad Request", [("Content-Type", "text/plain"), ("Content-Length", str(len(body)))])
            return [body]
        return self._inner(environ, start)

    def _may(self, host: str) -> bool:
        if not host:
            return not self._known  # HTTP/1.0 may leave it out
        match = _NAME.fullmatch(host) if len(host) <= _LONGEST else None
        if match is None or int(match.group(1) or 0) > 65535:
            return False
        name = host.rpartition(":")[0] if match.group(1) else host
        return not self._known or name.rstrip(".").casefold() in self._known
