"""Whatever is chosen and typed of stop and place, the plan stands, and what it does not know it names."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.conftest import whole
from tests.examples import examples
from vinegate.core.facts import RuleSetName
from vinegate.core.grade import Verdict
from vinegate.core.place.facts import Area, Place
from vinegate.core.stop.facts import Stop

TYPED = {
    "groups": ["D", "C, D", "E", "Z"],
    "materials": ["methane", "wood dust", "hydrogen, petrol", "ours (IIB 240 °C)", "carbon disulfide", "nonsense"],
    "name": ["a yard"],
    "marking": ["CL I GP D", "Ex db IIB T4 Gb", "AEx eb IIC T3 Gb X", "XYZ", "T3"],
    "enclosure": ["type 4X", "IP65", "wood"],
}


def texts(name, fact):
    """Texts a field may be given: its choices, or numbers small, usual and large."""
    if fact.choices:
        return st.sampled_from([key for key, _ in fact.choices])
    for key, words in TYPED.items():
        if name.endswith(key):
            return st.sampled_from(words)
    return st.sampled_from(["0", "1", "0.5", "3", "40", "500"])


def some(stage, model):
    fields = model.fields().items()
    return st.fixed_dictionaries({}, optional={f"{stage}.{name}": texts(name, fact) for name, fact in fields})


@examples(30)
@given(
    place=some("place", Place),
    area=some("area_1", Area),
    stop=some("stop", Stop),
    who=st.sampled_from(
        [("harrowmere-lock.json", "G-21"), ("harrowmere-lock.json", "C-71"), ("skerry-sound.json", "F-3")]
    ),
    rules=st.sampled_from(RuleSetName),
)
@pytest.mark.slow
def test_nothing_falls(place, area, stop, who, rules):
    plan = whole(*who)({**place, **area, **stop}, rules)
    for gate in plan.gates:
        assert gate.sentence
        if gate.verdict is Verdict.UNKNOWN:
            assert gate.needs or not gate.weighs
    for row in plan.placed.devices:
        assert row.why
    for row in plan.stopping.rows if plan.stopping else ():
        assert row.why


def test_a_brake_that_closes_at_once_behind_a_ramp_is_the_brake_alone():
    winch = whole("skerry-sound.json", "W-2")
    alone = winch({"stop.brake_delay": None}).stopping.row("brake")
    behind = winch({"stop.method": "drive-brake", "stop.brake_at": "0 s"}).stopping.row("drive-brake")
    assert abs(behind.time_s - alone.time_s) < 1e-3 * alone.time_s
