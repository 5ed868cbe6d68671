"""The plate's sheet, in the plate's own order, with its codes decoded and its leads drawn."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from vinegate.core.facts import ENTERED
from vinegate.core.fed import volts_of
from vinegate.core.plate.terminals import Links, links_for
from vinegate.core.rules.sets import rule_set
from vinegate.store.jobs import Access, Raw
from vinegate.web.form import origins, plate_title
from vinegate.web.stages.page import InHand, Page, Planned, Reading
from vinegate.web.stages.pasting import pasted


def origins_of(hand: InHand) -> dict[str, Any]:
    """Where each figure came from, to be chosen."""
    return {"origins": origins(hand.fields, hand.planned.circuit_raw, hand.plan.rules), "origin_words": ENTERED}


def _context(hand: InHand) -> dict[str, Any]:
    kind, rules = hand.planned.circuit.plate.kind, hand.plan.rules.value
    title = plate_title(kind, rules)
    return {**origins_of(hand), "links": _links(hand.planned), "plate_title": title, "reading": hand.reading}


def _reads(access: Access, circuit: Raw, form: Mapping[str, str]) -> Reading:
    return pasted(form, circuit, "plate", access.rules)


def _links(planned: Planned) -> tuple[Links, ...]:
    """Terminal links for the connection that the supply's volts pick."""
    plate, supply_v = planned.circuit.plate, volts_of(planned.job, planned.circuit)
    if plate.volts is None or (supply_v is None and len(plate.volts.connections) > 1):
        return ()
    connection = plate.volts.nearest(supply_v)[1] if supply_v else plate.volts.connections[0]
    nema = rule_set(planned.plan.rules).practice.nema_leads
    return links_for(plate.volts, connection, plate.leads, nema=nema)


PAGE = Page(key="plate", asks=("plate",), context=_context, reads=_reads)
