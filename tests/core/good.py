"""Circuits of which every fact is stated, and good."""

from __future__ import annotations

from tests.conftest import Planner, planner
from tests.core.on_direct_current import IEC, NEC

LOCK, SOUND = "harrowmere-lock.json", "skerry-sound.json"


def _from(file: str, tag: str, facts: dict[str, str | None] | None = None) -> Planner:
    plan = planner(file, tag)
    return lambda changes=None: plan({**(facts or {}), **(changes or {})})


# Both rule sets: direct, star-delta, soft starter, generator, sub-board, 208 V, line to neutral, division 2 and zone 1;
# all that decides is stated.
GOOD = {
    "NEC, direct": _from(LOCK, "D-61"),
    "NEC, soft starter": _from(LOCK, "P-11"),
    "NEC, wye-delta": _from(LOCK, "X-51", {"plate.volts": "460Δ/797Y"}),
    "NEC, direct current": _from(LOCK, "P-11", NEC),
    "IEC, direct": _from(SOUND, "W-2"),
    "IEC, direct current": _from(SOUND, "H-1", IEC),
    "IEC, star-delta": _from(SOUND, "H-1"),
    "IEC, soft starter": _from(
        SOUND,
        "F-3",
        {
            "start.speed_control": None,
            "start.method": "soft-starter",
            "stop.method": None,
            "load.inertia": "2.5 kg·m²",
            "starter.bypass": None,
        },
    ),
    "NEC, class I division 2 on a sub-board": _from(LOCK, "B-42"),
    "NEC, 208 V": _from(
        LOCK,
        "D-61",
        {
            "supply.volts": "208Y/120",
            "plate.volts": "208-230/460",
            "plate.full_load_current": "67.5-61/30.5",
            "wiring.size": "2 AWG",
            "load.breakaway": "110 %",
            "protection.clears": "1500 A",
            "protection.short_circuit_rating": "42 kA",
        },
    ),
    "NEC, line to neutral": _from(
        LOCK,
        "C-71",
        {
            "board_2.volts": "208Y/120",
            "plate.power": "1.5 hp",
            "plate.full_load_current": "20/10",
            "plate.frame": "145T",
            "wiring.size": "8 AWG",
            "load.power": "1.3 hp",
            "load.inertia": "0.03 kg·m²",
            "protection.clears": "400 A",
            "machine.stall_hot": "45 s",
        },
    ),
    "IEC, sub-board": _from(
        SOUND,
        "H-1",
        {
            "board_1.name": "deck board",
            "board_1.size": "95 mm²",
            "board_1.metal": "copper",
            "board_1.length": "40 m",
            "board_1.sets": "1",
            "board_1.ground_size": "50 mm²",
            "wiring.board": "board_1",
            "wiring.length": "35 m",
        },
    ),
    "IEC, generator": _from(
        SOUND,
        "H-1",
        {
            "supply.in_use": "standby",
            "standby.generator_power": "500 kVA",
            "standby.transient_reactance": "20 %",
            "standby.subtransient_reactance": "14 %",
            "standby.x_over_r": "15",
            "standby.sustained": "2100 A",
            "standby.recovery": "1.5 s",
            "limits.dip": "15 %",
            "main_board.motor_power": "0 kVA",
        },
    ),
    "IEC, zone 1 d": _from(SOUND, "K-5", {"wiring.size": "6 mm²"}),
    "IEC, zone 1 eb": _from(
        SOUND,
        "K-5",
        {
            "wiring.size": "6 mm²",
            "plate.ex_marking": "Ex eb IIB T4 Gb",
            "place.te": "9 s",
            "protection.trip_class": "5",
        },
    ),
}
