"""A fully stated good circuit passes everywhere; one bad fact fails by its own gate."""

from __future__ import annotations

import pytest

from tests.conftest import text_of
from tests.core.good import GOOD
from vinegate.core.grade import Verdict
from vinegate.core.summary import summarise

NEC_AREA, IEC_AREA = "area_2", "area_3"

# Per fact made bad: the gate that must fail, and the fact by circuit.
BAD: dict[str, tuple[str, dict[str, dict[str, str | None]]]] = {
    "conductor": (
        "protection.conductors",
        {
            "NEC, direct": {"wiring.size": "14 AWG"},
            "NEC, soft starter": {"wiring.size": "3 AWG"},
            "NEC, wye-delta": {"wiring.size": "8 AWG"},
            "IEC, direct": {"wiring.size": "4 mm²"},
            "IEC, star-delta": {"wiring.size": "10 mm²"},
            "IEC, soft starter": {"wiring.size": "6 mm²"},
            "NEC, class I division 2 on a sub-board": {"wiring.size": "12 AWG"},
            "NEC, 208 V": {"wiring.ambient": "60 °C"},
            "NEC, line to neutral": {"wiring.size": "14 AWG"},
            "IEC, sub-board": {"wiring.size": "10 mm²"},
            "IEC, generator": {"wiring.size": "10 mm²"},
            "IEC, zone 1 d": {"wiring.ambient": "62 °C"},
        },
    ),
    "fault rating": (
        "protection.short_circuit_rating",
        {name: {"protection.short_circuit_rating": "1 kA"} for name in GOOD},
    ),
    "device": (
        "protection.device",
        {
            "NEC, direct": {"protection.rating": "200 A"},
            "NEC, soft starter": {"protection.rating": "400 A"},
            "NEC, wye-delta": {"protection.rating": "300 A"},
            "IEC, direct": {"protection.rating": "25 A"},
            "IEC, star-delta": {"protection.rating": "50 A"},
            "IEC, soft starter": {"protection.rating": "32 A"},
            "NEC, class I division 2 on a sub-board": {"protection.rating": "125 A"},
            "NEC, 208 V": {"protection.rating": "400 A"},
            "NEC, line to neutral": {"protection.rating": "150 A"},
            "IEC, generator": {"protection.rating": "63 A"},
            "IEC, zone 1 d": {"protection.rating": "6.3 A"},
        },
    ),
    "overload ceiling": (
        "protection.setting",
        {
            "NEC, direct": {"protection.overload": "45 A"},
            "NEC, soft starter": {"protection.overload": "130 A"},
            "NEC, wye-delta": {"protection.overload": "110 A"},
            "IEC, direct": {"protection.overload": "42 A"},
            "IEC, star-delta": {"protection.overload": "95 A"},
            "IEC, soft starter": {"protection.overload": "62 A"},
        },
    ),
    "place": (
        "place.motor",
        {
            "NEC, direct": {"plate.enclosure": "ODP"},
            "NEC, soft starter": {"place.motor": NEC_AREA},
            "NEC, wye-delta": {"place.motor": NEC_AREA},
            "NEC, class I division 2 on a sub-board": {"plate.thermal_protection": "AUTO"},
            "IEC, zone 1 d": {"plate.ex_marking": "Ex ec IIB T4 Gc"},
            "IEC, zone 1 eb": {"place.te": "4 s"},
        },
    ),
    "holding": ("stop.hold", {"IEC, direct": {"stop.brake_torque": "100 N·m"}}),
    "load above the motor": (
        "load.power",
        {
            "NEC, direct": {"load.power": "30 hp"},
            "NEC, soft starter": {"load.power": "90 hp"},
            "NEC, wye-delta": {"load.power": "71 hp"},
            "IEC, star-delta": {"load.power": "48 kW"},
            "IEC, soft starter": {"load.power": "32 kW"},
        },
    ),
    "grounding conductor": (
        "protection.grounding",
        {
            "NEC, direct": {"wiring.ground_size": "14 AWG"},
            "NEC, soft starter": {"wiring.ground_size": "12 AWG"},
            "NEC, wye-delta": {"wiring.ground_size": "12 AWG"},
            "IEC, direct": {"wiring.ground_size": "1.5 mm²"},
            "IEC, star-delta": {"wiring.ground_size": "2.5 mm²"},
            "IEC, soft starter": {"wiring.ground_size": "1.5 mm²"},
        },
    ),
    "impossible way": (
        "start.possible",
        {
            "NEC, direct": {"start.method": "part-winding", "plate.leads": "3"},
            "NEC, soft starter": {"start.method": "part-winding"},
            "IEC, star-delta": {"start.method": "part-winding"},
        },
    ),
    "impossible wye-delta": (
        "wye_delta.eligible",
        {
            "NEC, wye-delta": {"plate.leads": "9", "plate.volts": "460"},
            "IEC, direct": {"start.method": "wye-delta"},
            "IEC, soft starter": {"start.method": "wye-delta", "plate.leads": "3"},
        },
    ),
}

# Gates that a fact made bad must take with it, as it would in fact: a small conductor drops its volts and warms in a
# fault; a device below the load's current does not hold the start either; an overloaded machine starts slowly, too.
_FOLLOWS = {
    "conductor": {"protection.drop", "protection.drop_total", "protection.stall", "protection.clears", "protection.loop", "protection.withstand", "start.torque",
                  "protection.protective_withstand", "stop.release", "start.terminals", "protection.drive_input",
                  "protection.drive_device", "start.drive"},
    "device": {"protection.holds"},
    "holding": {"stop.stop", "stop.emergency", "stop.heat"},
    "load above the motor": {"start.torque", "start.dip", "start.per_hour", "start.succession", "protection.stall",
                             "stop.per_hour"},
    "grounding conductor": {"protection.loop", "protection.protective_withstand"},
    "place": {"place.ambient"},
    "overload ceiling": {"protection.stall"},
}  # fmt: skip

_CASES = [(what, name) for what, (_, cases) in BAD.items() for name in cases]


@pytest.mark.parametrize("name", GOOD)
def test_a_fully_stated_good_circuit_passes_everywhere(name):
    plan = GOOD[name]()
    assert [
        (gate.key, gate.sentence) for gate in plan.gates if gate.weighs and gate.verdict is not Verdict.PASSES
    ] == []
    assert plan.verdict is Verdict.PASSES
    assert "Everything passes" in text_of(plan)
    assert summarise(plan)["why"] == ""


@pytest.mark.parametrize(("what", "name"), _CASES)
def test_one_bad_fact_fails_by_its_own_gate_and_the_first_sentence_says_so(what, name):
    key, cases = BAD[what]
    plan = GOOD[name](cases[name])
    gate = plan.gate(key)
    assert gate.verdict is Verdict.FAILS
    assert {g.key for g in plan.gates if g.weighs and g.verdict is not Verdict.PASSES} <= {key} | _FOLLOWS.get(
        what, set()
    )
    said = text_of(plan)
    assert said.startswith("Fails: ")
    assert gate.name.lower() in said.casefold().split("direct on line")[0].split("across the line")[0]
    assert plan.verdict is Verdict.FAILS
    assert summarise(plan)["why"]


def test_what_can_kill_is_said_before_what_can_annoy():
    """A failing place comes before a failing dip, a failing device before a failing drop."""
    plan = GOOD["NEC, soft starter"](
        {"place.motor": NEC_AREA, "wiring.length": "1200 ft", "protection.rating": "400 A"}
    )
    said = text_of(plan)
    assert said.startswith("Fails: motor in its area.")
    assert said.index("device within the rule") < said.index("clears a fault")
