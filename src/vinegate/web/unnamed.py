"""The server does not say what it is: its name would only help whoever looks for its faults."""

from __future__ import annotations


def leave_out_server() -> None:
    """Where gunicorn serves, answers carry no `Server`; it has no setting for that. Once is enough."""
    from gunicorn.http.wsgi import Response

    named = Response.default_headers
    if getattr(named, "unnamed", False):
        return

    def unnamed(self: Response) -> list[str]:
        return [line for line in named(self) if not line.startswith("Server:")]

    unnamed.unnamed = True  # type: ignore[attr-defined]
    Response.default_headers = unnamed
