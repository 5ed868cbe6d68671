"""A job's devices in their areas, and which of them fail if an area gained a material."""

from __future__ import annotations

from collections.abc import Iterable

from vinegate.core.facts import Circuit, Job
from vinegate.core.grade import Verdict
from vinegate.core.place.covers import DUST_GROUPS, GAS_GROUPS, groups_of
from vinegate.core.place.devices import DeviceRow, device_rows
from vinegate.core.place.facts import Area
from vinegate.core.place.materials import Material, Materials
from vinegate.core.place.used import Used
from vinegate.core.records import dataclass, replace


@dataclass(frozen=True, slots=True, kw_only=True)
class Standing:
    """A device of a circuit; `then` is the same device with the material gained, None where nothing was."""

    tag: str
    driven: str
    device: DeviceRow
    then: DeviceRow | None = None

    @property
    def fails(self) -> bool:
        """Whether the gain shuts it."""
        return self.then is not None and self.then.verdict is Verdict.FAILS and self.device.verdict is not Verdict.FAILS


def standings(
    job: Job, circuits: Iterable[tuple[str, Circuit, Used]], gained: Material | None = None, where: str = ""
) -> tuple[Standing, ...]:
    """Every device of every circuit; with a material gained in one area, or in every classified one of its kind."""
    other = None if gained is None else with_material(job, gained, where)
    found = []
    for tag, circuit, used in circuits:
        before = device_rows(job, circuit, used)
        after = device_rows(other, circuit, used) if other is not None else (None,) * len(before)
        driven = circuit.start.driven or ""
        found += [
            Standing(tag=tag, driven=driven, device=now, then=then) for now, then in zip(before, after, strict=True)
        ]
    return tuple(found)


def with_material(job: Job, gained: Material, where: str = "") -> Job:
    """The job with the material in those areas, and their groups as its classification would have to become."""
    keys = [key for key in job.areas if (not where or key == where) and takes(job.area(key), gained)]
    return replace(job, areas={**job.areas, **{key: _gaining(job.area(key), gained) for key in keys}})


def takes(area: Area, gained: Material) -> bool:
    """Whether an area is classified for this kind of material at all."""
    if area.status == "division":
        return {"I": "gas", "II": "dust", "III": "fibre"}.get(area.hazard_class or "") == gained.kind
    if area.status == "zone":
        return (len(area.zone or "") == 2) == (gained.kind != "gas")
    return False


def _gaining(area: Area, gained: Material) -> Area:
    had = area.materials or Materials(text="", items=())
    changed: dict[str, object] = {"materials": had.with_one(gained)}
    if area.status == "division" and gained.kind != "fibre":
        changed["groups"] = ", ".join(sorted({*groups_of(area), gained.nec_group} - {""}))
    ladder = DUST_GROUPS if (area.group or "").startswith("III") else GAS_GROUPS
    if area.status == "zone" and area.group in ladder and gained.iec_group in ladder:
        changed["group"] = max(area.group, gained.iec_group, key=ladder.index)
    return area.model_copy(update=changed)
