"""Drawn starters that several tests look at: every way with what may be added, and what breaks their proof."""

from dataclasses import replace

from vinegate.core.starter.circuits import BY_WAY, drawn_to
from vinegate.core.starter.logic import Contact
from vinegate.core.starter.proof import proved
from vinegate.core.starter.wishes import Wishes

_ALL = {
    f"{way}{' ' if words else ''}{words}": drawn_to(way, Wishes(**wishes))
    for way in BY_WAY
    for words, wishes in (
        ("", {}), ("two-wire", {"two_wire": True}), ("emergency", {"emergency": True}), ("closed", {"closed": True}),
        ("reversing", {"reverses": True}), ("three stations", {"stations": 3}), ("jog", {"jog": True}),
        ("hand-off-auto", {"hands": True}), ("dc", {"braking": "dc"}), ("plugging", {"braking": "plugging"}),
        ("two-wire reversing", {"two_wire": True, "reverses": True}), ("single", {"single": True}),
        ("reversing plugging", {"reverses": True, "braking": "plugging"}),
        ("follows", {"follows": True}), ("stands by", {"stands_by": True}), ("lamps and heater", {"lamps": "green", "heater": True}),
        ("waits", {"two_wire": True, "restart_s": 5.0}), ("waits in auto", {"hands": True, "restart_s": 5.0}),
        ("behind", {"behind": True}), ("by operator", {"changes_by": "operator"}), ("by speed", {"changes_by": "speed"}),
        ("by speed dc", {"changes_by": "speed", "braking": "dc"}), ("by-pass", {"bypass": True}),
        ("ride", {"ride_s": 2.0, "emergency": True}),
        ("two windings", {"speeds": "separate", "emergency": True}), ("constant torque", {"speeds": "constant"}),
        ("variable torque", {"speeds": "variable", "five_poles": True}), ("constant power", {"speeds": "power"}),
        ("through low", {"speeds": "constant", "compelling": True, "low_after_s": 2.0}),
        ("two-wire speeds", {"speeds": "separate", "two_wire": True}), ("two poles", {"two_poles": True}), ("runs on", {"runs_on_s": 4.0, "emergency": True}),
        ("limits", {"reverses": True, "limits": True}), ("anti-plugging", {"reverses": True, "antiplug": True}),
        ("two-wire limits", {"reverses": True, "limits": True, "two_wire": True}),
        ("three steps", {"steps_s": (1.0, 0.6, 0.4)}), ("field", {"field_fed": True, "emergency": True}),
        ("two lines", {"bridge_lines": 2}), ("on its resistor", {"braking": "armature"}),
        ("in stages", {"braking": "armature", "stages_s": (0.8, 0.5), "brake_s": 2.0}),
        ("soft stop", {"softly_s": 6.0, "emergency": True}), ("reversing dc", {"reverses": True, "braking": "dc"}),
        ("reversing jog", {"reverses": True, "jog": True}), ("by-pass by selector", {"bypass": True, "hands": True}),
        ("closed by selector", {"closed": True, "hands": True}), ("two-wire closed", {"closed": True, "two_wire": True}),
    )
} | {
    f"{way} thermistors {'+'.join(wishes)}": drawn_to(way, Wishes(sensors=True, **wishes))
    for way, wishes in (
        ("full-voltage", {"emergency": True, "lamps": "red"}), ("wye-delta", {"braking": "dc"}), ("drive", {"bypass": True}),
        ("dc-drive", {"braking": "armature"}), ("full-voltage", {"runs_on_s": 4.0}),
    )
} | {
    f"{way} phases {'+'.join(wishes)}": drawn_to(way, Wishes(watches_phases=True, **wishes))
    for way, wishes in (
        ("full-voltage", {"reverses": True, "ride_s": 2.0}), ("wye-delta", {"two_wire": True, "sensors": True}),
        ("autotransformer", {"emergency": True, "lamps": "green"}), ("soft-starter", {"softly_s": 6.0}), ("drive", {"emergency": True}),
    )
} | {
    f"{way} waits {'+'.join(wishes)}": drawn_to(way, Wishes(**wishes))
    for way, wishes in (
        ("full-voltage", {"rests_s": 60.0}), ("full-voltage", {"purges_s": 30.0, "two_wire": True, "rests_s": 60.0}),
        ("full-voltage", {"purges_s": 30.0, "braking": "plugging"}), ("wye-delta", {"two_wire": True, "rests_s": 60.0}),
        ("wye-delta", {"purges_s": 30.0, "follows": True}), ("autotransformer", {"hands": True, "rests_s": 60.0}),
        ("soft-starter", {"softly_s": 6.0, "rests_s": 60.0}), ("drive", {"purges_s": 30.0, "emergency": True, "rests_s": 60.0}),
    )
} | {
    f"rotor-resistor {words}": drawn_to("rotor-resistor", Wishes(**wishes))
    for words, wishes in (
        ("shorted", {"steps_s": ()}), ("seven steps", {"steps_s": (0.5,) * 7, "lamps": "red", "heater": True}),
        ("seven both ways", {"steps_s": (0.5,) * 7, "reverses": True, "limits": True}),
        ("two-wire steps", {"steps_s": (1.0, 0.5), "two_wire": True}),
    )
}  # fmt: skip
SHIPPED = {name: circuit for name, circuit in _ALL.items() if next(n for n, c in _ALL.items() if c == circuit) == name}
OPEN, CLOSED = SHIPPED["wye-delta"], SHIPPED["wye-delta closed"]
KORNDORFER, PLAIN, TURNED = SHIPPED["autotransformer"], SHIPPED["full-voltage"], SHIPPED["full-voltage reversing"]


def broken_by(circuit):
    return {one.key: one.breaks for one in proved(circuit).shown if not one.holds}


def early(logic):
    """The same with ordinary break contacts in place of late ones."""
    if isinstance(logic, Contact):
        return Contact(logic.of, logic.breaks)
    return type(logic)(tuple(early(part) for part in logic.parts))


def with_logic(circuit, tag, logic):
    devices = tuple(replace(one, logic=logic) if one.tag == tag else one for one in circuit.devices)
    return replace(circuit, devices=devices)
