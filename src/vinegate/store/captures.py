"""Captures: the files whole, and how their channels are read. Sent twice they are kept once."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from vinegate.store.accounts import now
from vinegate.store.database import hold, transaction
from vinegate.store.jobs import Access, dumps, note_trail
from vinegate.store.models import Capture, Circuit, Revision, User


@transaction
def keep(
    access: Access, circuit: Circuit, *, uid: str, name: str, body: bytes, size: int, mapping: Mapping[str, Any],
    simulated: bool, program_version: str,
) -> Capture:  # fmt: skip
    """The same uid again is the same capture."""
    hold(Circuit, circuit.id)
    known = Capture.select(Capture.id).where((Capture.circuit == circuit) & (Capture.uid == uid)).first()
    if known is not None:
        return Capture.get_by_id(known.id)
    newest = (
        Revision.select(Revision.number).where(Revision.circuit == circuit).order_by(Revision.number.desc()).first()
    )
    found = Capture.create(
        circuit=circuit, uid=uid, name=name[:200], body=body, size=size, mapping=dumps(mapping), simulated=simulated,
        revision=newest.number if newest else 0, program_version=program_version, user=access.user, received_at=now(),
    )  # fmt: skip
    note_trail(access.user, "capture", name, job=access.job, circuit=circuit)
    return found


@transaction
def remap(access: Access, circuit: Circuit, number: int, mapping: Mapping[str, Any]) -> None:
    """Read its channels otherwise."""
    Capture.update(mapping=dumps(mapping)).where((Capture.id == number) & (Capture.circuit == circuit)).execute()
    note_trail(access.user, "capture read anew", str(number), job=access.job, circuit=circuit)


def listed(circuit: Circuit) -> list[Capture]:
    """Newest first, without their files."""
    columns = [field for name, field in Capture._meta.fields.items() if name not in ("body", "mapping")]
    rows = Capture.select(*columns, User).join(User).where(Capture.circuit == circuit)
    return list(rows.order_by(Capture.id.desc()))


def capture(circuit: Circuit, number: int) -> Capture | None:
    """With its file; None where this circuit has none of that number."""
    return Capture.select(Capture, User).join(User).where((Capture.circuit == circuit) & (Capture.id == number)).first()
