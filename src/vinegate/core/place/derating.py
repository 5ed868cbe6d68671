"""Heat and height: what altitude above 1000 m and air above the plate's ambient leave of a machine's power."""

from __future__ import annotations

import math
from typing import Final

from vinegate.core.place.facts import Area
from vinegate.core.plate.facts import Plate
from vinegate.core.plate.insulation import rise_allowed_k
from vinegate.core.records import dataclass
from vinegate.core.sheet import Sheet
from vinegate.core.working import Figure, Provenance

_SEA_M: Final = 1000.0
_USUAL_C: Final = 40.0
_CONSTANT_LOSS: Final = 0.5  # of the load loss, at rated load


@dataclass(frozen=True, slots=True, kw_only=True)
class Derating:
    """Shares of rated power and current that are left, 1 where nothing is taken away."""

    power_pu: float
    figure: Figure | None


def share_left(rise_left_pu: float) -> float:
    """Load whose losses heat it so much: `x = √((1 + a)·r − a)`, a the constant over the load loss, at most 1.

    >>> round(share_left(95 / 105), 3)
    0.926
    """
    inside = (1 + _CONSTANT_LOSS) * rise_left_pu - _CONSTANT_LOSS
    return min(math.sqrt(max(inside, 0.0)), 1.0)


def derate(sheet: Sheet, area: Area, plate: Plate) -> Derating | None:
    """Put it on the sheet. None where the insulation class is needed and not known."""
    hot = area.ambient_high_c if area.ambient_high_c is not None else _USUAL_C
    rated_for = _rated_for_c(plate)
    height = area.altitude_m or 0.0
    if hot <= rated_for and height <= _SEA_M:
        return Derating(power_pu=1.0, figure=None)
    allowed_k = rise_allowed_k(plate.insulation_class)
    if allowed_k is None:
        sheet.needs([("plate.insulation_class", "insulation class")], "what heat and height leave of its power")
        return None
    return _worked(sheet, hot, height, allowed_k, plate)


def _rated_for_c(plate: Plate) -> float:
    return _USUAL_C if plate.ambient_c is None else plate.ambient_c


def _worked(sheet: Sheet, hot_c: float, height_m: float, limit_k: float, plate: Plate) -> Derating:
    stamped_k, stamped_c, rated_for_c = plate.temperature_rise_k, plate.ambient_c, _rated_for_c(plate)
    limit = sheet.given(
        "limit_rise", "Rise its insulation allows", "θ_l", limit_k, "K", provenance=Provenance.TABLE,
        source="IEC 60034-1:2022 table 8, by resistance",
    )  # fmt: skip
    rated_k = min(stamped_k, limit_k) if stamped_k else limit_k
    rated = sheet.given(
        "rated_rise", "Rise at rated load", "θ_r", rated_k, "K",
        provenance=Provenance.STAMPED if stamped_k else Provenance.ASSUMED,
        source="plate" if stamped_k else "taken as all that its insulation allows",
    )  # fmt: skip
    hot = sheet.given("ambient", "Warmest air", "θ_a", hot_c, "°C", source="the area")
    usual = "IEC 60034-1:2022 6.3, NEMA MG 1:2021 14.2.1: where a plate says no other"
    base = sheet.given(
        "rated_ambient", "Air it is rated for", "θ_N", rated_for_c, "°C",
        provenance=Provenance.STAMPED if stamped_c is not None else Provenance.TABLE,
        source="plate" if stamped_c is not None else usual,
    )  # fmt: skip
    height = sheet.given(
        "altitude", "Altitude", "h", max(height_m, _SEA_M), "m", source="the area; 1000 m and below count as 1000"
    )
    thin = 1 - (max(height_m, _SEA_M) - _SEA_M) / 10000
    left = sheet.work(
        "rise_left", "Rise left for its losses", "θ_x", (limit_k - max(hot_c - rated_for_c, 0.0)) * thin, "K",
        formula="(θ_l − (θ_a − θ_N))·(1 − (h − 1000)/10000)" if hot_c > rated_for_c else "θ_l·(1 − (h − 1000)/10000)",
        inputs=(limit, hot, base, height), source="IEC 60034-1:2022 8.10: 1 % of the rise per 100 m",
    )  # fmt: skip
    share = share_left(left.value / rated_k)
    figure = sheet.work(
        "share", "Load left", "x", 100 * share, "%",
        formula="100·√(min(1, max(0, 1.5·θ_x/θ_r − 0.5)))", inputs=(left, rated),
        source="rise follows the losses, a third of them constant: usual; its maker knows",
        provenance=Provenance.ESTIMATED,
    )  # fmt: skip
    return Derating(power_pu=share, figure=figure)
