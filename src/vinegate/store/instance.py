"""The private MariaDB instance: made, started, adopted or stopped. Never the system's own."""

from __future__ import annotations

import contextlib
import ctypes
import fcntl
import hashlib
import os
import pwd
import secrets
import shutil
import signal
import socket
import subprocess
import time
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from urllib.parse import quote

import pymysql

_READY_WITHIN_S = 40.0
_STOP_WITHIN_S = 30.0
_LONGEST_SOCKET_PATH = 100
_PR_SET_PDEATHSIG = 1
_PORTS_FROM, _PORTS, _PORTS_TRIED = 15_000, 17_000, 200


# Servers that this process started, so that their end is noticed.
_children: dict[int, subprocess.Popen[bytes]] = {}


class InstanceError(RuntimeError):
    """The database could not be made or started; `str()` says what to look at."""


@dataclass(frozen=True, slots=True)
class Instance:
    """Where a private instance lives. All paths absolute."""

    home: Path

    @property
    def datadir(self) -> Path:
        return self.home / "db"

    @property
    def log(self) -> Path:
        return self.home / "db.err"

    @property
    def pid_file(self) -> Path:
        return self.home / "db.pid"

    @property
    def socket(self) -> Path:
        inside = self.home / "db.sock"
        if len(str(inside)) < _LONGEST_SOCKET_PATH:
            return inside
        mark = hashlib.sha256(str(self.home).encode()).hexdigest()[:12]
        return Path(f"/tmp/vinegate-{os.getuid()}-{mark}.sock")  # noqa: S108 - a socket, guarded by its owner check

    def url(self, name: str = "vinegate") -> str:
        """The URL of database `name` in this instance."""
        return f"mysql://{_me()}@localhost/{name}?socket={quote(str(self.socket))}"

    def ensure(self, name: str = "vinegate") -> int:
        """Make and start the instance where needed, and the database in it. Returns the server's pid."""
        with self._locked():
            self._make()
            pid = self.running_pid()
            if pid is None:
                pid = self._start()
            self._until_ready(pid)
            self._make_database(name)
        return pid

    def stop(self) -> None:
        """Stop the server cleanly and wait for it."""
        pid = self.running_pid()
        if pid is None:
            return
        with contextlib.suppress(ProcessLookupError):
            os.kill(pid, signal.SIGTERM)
        _until(lambda: not self._is_ours(pid), _STOP_WITHIN_S, "the database did not stop")

    def running_pid(self) -> int | None:
        """The pid of a live server with this data directory: a zombie or a recycled pid does not count."""
        try:
            pid = int(self.pid_file.read_text())
        except (OSError, ValueError):
            return None
        return pid if self._is_ours(pid) else None

    def _is_ours(self, pid: int) -> bool:
        try:
            line = Path(f"/proc/{pid}/cmdline").read_bytes()
        except OSError:
            line = b""
        if not line and pid in _children:  # ended, or so close to it that its memory is gone
            _children.pop(pid).wait()
        return f"--datadir={self.datadir}".encode() in line.split(b"\0")

    @contextlib.contextmanager
    def _locked(self) -> Iterator[None]:
        self.home.mkdir(parents=True, exist_ok=True)
        with (self.home / "db.lock").open("w") as handle:
            fcntl.flock(handle, fcntl.LOCK_EX)
            yield

    def _scratch(self) -> Path:
        """A directory for temporary tables: a server clears those of every other that shares it as it starts."""
        scratch = self.home / "tmp"
        scratch.mkdir(mode=0o700, exist_ok=True)
        if os.getuid() == 0:
            shutil.chown(scratch, server_user(self.home))
        return scratch

    def _make(self) -> None:
        if self.datadir.exists():
            return
        fresh = self.datadir.with_suffix(".new")
        shutil.rmtree(fresh, ignore_errors=True)
        fresh.mkdir(parents=True)
        command = [
            tool("mariadb-install-db"),
            "--no-defaults",
            f"--datadir={fresh}",
            f"--user={server_user(self.home)}",
            "--auth-root-authentication-method=socket",
            f"--auth-root-socket-user={_me()}",
            "--skip-test-db",
            "--skip-name-resolve",
        ]
        own = {**os.environ, "TMPDIR": str(self._scratch())}
        done = subprocess.run(command, capture_output=True, text=True, check=False, env=own)
        if done.returncode != 0:
            raise InstanceError(f"the database could not be made:\n{done.stdout[-800:]}{done.stderr[-800:]}")
        fresh.rename(self.datadir)

    def _start(self) -> int:
        for stale in (self.pid_file, self.socket):
            stale.unlink(missing_ok=True)
        user = server_user(self.home)
        if os.getuid() == 0:
            account = pwd.getpwnam(user)
            os.chown(self.home, account.pw_uid, account.pw_gid)
            _belongs_to(self.datadir, account)
            _belongs_to(self._scratch(), account)
        command = [
            tool("mariadbd"),
            "--no-defaults",
            f"--datadir={self.datadir}",
            f"--socket={self.socket}",
            f"--pid-file={self.pid_file}",
            f"--log-error={self.log}",
            f"--user={user}",
            "--bind-address=127.0.0.1",
            f"--port={free_port()}",
            "--skip-name-resolve",
            f"--tmpdir={self._scratch()}",
            "--skip-log-bin",
            "--character-set-server=utf8mb4",
            "--collation-server=utf8mb4_unicode_ci",
            "--max-allowed-packet=64M",
            "--performance-schema=OFF",
            "--innodb-flush-log-at-trx-commit=1",
            "--innodb-buffer-pool-size=256M",
        ]
        process = subprocess.Popen(  # its own session, so that Ctrl-C reaches only whoever serves
            command,
            stdin=subprocess.DEVNULL,
            stdout=subprocess.DEVNULL,
            stderr=subprocess.DEVNULL,
            start_new_session=True,
            preexec_fn=die_with_parent,  # noqa: PLW1509 - one ctypes call, no threads yet
        )
        _children[process.pid] = process
        return process.pid

    def _until_ready(self, pid: int) -> None:
        def ready() -> bool:
            if not self._is_ours(pid):
                raise InstanceError(f"the database did not start; its last words are in {self.log}:\n{self._tail()}")
            if not self.socket.exists():
                return False
            try:
                self._query("SELECT 1")
            except pymysql.Error:
                return False
            return True

        _until(ready, _READY_WITHIN_S, f"the database is not ready; see {self.log}")

    def _make_database(self, name: str) -> None:
        self._query(f"CREATE DATABASE IF NOT EXISTS `{name}` CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci")

    def _query(self, statement: str) -> None:
        connection = pymysql.connect(unix_socket=str(self.socket), user=_me(), ssl_disabled=True, connect_timeout=2)
        try:
            with connection.cursor() as cursor:
                cursor.execute(statement)
        finally:
            connection.close()

    def _tail(self) -> str:
        try:
            return "\n".join(self.log.read_text(errors="replace").splitlines()[-8:])
        except OSError:
            return "(no log)"


def die_with_parent() -> None:
    """In a child before exec: ask the kernel for SIGTERM when the parent dies, even by SIGKILL."""
    ctypes.CDLL(None).prctl(_PR_SET_PDEATHSIG, signal.SIGTERM)


def _me() -> str:
    return pwd.getpwuid(os.getuid()).pw_name


OWN_USER = "vinegate-db"
"""Made by the set-up where that runs as root: the database's files are its alone."""


def server_user(home: Path) -> str:
    """Who the server runs as: oneself; for root a user of its own, unless there is none or it cannot get there."""
    if os.getuid() != 0:
        return _me()
    reachable = all(parent.stat().st_mode & 0o001 for parent in home.resolve().parents)
    try:
        pwd.getpwnam(OWN_USER)
    except KeyError:
        return "root"
    return OWN_USER if reachable else "root"


def _belongs_to(path: Path, account: pwd.struct_passwd) -> None:
    """All of it, where the top is someone else's: data of before this user was made, or brought back from elsewhere."""
    if path.stat().st_uid == account.pw_uid:
        return
    for folder, names, files in os.walk(path):
        for name in ("", *names, *files):
            os.chown(Path(folder) / name, account.pw_uid, account.pw_gid, follow_symlinks=False)


def tool(name: str) -> str:
    found = shutil.which(name, path=f"{os.environ.get('PATH', '')}:/usr/sbin:/usr/bin")
    if found is None:
        raise InstanceError(f"{name} is not installed: it is in Debian's mariadb-server-core")
    return found


def free_port() -> int:
    """A port that nobody has, below those that the system gives to connections: none of these takes it meanwhile.

    Raises InstanceError.
    """
    for _ in range(_PORTS_TRIED):
        port = _PORTS_FROM + secrets.randbelow(_PORTS)
        with socket.socket() as probe, contextlib.suppress(OSError):
            probe.bind(("127.0.0.1", port))
            return port
    raise InstanceError("no port is free on loopback")


def _until(done: object, within_s: float, complaint: str) -> None:
    deadline = time.monotonic() + within_s
    assert callable(done)
    while not done():
        if time.monotonic() > deadline:
            raise InstanceError(complaint)
        time.sleep(0.02)
