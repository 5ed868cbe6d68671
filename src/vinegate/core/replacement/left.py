"""What is entered elsewhere of the old motor itself: it is not the new one's, until someone says so of it."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, Final

from vinegate.core.field import file_name, read_facts
from vinegate.core.plate.protector import Protector, read_protector
from vinegate.core.replacement.facts import Replacement

_OF_THE_MOTOR: Final = {
    "start": ("locked_rotor_power_factor", "part_winding", "part_current_pu", "part_torque_pu"),
    "drive": ("tuned_r_ohm", "tuned_leak", "tuned_idle_a", "tuned_rotor_s", "tuned_at_c"),
    "place": ("te_s", "drive_duty", "conditions", "heater_surface_c"),
}
"""By part: its leads and halves, what a drive found in it, what its certificate says."""
_FOR_ITS_DRIVE: Final = ("cooling", "winding", "peak_v", "full_torque_hz", "mechanical_rpm", "fast", "bearings")
"""On the drive's sheet; kept where the new motor is said to be made for the circuit's drive."""
_SAID: Final = {
    ("start", "part_winding"): "part_winding",
    ("place", "te_s"): "te_s",
    ("place", "drive_duty"): "listed_for_drive",
}
"""What the comparison asks of the new one, by where it stands of the old."""
_TOLD: Final = {"starter": ("low_current_a", "low_speed_rpm"), "drive": ("encoder",), "protection": ("thermistor",)}
"""What a row of the comparison tells of, and only the plate that is taken over leaves behind."""
_MEASURED: Final = "record_"
_PUT_IN: Final = "record_install"
"""The work beside the machine, done for the new one."""


def is_old_record(part: str) -> bool:
    """Whether a part of the facts is what was measured of the old motor: history, once another has its place."""
    return part.startswith(_MEASURED) and part != _PUT_IN


def _gone(*, kept_for_drive: bool) -> dict[str, tuple[str, ...]]:
    return _OF_THE_MOTOR if kept_for_drive else _OF_THE_MOTOR | {"drive": (*_OF_THE_MOTOR["drive"], *_FOR_ITS_DRIVE)}


def supposed(facts: Replacement) -> dict[str, dict[str, Any]]:
    """Fields of the circuit's parts as they are with the new motor: None, but for what is said of it."""
    gone = _gone(kept_for_drive=facts.drive_ready == "yes")
    return {
        part: {name: getattr(facts, _SAID[part, name]) if (part, name) in _SAID else None for name in names}
        for part, names in gone.items()
    }


def _kept(circuit_raw: Mapping[str, Any], facts: Replacement) -> set[str]:
    """Of what is told of, what is said of the new one too."""
    sensors = read_protector((circuit_raw.get("new_plate") or {}).get("thermal_protection")) is Protector.SENSORS
    return {name for name, has in (("encoder", facts.has_encoder == "yes"), ("thermistor", sensors)) if has}


def left_behind(circuit_raw: Mapping[str, Any]) -> dict[str, Any]:
    """The same of a circuit's texts, and of where they are said to come from."""
    said = circuit_raw.get("replacement") or {}
    facts, _ = read_facts(Replacement, said, "replacement")
    found, paths = {key: part for key, part in circuit_raw.items() if not is_old_record(key)}, set[str]()
    gone, kept = _gone(kept_for_drive=facts.drive_ready == "yes"), _kept(circuit_raw, facts)
    for part in {**gone, **_TOLD}:
        names = [name for name in (*gone.get(part, ()), *_TOLD.get(part, ())) if name not in kept]
        files = {file_name(name): file_name(_SAID.get((part, name), "")) for name in names}
        texts = {key: text for key, text in (circuit_raw.get(part) or {}).items() if key not in files}
        texts |= {key: said[asked] for key, asked in files.items() if asked and said.get(asked)}
        paths |= {f"{part}.{key}" for key in files}
        if texts or part in circuit_raw:
            found[part] = texts
    if "sources" in circuit_raw:
        found["sources"] = {path: word for path, word in circuit_raw["sources"].items() if path not in paths}
    return found
