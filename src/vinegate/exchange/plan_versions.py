"""Plans as older programs wrote them, brought to the shape of today's: issued revisions open for ever.

Version 1 (programs 0.1 to 0.4, no `version` in it) called its verdicts open, ajar, unknown and shut, said of a
gate whether it `weighs`, and of a load which parts were soft. Version 2 (program 0.5) called the sheet of the stop
"brake". Nothing of what they decided is decided again.
"""

from __future__ import annotations

from typing import Any, Final

Raw = dict[str, Any]
NEWEST: Final = 3
_WORDS: Final = {"open": "passes", "ajar": "check", "unknown": "not known", "shut": "fails"}


def upgraded(document: Raw) -> Raw:
    """The document in today's shape; one of today's as it is. Raises ValueError for a version of a later program."""
    version = document.get("version", 1)
    if version == NEWEST:
        return document
    if version not in range(1, NEWEST):
        raise ValueError(f"a plan of version {version}: this program reads versions 1 to {NEWEST}")
    found: Raw = document
    if version == 1:
        found = _reworded(found)
        if found.get("load"):
            found["load"] = _load(found["load"])
    return found | {"version": version, "stages": [_of_the_stop(stage) for stage in found.get("stages", [])]}


def _of_the_stop(stage: Raw) -> Raw:
    """The sheet of the stop under its own name, with its figures and gates."""
    if stage["key"] != "brake":
        return stage
    named = {
        part: [item | {"key": "stop." + item["key"].removeprefix("brake.")} for item in stage[part]]
        for part in ("figures", "gates")
    }
    return stage | {"key": "stop"} | named


def _reworded(value: Any) -> Any:
    """Verdicts in today's words, gates with their kind, at any depth."""
    if isinstance(value, list):
        return [_reworded(item) for item in value]
    if not isinstance(value, dict):
        return value
    found = {key: _reworded(item) for key, item in value.items()}
    if found.get("verdict") in _WORDS:
        found["verdict"] = _WORDS[found["verdict"]]
        if "weighs" in found:
            found["kind"] = "engineering" if found.pop("weighs") else "informs"
        if found.pop("estimated", False):
            found["rests_on"] = ["its estimate"]
    return found


def _load(load: Raw) -> Raw:
    """Its facts as points: what was soft then is decided."""
    kept = {key: value for key, value in load.items() if key not in ("torque_soft", "inertia_soft")}
    rotor = load["inertia_kgm2"] - load["load_inertia_kgm2"]
    kept["power"] = _point(1.0)
    kept["breakaway"] = _point(100 * load["breakaway_pu"])
    kept["inertia"] = _point(load["load_inertia_kgm2"])
    kept["rotor"] = _point(rotor)
    return kept


def _point(value: float) -> Raw:
    return {"value": value, "low": value, "high": value, "given": True}
