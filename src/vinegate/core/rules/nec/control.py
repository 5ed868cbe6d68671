"""Control transformers, their devices and wires by NFPA 70 article 430 part VI and 450.3(B)."""

from __future__ import annotations

from vinegate.core.rules.protocol import Allowed, ControlRules

_SMALL_VA = 50.0


def primary(rated_va: float, primary_a: float, secondary_protected: bool) -> Allowed:
    """430.72(C): below 50 VA by other means, below 2 A 500 %; else 450.3(B).

    >>> primary(100, 0.21, False).amps, primary(2000, 4.2, False).amps, primary(2000, 4.2, True).amps
    (1.05, 7.014, 10.5)
    """
    if rated_va < _SMALL_VA:
        return Allowed(None, "NFPA 70:2023 430.72(C)(3): below 50 VA by its own limits")
    if primary_a < 2:
        return Allowed(5.0 * primary_a, "NFPA 70:2023 430.72(C)(4): 500 %")
    if secondary_protected:
        return Allowed(2.5 * primary_a, "NFPA 70:2023 450.3(B): 250 %, with a device at its secondary")
    if primary_a < 9:
        return Allowed(1.67 * primary_a, "NFPA 70:2023 450.3(B): 167 %")
    return Allowed(1.25 * primary_a, "NFPA 70:2023 450.3(B): 125 %")


def secondary(secondary_a: float) -> Allowed:
    """450.3(B): 125 %, below 9 A 167 %.

    >>> secondary(2.0).amps, secondary(10.0).amps
    (3.34, 12.5)
    """
    if secondary_a < 9:
        return Allowed(1.67 * secondary_a, "NFPA 70:2023 450.3(B): 167 %")
    return Allowed(1.25 * secondary_a, "NFPA 70:2023 450.3(B): 125 %")


CONTROL = ControlRules(
    series="nec",
    wire="14 AWG",
    wire_source="NFPA 70:2023 table 430.72(B), its own device",
    primary=primary,
    secondary=secondary,
    direct_most_w=None,
    direct_source="",
    grounding="NFPA 70:2023 430.74; NFPA 79:2024 8.3",
    tags="ics19",
    colors=(
        ("power", "black"),
        ("ac control", "red"),
        ("dc control", "blue"),
        ("grounded, ac", "white"),
        ("grounded, dc", "white with blue"),
        ("live with the disconnect off", "orange"),
        ("protective", "green, or green and yellow"),
    ),
    colors_source="NFPA 79:2024 13.2",
)
