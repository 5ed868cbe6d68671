"""The private instance: adopted when it runs, brought back when it was killed, and no acknowledged save lost."""

import os
import signal
import threading

import pytest
from peewee import InterfaceError, OperationalError

from tests.server import fresh_database, job_of, person, private_instance, pump
from vinegate.store import drafts, jobs
from vinegate.store.database import database
from vinegate.store.drafts import Change, Writer


def test_ensure_adopts_a_running_server(instance):
    pid = instance.running_pid()
    assert pid is not None
    assert instance.ensure("first") == pid


def test_a_recycled_pid_is_not_taken_for_the_server(instance, tmp_path):
    from vinegate.store.instance import Instance

    other = Instance(tmp_path)
    other.pid_file.write_text(str(os.getpid()))
    assert other.running_pid() is None
    other.pid_file.write_text("not a number")
    assert other.running_pid() is None


def test_killed_in_the_middle_of_saves_nothing_acknowledged_is_lost():
    with private_instance() as own, fresh_database(own, "killed"):
        with database.connection_context():
            access = job_of(person("ines"))
            tags = [f"P-{index}" for index in range(4)]
            circuits = {tag: pump(access, tag) for tag in tags}
        acknowledged, busy = _write_until_killed(own, access, circuits)
        assert all(busy.values()), "every writer was in the middle of its saves"
        own.ensure("killed")
        database.close_all()
        with database.connection_context():
            for tag in tags:
                plate = jobs.loads(jobs.circuit_by_tag(access, tag).facts)["plate"]
                assert int(plate["speed"]) >= acknowledged[tag]


def _write_until_killed(own, access, circuits):
    """Four threads save rising numbers; the server is killed once each has been acknowledged a few times."""
    acknowledged = dict.fromkeys(circuits, 0)
    enough = threading.Semaphore(0)

    def write(tag):
        was = "1185 rpm"
        try:
            with database.connection_context():
                for number in range(1, 100_000):
                    change = Change(was=was, now=str(number))
                    drafts.save(
                        access, circuits[tag], {"plate.speed": change}, Writer(page=tag, sequence=number, seen_save=0)
                    )
                    was = str(number)
                    acknowledged[tag] = number
                    if number == 5:
                        enough.release()
        except (OperationalError, InterfaceError):
            pass

    threads = [threading.Thread(target=write, args=(tag,)) for tag in circuits]
    for thread in threads:
        thread.start()
    for _ in circuits:
        enough.acquire()
    os.kill(own.running_pid(), signal.SIGKILL)
    for thread in threads:
        thread.join()
    return acknowledged, {tag: number >= 5 for tag, number in acknowledged.items()}


@pytest.mark.usefixtures("instance")
def test_the_program_says_what_is_missing_when_the_server_is_not_installed(monkeypatch, tmp_path):
    from vinegate.store import instance as module

    monkeypatch.setattr(module.shutil, "which", lambda *_, **__: None)
    with pytest.raises(module.InstanceError, match="mariadb-server-core"):
        module.Instance(tmp_path / "x").ensure()
