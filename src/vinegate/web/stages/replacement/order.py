"""Where the circuit stands in the job's restart, with the old motor and with the new one."""

from __future__ import annotations

from vinegate.core.grade import Verdict
from vinegate.core.plan import Plan
from vinegate.core.replacement.anew import Anew
from vinegate.core.start.restart import Restart, Slot, Source, profile_of, restart_sequence, starter_of
from vinegate.store.jobs import Access
from vinegate.web.restart.gather import gathered


def restart_order(access: Access | None, tag: str, new: Plan) -> tuple[Anew, ...]:
    """Its place, its moment, and when all are up; nothing while it takes no part, or circuits are being planned."""
    if access is None:
        return ()
    here = gathered(access)
    own = next((one for one in here.starters if one.tag == tag), None)
    if own is None or here.planning:
        return ()
    old = restart_sequence(here.starters, dip_limit_pu=here.dip_pu)
    profile, source = profile_of(new), Source.of(new)
    if isinstance(profile, str) or source is None:
        return (
            Anew(
                name="Restart, its place",
                old=_place(old, tag),
                new=f"none: {profile}" if isinstance(profile, str) else "–",
            ),
        )
    taken = starter_of(tag, profile, source, own.wanted_s, own.boards)
    starters = [taken if one.tag == tag else one for one in here.starters]
    after = restart_sequence(starters, dip_limit_pu=here.dip_pu)
    slots = [next(slot for slot in found.slots if slot.tag == tag) for found in (old, after)]
    return (
        Anew(name="Restart, its place", old=_place(old, tag), new=_place(after, tag)),
        Anew(name="Restart, closes at", old=f"{slots[0].at_s:.1f} s", new=f"{slots[1].at_s:.1f} s"),
        Anew(name="Restart, dip then", old=_dip(slots[0]), new=_dip(slots[1])),
        Anew(name="Restart, all up by", old=f"{old.ends_s:.1f} s", new=f"{after.ends_s:.1f} s"),
    )


def _place(found: Restart, tag: str) -> str:
    place = [slot.tag for slot in found.slots].index(tag) + 1
    return f"{place} of {len(found.slots)}"


def _dip(slot: Slot) -> str:
    said = {Verdict.FAILS: ", over the limit", Verdict.CHECK: ", to check against the limit"}
    return f"{slot.dip_pct:.1f} %{said.get(slot.verdict, '')}"
