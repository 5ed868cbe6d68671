"""A circuit: its line, the sheet of the selected station, its revisions, its print, the card for its door."""

from vinegate.web.circuit import door, drawings, many_cards, past, sheets
from vinegate.web.circuit.views import blueprint

__all__ = ["blueprint", "door", "drawings", "many_cards", "past", "sheets"]
