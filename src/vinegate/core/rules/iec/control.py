"""Control transformers, their devices and wires by IEC 60204-1 and IEC 61558-2-2."""

from __future__ import annotations

from vinegate.core.rules.protocol import Allowed, ControlRules


def primary(rated_va: float, primary_a: float, secondary_protected: bool) -> Allowed:
    """7.2.7: by the transformer's maker, for the current at switching on is many times its own."""
    del rated_va, primary_a, secondary_protected
    return Allowed(None, "IEC 60204-1:2016 7.2.7: by the transformer's maker")


def secondary(secondary_a: float) -> Allowed:
    """Not above its rated current, where its maker marks no other device.

    >>> secondary(0.43).amps
    0.43
    """
    return Allowed(secondary_a, "IEC 60204-1:2016 7.2.4; IEC 61558-2-2:2007: its rated current, or the device marked")


CONTROL = ControlRules(
    series="iec",
    wire="1 mm²",
    wire_source="IEC 60204-1:2016 table 6, method B2; to be read against the print",
    primary=primary,
    secondary=secondary,
    direct_most_w=3000.0,
    direct_source="IEC 60204-1:2016 9.1.1: one motor of at most 3 kW with few control devices",
    grounding="IEC 60204-1:2016 9.4.3.1",
    tags="81346",
    colors=(
        ("power", "black"),
        ("ac control", "red"),
        ("dc control", "blue"),
        ("neutral", "light blue"),
        ("live with the disconnect off", "orange"),
        ("protective", "green and yellow"),
    ),
    colors_source="IEC 60204-1:2016 13.2.4",
)
