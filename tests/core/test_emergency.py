"""An emergency stop by its category: 0 cuts power at once, 1 leaves it while the machine is slowed."""

import pytest

from tests.conftest import planner
from vinegate.core.grade import Verdict
from vinegate.core.starter.circuits import drawn_to
from vinegate.core.starter.machine import Moving, State
from vinegate.core.starter.proof import proved
from vinegate.core.starter.stage import STARTER
from vinegate.core.starter.wishes import ESTOP, START, Wishes

LOCK, SKERRY = "harrowmere-lock.json", "skerry-sound.json"
WAYS = {
    "full-voltage": {"braking": "dc"}, "wye-delta": {"braking": "dc"}, "drive": {}, "dc-drive": {},
    "full-voltage plugged": {"braking": "plugging"}, "drive by-passed": {"bypass": True},
    "dc-drive on its resistor": {"braking": "armature", "stages_s": (0.8,)},
}  # fmt: skip
KEEPS = {
    "full-voltage plugged": "R",
    **dict.fromkeys(("drive", "drive by-passed", "dc-drive", "dc-drive on its resistor"), "K1"),
}


class Panel:
    """The circuit with its buttons: each settles, and its timers run out one by one while `waiting`."""

    def __init__(self, way, *, slows_s):
        self.circuit = drawn_to(way.split(" ")[0], Wishes(emergency=True, slows_s=slows_s, **WAYS[way]))
        self.moving = Moving(self.circuit)
        self.state = self.moving.settle(self.moving.rest())

    def work(self, tag, *, on):
        if tag in self.moving.inputs:
            place, pressed = self.moving.inputs.index(tag), self.state.pressed
            self.state = self.moving.settle(State(self.state.coils, (*pressed[:place], on, *pressed[place + 1 :])))

    def waiting(self):
        """All that was in until nothing more runs out."""
        seen = set(self.moving.poles_in(self.state))
        while ends := [after for move, after in self.moving.chosen(self.state) if move.what == "runs out:"]:
            self.state = self.moving.settle(ends[0])
            seen |= self.moving.poles_in(self.state)
        return seen

    def run(self):
        self.work(START, on=True)
        self.work(START, on=False)
        self.work("SPf", on=True)
        self.waiting()
        assert set(self.circuit.wanted) <= self.moving.poles_in(self.state)


@pytest.mark.parametrize("way", WAYS)
@pytest.mark.parametrize("slows_s", [0.0, 2.0])
def test_category_0_cuts_all_of_it_at_once_and_category_1_what_drives_it(way, slows_s):
    panel = Panel(way, slows_s=slows_s)
    panel.run()
    panel.work(ESTOP, on=True)
    assert not panel.moving.drives(panel.state)
    assert (KEEPS.get(way, "DB") in panel.waiting()) is (slows_s > 0)
    if way != "full-voltage plugged":  # that is ended by its speed switch
        assert KEEPS.get(way, "DB") not in panel.moving.poles_in(panel.state)
    panel.work("SPf", on=False)
    panel.work(ESTOP, on=False)
    assert not panel.moving.drives(panel.state)  # let go, it starts nothing
    assert proved(panel.circuit).holds


def drawn(plan):
    return plan.of(STARTER).circuit


def timer(plan, name):
    return next((one.delay_s for one in drawn(plan).devices if one.name == name), None)


def test_it_is_drawn_as_the_stops_sheet_asks():
    plan = planner(LOCK, "X-51")()
    assert ESTOP in [one.tag for one in drawn(plan).inputs]  # category 1, by direct current
    assert ESTOP not in [one.tag for one in drawn(planner(LOCK, "X-51")({"stop.emergency": None})).inputs]
    none = planner(LOCK, "X-51")({"starter.emergency": "no"})
    assert none.gate("starter.emergency").verdict is Verdict.FAILS
    assert not any(gate.key == "starter.emergency" for gate in plan.gates)


@pytest.mark.parametrize(
    ("changes", "cut", "lead"),
    [
        ({}, None, 72.0),  # ramped to rest in 60 s
        ({"stop.emergency": "0"}, None, 72.0),
        ({"stop.emergency": "1"}, 72.0, 72.0),
        ({"stop.method": "coast", "stop.emergency": "1"}, None, 0.5),  # the stop's sheet says that it cannot
    ],
)
def test_what_opens_behind_a_drive_waits_for_its_ramp(changes, cut, lead):
    plan = planner(SKERRY, "F-3")(changes)
    assert timer(plan, "power off once it stands") == cut
    assert timer(plan, "blocked before it opens") == lead


@pytest.mark.parametrize(
    ("file", "tag", "changes", "watched"),
    [
        (LOCK, "P-11", {"protection.thermistor": "yes"}, True),
        (LOCK, "P-11", {}, False),
        (LOCK, "P-11", {"protection.thermistor": "yes", "start.method": "drive"}, False),  # its drive reads them
        (SKERRY, "F-3", {}, True),  # past its drive nothing else would
    ],
)
def test_thermistors_that_are_counted_on_are_wired(file, tag, changes, watched):
    """A proved circuit puts the motor out by each of its inputs that stops."""
    circuit = drawn(planner(file, tag)(changes))
    assert ("winding too warm" in [one.name for one in circuit.inputs if one.stops]) is watched


@pytest.mark.parametrize(
    ("tag", "changes", "verdict"),
    [
        ("G-21", {}, None),  # drawn and proved with them
        ("G-21", {"starter.limits": None}, Verdict.UNKNOWN),
        ("G-21", {"starter.limits": "no"}, Verdict.FAILS),
        ("D-61", {"starter.limits": "no"}, None),  # nothing is lifted
    ],
)
def test_what_lifts_is_stopped_at_its_upper_end(tag, changes, verdict):
    found = {gate.key: gate.verdict for gate in planner(LOCK, tag)(changes).gates}
    assert found.get("starter.upper_end") is verdict


@pytest.mark.parametrize(
    ("jogs", "verdict"), [(None, Verdict.UNKNOWN), ("no", Verdict.PASSES), ("yes", Verdict.PASSES)]
)
def test_a_jog_button_asks_how_often_it_is_pressed(jogs, verdict):
    plan = planner(LOCK, "D-61")({"starter.jog": "yes", "protection.jogging": jogs})
    assert plan.gate("starter.jogs").verdict is verdict
    assert not any(gate.key == "starter.jogs" for gate in planner(LOCK, "D-61")({"protection.jogging": jogs}).gates)
