"""The drawing: both families from one netlist, wires that make each net one, letters by each habit, a sound DXF file."""

import io
from collections import Counter
from dataclasses import replace
from itertools import pairwise

import pytest

from tests.conftest import planner
from tests.core.starters import SHIPPED
from vinegate.core.starter.circuits import BY_WAY
from vinegate.core.starter.leads import marks_of
from vinegate.core.starter.netlist import Amps, netlist_of, parts_of
from vinegate.core.starter.proof import proved
from vinegate.core.starter.stage import STARTER
from vinegate.core.starter.tags import named_by, renamed
from vinegate.core.starter.trunk import chains_of
from vinegate.core.starter.wires import wiring_of
from vinegate.core.starter.wishes import Wishes
from vinegate.drawing.dxf import dxf
from vinegate.drawing.ladder import RUNGS, ladder
from vinegate.drawing.legend import legend
from vinegate.drawing.power import power
from vinegate.drawing.scene import Circle, Group, Path, Rect, Text

FAMILIES = pytest.mark.parametrize("ansi", [True, False], ids=["ANSI", "IEC"])


def inside(scene):
    width, height = scene.size
    for shape in scene.shapes:
        for x, y in shape.points if isinstance(shape, Path) else [shape.at]:
            assert 0 <= x <= width, shape
            assert 0 <= y <= height, shape


def test_auxiliary_contacts_are_those_of_its_contactors_as_drawn():
    """Its star: one for its seal, three of the line contactor's, one against the delta; the delta's own against the star."""
    plan = planner("skerry-sound.json", "H-1")
    assert plan({"protection.signals": "3"}).figure("starter.aux").value == 1 + 1 + 4 + 1 + 3
    plain = plan({"start.method": "full-voltage", "start.reversing": "yes", "protection.signals": None})
    assert plain.figure("starter.aux").value == 4  # a seal and a lock each


def test_each_contactor_has_the_least_block_that_its_contacts_fit():
    """Forward of a wye-delta both ways: its seal, two that tell the starter, and its lock; a relay has none."""
    found = {one.tag: (one.contacts, one.block) for one in parts_of(SHIPPED["wye-delta reversing"], Amps(line=30.0))}
    assert found["F"] == found["R"] == (4, "4+4")
    assert found["TR"] == (2, "")
    plain = {one.tag: one.block for one in parts_of(SHIPPED["full-voltage reversing"], Amps(line=30.0))}
    assert plain == {"F": "1+1", "R": "1+1"}
    many = replace(parts_of(SHIPPED["full-voltage"], Amps(line=30.0))[0], makes=5)
    assert many.block == "two blocks, or a relay"
    assert replace(many, makes=2, breaks=1, late=1).block == "2+2"
    assert replace(many, makes=1, breaks=2).block == "2+2"
    assert replace(many, makes=0).block == ""


@pytest.mark.parametrize("name", SHIPPED)
def test_nets_that_run_down_do_not_lie_over_each_other(name):
    """Beside the steps of the contacts only nets that others hang on run down: at one place their lengths just touch."""
    circuit = SHIPPED[name]
    drawn = ladder(circuit, netlist_of(circuit), ansi=True)
    lengths = {}
    for wire in (shape.points for shape in drawn.shapes if isinstance(shape, Path) and shape.role == "wire"):
        for (x, y), (to_x, to_y) in pairwise(wire):
            if x == to_x and (x - RUNGS.first) % RUNGS.along:
                lengths.setdefault(x, []).append(sorted((y, to_y)))
    for at, found in lengths.items():
        for (_, ends), (begins, _) in pairwise(sorted(found)):
            assert begins >= ends, at


@FAMILIES
@pytest.mark.parametrize("name", SHIPPED)
def test_every_element_is_drawn_once(name, ansi):
    circuit = SHIPPED[name]
    netlist = netlist_of(circuit)
    scene = ladder(circuit, netlist, ansi=ansi)
    inside(scene)
    drawn = Counter((one.marks["TAG"], one.marks["NETS"]) for one in scene.shapes if isinstance(one, Group))
    assert drawn == Counter((one.of, "-".join(one.pins)) for one in netlist.elements if one.rung)
    inside(power(circuit, ansi=ansi))
    poles = [one for one in power(circuit, ansi=ansi).shapes if isinstance(one, Group)]
    marks = marks_of(circuit, nema=ansi)
    assert Counter(one.marks["NETS"] for one in poles) == Counter(
        "-".join(marks.get(net, net) for net in one.pins) for one in netlist.elements if not one.rung
    )


@FAMILIES
@pytest.mark.parametrize("name", ["wye-delta dc", "full-voltage reversing plugging", "full-voltage hand-off-auto"])
def test_what_hangs_on_a_net_is_joined_to_it_by_a_dot(name, ansi):
    """Wires that cross are not joined: each chain that hangs has a dot where it leaves."""
    circuit = SHIPPED[name]
    scene = ladder(circuit, netlist_of(circuit), ansi=ansi)
    dots = [one.at for one in scene.shapes if isinstance(one, Circle) and one.role == "dot"]
    wires = [tuple(one.points) for one in scene.shapes if isinstance(one, Path) and len(one.points) == 3]
    assert len(wires) == sum(1 for chain in chains_of(circuit) if chain.hangs)
    assert all(points[0] in dots for points in wires)


@pytest.mark.parametrize("name", SHIPPED)
def test_wires_join_the_ends_of_each_net_and_nothing_else(name):
    """A tree on each net: as many wires as ends less one, every screw of a device reached, none but by its own net."""
    netlist = netlist_of(SHIPPED[name])
    found = wiring_of(netlist)
    for net in {wire.net for wire in found.wires}:
        ends = [end for wire in found.wires if wire.net == net for end in (str(wire.begins), str(wire.ends))]
        assert len(set(ends)) == len(ends) // 2 + 1
        wanted = {
            f"{one.of}:{mark}"
            for place, one in enumerate(netlist.elements) if one.rung
            for at, mark in zip(one.pins, netlist.marks[place], strict=True) if at == net
        }  # fmt: skip
        assert wanted <= set(ends)
    assert all(wire.begins.place == wire.ends.place or wire.cable for wire in found.wires)
    assert [one.number for one in found.terminals] == list(range(1, len(found.terminals) + 1))


@pytest.mark.parametrize("name", SHIPPED)
def test_no_screw_of_a_device_is_marked_twice(name):
    netlist = netlist_of(SHIPPED[name])
    contacts = [(one.of, netlist.marks[place]) for place, one in enumerate(netlist.elements) if one.is_contact]
    assert len(contacts) == len(set(contacts))


def test_marks_by_their_figures():
    """Overload 95-96, start 13-14, the main's seal 13-14; in wye-delta the delta's interlock breaks: 2x."""
    netlist = netlist_of(BY_WAY["full-voltage"](Wishes()))
    marks = {(one.of, one.what): netlist.marks[place] for place, one in enumerate(netlist.elements) if one.rung}
    assert marks["OL", "break contact"] == ("95", "96")
    assert marks["STOP", "break contact"] == ("11", "12")
    assert marks["START", "make contact"] == marks["M", "make contact"] == ("13", "14")
    assert marks["M", "contactor"] == ("A1", "A2")


@pytest.mark.parametrize("habit", ["81346", "older"])
@pytest.mark.parametrize("name", ["wye-delta by speed dc", "drive by-pass", "full-voltage limits",
                                  "full-voltage waits in auto", "full-voltage lamps and heater"])  # fmt: skip
def test_letters_change_nothing_but_the_letters(name, habit):
    circuit = SHIPPED[name]
    names = named_by(circuit, habit)
    other = renamed(circuit, names)
    assert len(set(names.values())) == len(names)
    assert [one.states for one in (proved(circuit), proved(other))] == [proved(circuit).states] * 2
    back = renamed(other, {new: old for old, new in names.items()})
    assert back == circuit


def test_the_job_says_the_letters():
    plan = planner("skerry-sound.json", "H-1")
    assert plan().of(STARTER).circuit.device("QA1").name == "star point"
    assert plan({"limits.tags": "older"}).of(STARTER).circuit.device("K1").name == "star point"
    assert plan({"limits.tags": "ics19"}).of(STARTER).circuit.device("S").name == "star point"


@FAMILIES
@pytest.mark.parametrize("name", ["wye-delta dc", "autotransformer", "drive reversing", "full-voltage plugging"])
def test_the_dxf_file_is_sound(name, ansi):
    """By an auditor: no error, nothing to repair; every layer used is there, every symbol says its tag."""
    from ezdxf.filemanagement import read

    circuit = SHIPPED[name]
    control = ladder(circuit, netlist_of(circuit), ansi=ansi)
    scenes = (control, power(circuit, ansi=ansi), legend(control, ansi=ansi))
    document = read(io.StringIO(dxf(scenes, ("Ü √ · Δ", "As built:"))))
    audit = document.audit()
    assert not audit.errors
    assert not audit.fixes
    layers = {layer.dxf.name for layer in document.layers}
    assert {entity.dxf.layer for entity in document.modelspace()} <= layers
    tags = Counter(
        mark.dxf.text
        for reference in document.modelspace().query("INSERT") for mark in reference.attribs if mark.dxf.tag == "TAG"
    )  # fmt: skip
    coils = [device.tag for device in circuit.devices]
    assert all(tags[tag] >= 1 for tag in coils)
    assert any(entity.dxf.text == "Ü √ · Δ" for entity in document.modelspace().query("TEXT"))


def test_the_legend_has_what_is_drawn_and_nothing_more():
    circuit = SHIPPED["full-voltage"]
    control = ladder(circuit, netlist_of(circuit), ansi=True)
    names = {one.name for one in legend(control, ansi=True).shapes if isinstance(one, Group)}
    assert names == {one.name for one in control.shapes if isinstance(one, Group)}
    assert not [name for name in names if "timer" in name]


@FAMILIES
def test_a_timer_says_which_way_it_delays_and_what_it_is_set_to(ansi):
    """A start's timer delays coming in, a soft stop's going out; the electronics' own relay is set by nobody."""
    circuit = SHIPPED["soft-starter waits softly_s+rests_s"]
    scene = ladder(circuit, netlist_of(circuit), ansi=ansi)
    drawn = {one.marks["TAG"]: one for one in scene.shapes if isinstance(one, Group) and one.name.endswith("timer")}
    assert {tag: one.name for tag, one in drawn.items()} == {
        "TOR": "timed timer", "TS": "lasting timer", "TA": "lasting timer"
    }  # fmt: skip
    assert drawn["TOR"].parts != drawn["TS"].parts == drawn["TA"].parts
    contacts = {
        one.marks["TAG"]: one.name
        for one in scene.shapes
        if isinstance(one, Group) and one.name.startswith(("timed m", "lasting "))
    }
    assert contacts["TS"] == "lasting make"
    words = " ".join(one.text for one in scene.shapes if isinstance(one, Text))
    assert "60 s" in words
    assert "its relay, " not in words
    sets = {one.tag: one.delay for one in parts_of(circuit, Amps(line=None))}
    assert sets["TA"] == "off-delay, 60 s"
    assert sets["TOR"] == sets["K"] == ""


def test_the_overloads_place_is_drawn():
    circuit = SHIPPED["wye-delta"]
    line, leg = (power(circuit, ansi=True, leg=leg) for leg in (False, True))
    assert [one for one in line.shapes if one not in leg.shapes]


@pytest.mark.parametrize(("name", "ahead"), [("full-voltage", True), ("soft-starter", True), ("drive", False)])
def test_a_drives_overload_stands_where_the_motors_amperes_flow(name, ahead):
    """Ahead of a drive they are the line's, that know nothing of the motor's."""

    def heaters(phase):
        level = next(one.at[1] for one in power(SHIPPED[name], ansi=True).shapes if isinstance(one, Text) and
                     one.text == phase) - 4  # fmt: skip
        boxes = [
            one for one in power(SHIPPED[name], ansi=True).shapes if isinstance(one, Rect) and one.size == (12, 10)
        ]
        return sum(one.at[1] == level - 5 for one in boxes)

    assert (heaters("L1"), heaters("T1")) == ((1, 0) if ahead else (0, 1))


@pytest.mark.parametrize(
    ("name", "nets", "marks"),
    [
        ("wye-delta", {"T1-T6", "T2-T4", "T3-T5"}, {"U1-W2", "V1-U2", "W1-V2"}),
        ("wye-delta behind", {"T1-T5", "T2-T6", "T3-T4"}, {"U1-V2", "V1-W2", "W1-U2"}),
        ("full-voltage constant torque", {"L1-T6", "L2-T4", "L3-T5"}, {"L1-2U", "L2-2V", "L3-2W"}),
        ("part-winding", {"L1-T7", "L2-T8", "L3-T9"}, {"L1-U3", "L2-V3", "L3-W3"}),
        ("rotor-resistor", {"M1-M2", "M2-M3"}, {"K-L", "L-M"}),
        ("full-voltage single", {"L1-T1", "L2-T4"}, {"L1-U1", "L2-U2"}),
    ],
)
def test_leads_are_marked_as_the_plates_sheet_marks_them(name, nets, marks):
    """IEC 60034-8: U, V and W with their ends, windings counted from the lowest speed, K, L and M of the rings."""
    for ansi, expected in ((True, nets), (False, marks)):
        drawn = power(SHIPPED[name], ansi=ansi)
        assert expected <= {one.marks["NETS"] for one in drawn.shapes if isinstance(one, Group)}
