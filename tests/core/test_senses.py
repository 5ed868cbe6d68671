"""Which end of a band is the worse is said of many facts, so that not every corner is worked: it must be so."""

from __future__ import annotations

from itertools import product
from typing import Any

import pytest

from tests.core.random_facts import sampled
from tests.core.test_verdicts import GOOD
from vinegate.core import grade
from vinegate.core.facts import JOB_STAGES, LISTED, circuit_parts
from vinegate.core.grade import Verdict
from vinegate.core.turning import _finite, both_rooms, ends_of

BANDS = ("stop.lining", "stop.brake_torque", "stop.brake_delay", "load.inertia", "machine.inertia", "machine.stall_hot",
         "load.breakaway", "supply.x_over_r", "supply.transformer_x_over_r", "start.locked_rotor_power_factor")  # fmt: skip
STOPS: tuple[dict[str, str | None], ...] = (
    {},
    {"stop.method": "brake", "stop.overhauls": "no"},
    {"stop.method": "brake", "stop.overhauls": "yes", "stop.friction": "30 %"},
    {"stop.method": "drive-brake", "stop.overhauls": "yes"},
)
BRAKED = ("NEC, direct", "NEC, wye-delta", "IEC, direct", "IEC, soft starter")
ANGLES = 0.02  # between two ends an angle may match the network's, where a fall is deepest


@pytest.mark.slow
@pytest.mark.parametrize("name", GOOD)
def test_no_corner_is_worse_than_the_end_that_is_said_to_be_the_worse(name, monkeypatch):
    seen: list[tuple[str, float, float, list[float]]] = []

    def watched(room: Any, taken: Any) -> tuple[float, float]:
        least, most = both_rooms(room, taken)
        if any(one.sense and one.wide for one in taken):
            every = [_finite(room(*corner)) for corner in product(*ends_of(taken))]
            seen.append((str([one.label for one in taken]), least, most, every))
        return least, most

    monkeypatch.setattr(grade, "both_rooms", watched)
    for stop in STOPS if name in BRAKED else STOPS[:1]:
        often = {"stop.per_hour": "30", "stop.brake_power": "100 W", "stop.brake_stop": "10 kJ"}
        GOOD[name]({**dict.fromkeys(BANDS), **often, **stop})
    for what, least, most, rooms in seen:
        near = ANGLES * max(abs(least), abs(most))
        assert min(rooms) >= least - near, what
        assert max(rooms) <= most + near, what
    assert seen


WINCH, BLADE = "IEC, direct", "NEC, direct"


def test_a_weaker_lining_leads_a_load_that_drives_the_longer():
    """Of its lining nothing is given: two thirds of the mark heat it by half more than all of it."""
    weak, whole = (GOOD[WINCH]({"stop.lining": share}).gate("stop.heat").value for share in ("66.67 %", "100 %"))
    assert weak > 1.3 * whole
    said = {
        watts: GOOD[WINCH]({"stop.lining": None, "stop.brake_power": f"{watts} W", "machine.inertia": "0.2 kg·m²"})
        for watts in (round(0.5 * whole), round((weak * whole) ** 0.5, 1), round(1.5 * weak))
    }
    assert [plan.gate("stop.heat").verdict for plan in said.values()] == [Verdict.FAILS, Verdict.CHECK, Verdict.PASSES]


@pytest.mark.parametrize(("delay", "verdict"), [("0 s", "fails"), (None, "check"), ("0.3 s", "passes")])
def test_a_load_that_helps_leaves_the_less_to_a_brake_the_later_it_closes(delay, verdict):
    brake = {"stop.method": "brake", "stop.brake_torque": "200 N·m", "stop.lining": "100 %", "stop.per_hour": "30",
             "stop.brake_power": "22 W", "machine.inertia": "0.14 kg·m²"}  # fmt: skip
    assert GOOD[BLADE](brake | {"stop.brake_delay": delay}).gate("stop.heat").verdict == verdict


def test_what_never_comes_to_rest_heats_without_end():
    gate = GOOD[WINCH]({"stop.lining": "30 %"}).gate("stop.heat")
    assert (gate.verdict, gate.value) == (Verdict.FAILS, None)
    assert "no end" in gate.sentence
    assert GOOD[WINCH]({"stop.lining": "60 %"}).gate("stop.heat").verdict is Verdict.PASSES


def _field(path: str) -> Any:
    part, _, name = path.partition(".")
    kinds = {**JOB_STAGES, **circuit_parts(), **LISTED}
    return kinds[part if part in kinds else part.rpartition("_")[0]].fields()[name]


@pytest.mark.slow
def test_what_would_settle_a_gate_can_be_typed():
    """No power factor of two, no lining of more than all of it."""
    turns = [gate.turns for plan in sampled() for gate in plan.gates if gate.turns is not None]
    typed = [(one.path, text) for one in turns for text in (one.passes_as, one.fails_as) if text]
    typed += [both for one in turns for both in one.beside]
    for path, text in typed:
        _field(path).read(text)
    assert len(typed) > 100


@pytest.mark.parametrize(("lining", "verdict"), [("38 %", "fails"), ("40 %", "passes"), (None, "passes")])
def test_a_brake_holds_with_its_lining_at_the_worst_that_is_stated(lining, verdict):
    """400 N·m over 155 N·m of load: more than the usual one and a half, which allow for what linings usually lose."""
    gate = GOOD[WINCH]({"stop.lining": lining}).gate("stop.hold")
    assert gate.verdict == verdict
    if lining:
        assert gate.value == pytest.approx(400 * float(lining[:2]) / 100 / 155, rel=0.01)
        assert gate.limit == 1
    else:
        assert gate.limit == 1.5
