"""A copy brought back shows equal revisions, entries and trail; one that was changed is refused; the chain sees what triggers do not."""

import gzip
import io
import json
from datetime import datetime

import pytest

from tests.server import fresh_database, job_of, person, pump
from vinegate.store import backup, chain, entries, jobs, own_data, revisions
from vinegate.store.accounts import authenticate
from vinegate.store.database import connect_to, database
from vinegate.store.entries import Sent
from vinegate.store.migrate import migrate
from vinegate.store.models import Capture, Entry, Revision, Role, Save, Trail, User
from vinegate.store.sealed import MAGIC, CannotOpen, Opening, Sealing

pytestmark = pytest.mark.usefixtures("connected")


def filled():
    """A job with an issued and reviewed circuit, an entry, and bytes of every value."""
    access = job_of(person("ines"), ruth=Role.REVIEWER)
    circuit = pump(access)
    job = jobs.open_job(person("ines"), access.job.id)
    row = revisions.issue(
        job,
        circuit,
        number=1,
        seen=(1, 1),
        facts={"job": {}, "circuit": {"ä": "½"}},
        plan={"x": 1},
        program_version="0",
        note="first",
    )
    revisions.review(jobs.open_job(person("ruth"), job.job.id), circuit, row, accepted=True, note="good")
    entries.keep(
        job,
        circuit,
        Sent(uid="u" * 10, form="record_start", readings={"time": "5 s"}, taken_at=datetime(2026, 11, 26, 8, 0)),
    )
    Capture.create(
        circuit=circuit,
        uid="c",
        name="x",
        body=bytes(range(256)),
        size=256,
        mapping="{}",
        program_version="0",
        user=person("ines"),
        received_at=datetime(2026, 11, 26),
    )
    chain.seal(job.job.id)
    return job


def everything():
    tables = (User, Revision, Entry, Trail, Save, Capture)
    return {
        table.__name__: [
            sorted(
                (name, bytes(value) if isinstance(value, memoryview) else value) for name, value in row.__data__.items()
            )
            for row in table.select().order_by(table.id)
        ]
        for table in tables
    }


def test_it_is_brought_back_to_the_byte(tmp_path, instance, connected):
    job = filled()
    file = tmp_path / "all.backup"
    head = backup.write(file)
    assert head["rows"]["revision"] >= 1
    assert file.stat().st_mode & 0o077 == 0
    before, end, old = everything(), chain.last_link(job.job.id), database.obj
    with fresh_database(instance, "brought_back") as url:
        connect_to(url)
        migrate()
        with database.connection_context():
            backup.restore(file)
            assert everything() == before
            assert chain.verify(job.job.id) == []
            assert chain.last_link(job.job.id) == end
            assert authenticate("ines", "no") is None
            with pytest.raises(backup.BadBackup, match="not empty"):
                backup.restore(file)
        database.close_all()
    database.initialize(old)


def test_a_copy_that_was_changed_or_cut_is_refused(tmp_path):
    filled()
    file = tmp_path / "all.backup"
    backup.write(file)
    text = gzip.decompress(file.read_bytes())
    cases = {
        "cut": text[: len(text) // 2].rpartition(b"\n")[0] + b"\n",
        "changed": text.replace(b"first", b"fjrst", 1),
        "a line less": b"\n".join([*text.split(b"\n")[:3], *text.split(b"\n")[4:]]),
        "none": b'{"format":"other"}\n',
        "rubbish": b"not json\n",
    }
    for name, body in cases.items():
        bad = tmp_path / f"{name}.backup"
        bad.write_bytes(gzip.compress(body))
        with pytest.raises(backup.BadBackup):
            backup.check(bad)
    torn = tmp_path / "torn.backup"
    torn.write_bytes(file.read_bytes()[:-20])
    with pytest.raises(backup.BadBackup, match="not whole"):
        backup.check(torn)


def test_a_copy_of_a_newer_program_is_refused(tmp_path, monkeypatch):
    file = tmp_path / "all.backup"
    monkeypatch.setattr(backup, "_migrations", lambda: ["0001_first", "0099_later"])
    backup.write(file)
    monkeypatch.undo()
    with pytest.raises(backup.BadBackup, match="newer program"):
        backup.restore(file)


def test_old_copies_go_and_the_newest_stay(tmp_path):
    for number in range(5):
        (tmp_path / f"vinegate-2026010{number}-000000.backup").write_bytes(b"")
    (tmp_path / "other.txt").write_bytes(b"")
    backup.rotate(tmp_path, 2)
    assert sorted(one.name for one in tmp_path.iterdir()) == [
        "other.txt",
        "vinegate-20260103-000000.backup",
        "vinegate-20260104-000000.backup",
    ]


@pytest.mark.parametrize(
    ("statement", "kind", "says"),
    [
        ("UPDATE revision SET note = 'better' WHERE id = %s", "revision", "changed"),
        ("UPDATE review SET accepted = 0 WHERE revision_id = %s", "review", "changed"),
        ("DELETE FROM review WHERE revision_id = %s", "review", "gone"),
    ],
)
def test_a_change_behind_the_applications_back_is_seen(statement, kind, says):
    """Whoever may drop the triggers can change rows; the chain shows it."""
    job = filled()
    assert chain.verify(job.job.id) == []
    row = Revision.select().order_by(Revision.id.desc()).first()
    table = kind
    for event in ("update", "delete"):
        database.execute_sql(f"DROP TRIGGER {table}_keeps_{event}")
    database.execute_sql(statement, (row.id,))
    broken = chain.verify(job.job.id)
    assert [(one.kind, says in one.text) for one in broken] == [(kind, True)]
    for event in ("UPDATE", "DELETE"):
        database.execute_sql(
            f"CREATE TRIGGER {table}_keeps_{event.lower()} BEFORE {event} ON {table} FOR EACH ROW SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'never changes'"
        )


def test_links_themselves_do_not_change():
    from vinegate.store.models import Link

    filled()
    with pytest.raises(Exception, match="never changes"):
        Link.update(digest="0" * 64).execute()


class TestEncrypted:
    WORD = "a word of its own, long"

    def test_only_its_word_opens_it_and_it_comes_back_the_same(self, tmp_path, database_url):
        filled()
        file, before = tmp_path / "copy.backup", everything()
        backup.write(file, self.WORD)
        raw = file.read_bytes()
        assert b"Ines" not in raw
        assert not raw.startswith(b"\x1f\x8b")
        with pytest.raises(backup.BadBackup, match="encrypted"):
            backup.check(file)
        with pytest.raises(backup.BadBackup, match="another word"):
            backup.check(file, "another word, as long")
        assert backup.check(file, self.WORD)["format"] == backup.FORMAT
        plain = tmp_path / "plain.backup"
        backup.write(plain)
        assert backup.check(plain, self.WORD)["rows"] == backup.check(file, self.WORD)["rows"]  # a word does no harm
        assert before == everything()

    @pytest.mark.parametrize("place", [0.05, 0.5, 0.99])
    def test_a_changed_byte_or_a_missing_end_is_seen(self, tmp_path, place):
        filled()
        file = tmp_path / "copy.backup"
        backup.write(file, self.WORD)
        raw = bytearray(file.read_bytes())
        raw[50 + int(place * (len(raw) - 51))] ^= 1
        file.write_bytes(raw)
        with pytest.raises(backup.BadBackup):
            backup.check(file, self.WORD)
        raw[50 + int(place * (len(raw) - 51))] ^= 1
        file.write_bytes(raw[: int(len(raw) * place)])
        with pytest.raises(backup.BadBackup):
            backup.check(file, self.WORD)


@pytest.mark.parametrize("size", [0, 1, 65535, 65536, 65537, 200_000])
def test_sealed_bytes_come_back_whatever_their_number(size):
    """On both sides of a chunk; a chunk left out, doubled or exchanged with its neighbour is seen."""
    plain, out = bytes(n * 31 % 251 for n in range(size)), io.BytesIO()
    with Sealing(out, "a word of its own") as sealing:
        sealing.write(plain[: size // 3])
        sealing.write(plain[size // 3 :])
    body = out.getvalue()[len(MAGIC) :]

    def opened(raw):
        return io.BufferedReader(Opening(io.BytesIO(raw), "a word of its own")).read()

    assert opened(body) == plain
    head, chunks = body[:23], [body[at : at + 65552] for at in range(23, len(body), 65552)]
    wrong = [chunks[:-1], [*chunks, chunks[-1]], chunks[1:] + chunks[:1] if len(chunks) > 1 else []]
    for mixed in wrong:
        if mixed != chunks:
            with pytest.raises(CannotOpen):
                opened(head + b"".join(mixed))


def test_all_that_is_kept_of_a_person_and_no_secret():
    filled()
    found = own_data.of_person("ines")
    assert {"user", "membership", "save", "revision", "entry", "trail", "capture"} <= found.keys()
    assert found["revision"][0]["note"] == "first"
    assert "review" not in found  # Ruth's
    assert own_data.of_person("ruth")["review"][0]["note"] == "good"
    text = json.dumps(found)
    with database.connection_context():
        assert User.get(User.login == "ines").password_hash not in text
    assert own_data.of_person("nobody") is None
