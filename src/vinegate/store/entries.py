"""What was measured, kept as it was sent: once each, however often it is sent, and never changed."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime

from peewee import IntegrityError

from vinegate.core.record.facts import FORMS
from vinegate.store import drafts
from vinegate.store.accounts import now
from vinegate.store.database import hold, transaction
from vinegate.store.drafts import Change, Writer
from vinegate.store.jobs import Access, dumps, loads, note_trail
from vinegate.store.models import Circuit, Entry, Photo, Revision, User


@dataclass(frozen=True, slots=True, kw_only=True)
class Sent:
    """An entry as its page sends it: texts as typed by field; `taken_at` is the page's clock, UTC."""

    uid: str
    form: str
    readings: Mapping[str, str]
    taken_at: datetime
    simulated: bool = False


@transaction
def keep(access: Access, circuit: Circuit, sent: Sent) -> Entry:
    """Keep an entry, and let the circuit's facts follow the newest of its form. The same uid again is the same entry.

    Raises KeyError for a form or field there is not.
    """
    unknown = sent.readings.keys() - (FORMS[sent.form].fields().keys() - {"taken", "simulated"})
    if unknown:
        raise KeyError(", ".join(sorted(unknown)))
    hold(Circuit, circuit.id)
    known = Entry.get_or_none((Entry.circuit == circuit) & (Entry.uid == sent.uid))
    if known is not None:
        return known
    newest = newest_of(circuit, sent.form)
    entry = Entry.create(
        circuit=circuit,
        uid=sent.uid,
        form=sent.form,
        readings=dumps(dict(sent.readings)),
        simulated=sent.simulated,
        revision=_revision(circuit),
        taken_at=sent.taken_at,
        user=access.user,
        received_at=now(),
    )
    note_trail(access.user, "recorded", sent.form, job=access.job, circuit=circuit)
    if newest is None or newest.taken_at <= sent.taken_at:
        _follow(access, circuit, sent)
    return entry


def _follow(access: Access, circuit: Circuit, sent: Sent) -> None:
    """The circuit's facts of that form become this entry's: what it leaves out is not carried over."""
    row = Circuit.get_by_id(circuit.id)
    was = loads(row.facts).get(sent.form) or {}
    now_ = {name: text for name, text in sent.readings.items() if text}
    now_ |= {"taken": f"{sent.taken_at:%Y-%m-%d %H:%M} UTC, {access.user.name}"}
    if sent.simulated:
        now_["simulated"] = "yes"
    names = {*was, *now_}
    changes = {
        f"{sent.form}.{name}": Change(was=str(was.get(name) or ""), now=now_.get(name, "")) for name in sorted(names)
    }
    drafts.save(
        access, row, changes, Writer(page=f"e-{sent.uid}"[:40], sequence=1, seen_save=drafts.newest_save(access))
    )


def _revision(circuit: Circuit) -> int:
    newest = (
        Revision.select(Revision.number).where(Revision.circuit == circuit).order_by(Revision.number.desc()).first()
    )
    return newest.number if newest else 0


def newest_of(circuit: Circuit, form: str) -> Entry | None:
    """The entry of that form that was taken last."""
    rows = Entry.select().where((Entry.circuit == circuit) & (Entry.form == form))
    return rows.order_by(Entry.taken_at.desc(), Entry.id.desc()).first()


def entries(circuit: Circuit) -> list[Entry]:
    """All of a circuit's, the newest first, with who took them."""
    rows = Entry.select(Entry, User).join(User).where(Entry.circuit == circuit)
    return list(rows.order_by(Entry.taken_at.desc(), Entry.id.desc()))


@transaction
def add_photo(entry: Entry, uid: str, jpeg: bytes) -> None:
    """A picture beside an entry; the same uid again is the same picture."""
    try:
        Photo.create(entry=entry, uid=uid, jpeg=jpeg)
    except IntegrityError:
        return


def photo_ids(circuit: Circuit) -> dict[int, list[int]]:
    """Ids of photos by entry."""
    found: dict[int, list[int]] = {}
    for row in Photo.select(Photo.id, Photo.entry).join(Entry).where(Entry.circuit == circuit).order_by(Photo.id):
        found.setdefault(row.entry.id, []).append(row.id)
    return found


def photo(circuit: Circuit, number: int) -> bytes | None:
    """A photo of this circuit; None where there is none of that number."""
    row = Photo.select(Photo.jpeg).join(Entry).where((Entry.circuit == circuit) & (Photo.id == number)).first()
    return bytes(row.jpeg) if row else None
