"""The calculation sheet as PDF, from the same page that prints."""

from __future__ import annotations

import mimetypes
import re
from pathlib import Path
from typing import Any

_STATIC = Path(__file__).parent.parent / "static"
_ASSET = re.compile(r"^(?:vinegate:)?/s/[0-9a-f]+/(.+)$")


def to_pdf(page: str) -> bytes:
    """Write a page as PDF. Only the application's own files are read: nothing is fetched."""
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

    body: bytes = HTML(string=page, base_url="vinegate:/", url_fetcher=OwnFiles()).write_pdf()
    return body
