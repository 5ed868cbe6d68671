"""A circuit: its line, the sheet of the selected station, its revisions, its print."""

from vinegate.web.circuit.views import blueprint

__all__ = ["blueprint"]
