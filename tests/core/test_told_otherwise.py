"""The same machine told otherwise: by the usual tests of it, by its circuit, by a curve that another statement doubts."""

import numpy as np
import pytest

from tests.conftest import planner
from tests.core.test_maker_curve import as_curve
from vinegate.core.grade import Verdict
from vinegate.core.machine.circuit import Cage, operate
from vinegate.core.machine.curves import carrying_slip
from vinegate.core.records import replace
from vinegate.core.start.stage import START

LOCK, SOUND = "harrowmere-lock.json", "skerry-sound.json"


def as_tested(machine, *, share):
    """What a bench would read of this machine with its rotor locked at so much of rated hertz, and idle."""
    circuit, hertz = machine.circuit, machine.circuit.frequency_hz
    locked_v = 0.3 * share * machine.volts_v
    idle = operate(circuit, 1e-5, volts_v=machine.volts_v)
    locked = operate(circuit, 1.0, volts_v=locked_v, frequency_hz=share * hertz)
    read = {
        "dc_resistance": f"{2 * circuit.r1_ohm} Ω", "friction": f"{circuit.drag_w} W",
        "no_load_volts": f"{machine.volts_v} V", "no_load_current": f"{float(idle.line_current_a)} A",
        "no_load_power": f"{float(idle.input_w) + circuit.drag_w} W", "locked_volts": f"{locked_v} V",
        "locked_current": f"{float(locked.line_current_a)} A", "locked_power": f"{float(locked.input_w)} W",
        "locked_frequency": f"{share * hertz} Hz",
    }  # fmt: skip
    return {f"machine.{name}": text for name, text in read.items()}


@pytest.mark.parametrize(("file", "tag"), [(LOCK, "P-11"), (LOCK, "X-51"), (SOUND, "H-1"), (SOUND, "W-2")])
def test_locked_at_a_quarter_of_its_hertz_it_tells_of_its_running_alone(file, tag):
    """Bars carry current through all of their depth there: 500 A of 593 at rest, and a dip that passed by so much."""
    plan = planner(file, tag)
    ours = plan({"start.method": "full-voltage"})
    theirs = plan({"start.method": "full-voltage"} | as_tested(ours.machine, share=0.25))
    assert theirs.machine.origin == ours.machine.origin == "fitted"
    at_rest = ours.machine.locked_rotor_current_a
    assert theirs.machine.locked_rotor_current_a == pytest.approx(at_rest)
    assert theirs.figure("start.full.current").value == pytest.approx(ours.figure("start.full.current").value)
    running = theirs.machine.inside
    assert running is not theirs.machine.circuit
    assert (
        float(operate(running, 1.0, volts_v=ours.machine.volts_v).line_current_a)
        < 0.9 * ours.machine.locked_rotor_current_a
    )
    assert theirs.gate("machine.plate").verdict is Verdict.PASSES
    assert theirs.of(START).plant.inside is running


@pytest.mark.parametrize(("file", "tag"), [(LOCK, "G-21"), (LOCK, "R-31"), (SOUND, "K-5")])
def test_locked_at_its_own_hertz_it_tells_of_its_start(file, tag):
    """And loses what it did: by its own slip at rated torque, which is not the plate's."""
    plan = planner(file, tag)
    ours = plan({"start.method": "full-voltage"})
    theirs = plan({"start.method": "full-voltage"} | as_tested(ours.machine, share=1.0))
    assert theirs.machine.origin == "from tests"
    assert theirs.machine.locked_rotor_current_a == pytest.approx(ours.machine.locked_rotor_current_a, rel=0.01)
    assert theirs.machine.inside is not theirs.machine.circuit
    theirs, ours = (each.gate("start.per_hour") for each in (theirs, ours))
    assert theirs.verdict is ours.verdict
    assert theirs.value == pytest.approx(ours.value, abs=4)


@pytest.mark.parametrize(("volts", "found"), [(1.0, Verdict.PASSES), (0.6, Verdict.FAILS)])
def test_locked_at_its_own_hertz_it_may_slip_more_than_its_plate(volts, found):
    """Its bars' resistance at rest is up to three times that of running; of another machine's readings it is not."""
    plan = planner(SOUND, "H-1")
    read = as_tested(plan().machine, share=1.0)
    read["machine.locked_volts"] = f"{volts * float(read['machine.locked_volts'].split()[0])} V"
    told = plan(read)
    assert told.gate("machine.plate").verdict is Verdict.PASSES
    assert told.gate("start.agrees").verdict is found  # with more amperes at rest than its plate says


def test_the_slip_at_which_a_circuit_carries_a_torque(p11):
    machine = p11().machine
    slip = carrying_slip(machine.circuit, machine.rated_torque_nm, volts_v=460)
    assert slip == pytest.approx(15 / 1200, rel=0.01)
    assert operate(machine.circuit, np.array([slip]), volts_v=460).torque_nm == pytest.approx(451.9, rel=0.01)
    assert carrying_slip(machine.circuit, 5000, volts_v=460) is None


@pytest.mark.parametrize(
    ("share", "letter", "verdict"),
    [
        (1.0, "G", Verdict.PASSES),  # 593 A, as it has at most
        (0.9, "G", Verdict.PASSES),
        (0.86, "G", Verdict.PASSES),  # 510 A, a twentieth short of 527
        (0.8, "G", Verdict.CHECK),  # 474 A
        (0.8, "F", Verdict.PASSES),  # 471 to 527 A
        (0.65, "G", Verdict.FAILS),
    ],
)
def test_a_machine_that_draws_less_than_its_letter_is_asked_about(p11, share, letter, verdict):
    """Dip, device and terminals are worked with the amperes that are believed: they passed with a sixth less."""
    rows = [row.split("; ") for row in as_curve(p11().machine, with_factor=False).splitlines()]
    curve = "\n".join("; ".join([n, nm, amps if row == 0 else f"{share * float(amps):.2f}"])
                      for row, (n, nm, amps) in enumerate(rows))  # fmt: skip
    gate = p11({"machine.curve": curve, "plate.code_letter": letter}).gate("start.agrees")
    assert gate.verdict is verdict, gate.sentence
    if verdict is Verdict.CHECK:
        assert (gate.turns.path, gate.turns.passes_as) == ("plate.code_letter", "F")
        unsaid = p11({"machine.curve": curve, "plate.code_letter": letter, "plate.code_letter_for": None})
        assert unsaid.gate("start.agrees").turns.passes_as == "F"  # not A, that might be of the wye


@pytest.mark.parametrize(
    ("path", "text", "settles"),
    [("starting_current_ratio", "7.2", "6.1"), ("locked_rotor_current", "583 A", "494 A")],
)
def test_so_is_one_whose_plate_states_more_otherwise(h1, path, text, settles):
    plate = dict.fromkeys(("plate.starting_current_ratio", "plate.locked_rotor_current")) | {f"plate.{path}": text}
    rows = [row.split("; ") for row in as_curve(h1().machine, with_factor=False).splitlines()]
    less = [[n, nm, f"{494 / 583 * float(amps):.2f}"] for n, nm, amps in rows[1:]]
    gate = h1(plate | {"machine.curve": "\n".join("; ".join(row) for row in [rows[0], *less])}).gate("start.agrees")
    assert gate.verdict is Verdict.CHECK
    assert gate.turns.path == f"plate.{path}"
    assert gate.turns.passes_as.startswith(settles[:3])


@pytest.mark.parametrize(("share", "entered"), [(1.0, False), (0.25, True)])
def test_beside_a_curve_only_tests_that_tell_of_its_running_stand_behind_it(p11, share, entered):
    """Locked at its own hertz they tell of its start, as the curve does: its running is fitted."""
    ours = p11().machine
    machine = p11(as_tested(ours, share=share) | {"machine.curve": as_curve(ours, with_factor=False)}).machine
    assert machine.origin == "maker's curve"
    assert machine.measured is entered
    assert (len(machine.inside.cages) == 1) is entered


@pytest.mark.parametrize(
    ("times", "share", "found", "remedy"),
    [
        (2.5, 1.0, Verdict.PASSES, ""),  # so many times its running resistance its bars may have at line frequency
        (4.0, 1.0, Verdict.FAILS, "a quarter of its hertz"),
        (0.5, 1.0, Verdict.FAILS, "a quarter of its hertz"),  # and not less
        (2.5, 0.25, Verdict.FAILS, "another machine"),
    ],
)
def test_a_rotor_locked_at_line_frequency_may_slip_more_but_not_less(p11, times, share, found, remedy):
    machine, slip = p11().machine, 15 / 1200
    rotor = 1 / sum(1 / complex(cage.r_ohm / slip, cage.x_ohm) for cage in machine.circuit.cages)
    cage = Cage(r_ohm=times * slip * rotor.real, x_ohm=rotor.imag)
    single = replace(machine.circuit, cages=(cage,), saturated=1.0, cold=1.0)
    gate = p11(as_tested(replace(machine, circuit=single), share=share)).gate("machine.plate")
    assert gate.verdict is found, gate.sentence
    assert remedy in gate.remedy
