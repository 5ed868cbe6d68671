"""What is known of the start beyond the plate."""

from __future__ import annotations

from typing import Annotated

from vinegate.core import quantity as q
from vinegate.core.field import Facts, choice, measure, words

METHODS = (("full-voltage", "full voltage"), ("wye-delta", "wye-delta"))


class Start(Facts):
    """The driven machine, and what the plate does not say about the machine at rest."""

    driven: Annotated[str | None, words("Drives", 80, example="land-drainage pump")] = None
    method: Annotated[str | None, choice("Starts by", METHODS, help="Full voltage where nothing is chosen.")] = None
    locked_rotor_power_factor: Annotated[
        float | None,
        measure(
            "Locked-rotor power factor",
            q.POWER_FACTOR,
            "pf_LR",
            label_iec="Starting power factor",
            example="0.3",
            help="From the maker's data; assumed where it is empty.",
        ),
    ] = None
