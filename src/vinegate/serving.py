"""Serve: the private database where none is given, migrations, demo data, then the web server, until told to stop."""

from __future__ import annotations

import fcntl
import os
import secrets
import signal
import socket
import subprocess
import sys
import time
from contextlib import suppress
from dataclasses import dataclass
from pathlib import Path
from typing import IO

from vinegate.store.instance import Instance, die_with_parent

DEMO_PASSWORD = "harrowmere"  # noqa: S105 - made-up people in made-up data
_LOOK_S = 0.5
_PORT_WAIT_S = 10.0


class ServeError(RuntimeError):
    """Serving is not possible; `str()` says why and what to do."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Options:
    port: int
    data: Path
    demo: bool
    database_url: str | None
    host: str = "127.0.0.1"
    workers: int = 2


def serve(options: Options) -> int:
    """Run until SIGINT or SIGTERM. Returns the exit code."""
    stop = _Stop()
    options.data.mkdir(parents=True, exist_ok=True)
    alone = _alone(options.data)
    instance = None if options.database_url else Instance((options.data / "mariadb").resolve())
    if instance:
        instance.ensure()
    url = options.database_url or (instance.url() if instance else "")
    try:
        _prepare(url, demo=options.demo)
        _wait_for_port(options.host, options.port)
        server = _start_web(options, url)
        try:
            _announce(options, server, stop)
            while True:
                code = _watch(server, instance, stop)
                if code is None:
                    return 0
                _bury(server)
                server = _again(options, url, code)
        finally:
            _end(server)
    finally:
        if instance:
            instance.stop()
        alone.close()


def _alone(data: Path) -> IO[str]:
    """This data is served once at a time: a second one says so at once, and touches nothing. Raises ServeError."""
    handle = (data / "serving").open("a+")
    try:
        fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except OSError:
        handle.seek(0)
        who = handle.read().strip()
        handle.close()
        raise ServeError(f"{data} is being served already{f' by process {who}' if who else ''}") from None
    handle.truncate(0)
    handle.write(str(os.getpid()))
    handle.flush()
    return handle


class _Stop:
    """Set by the first SIGINT or SIGTERM."""

    def __init__(self) -> None:
        self.asked = False
        for number in (signal.SIGINT, signal.SIGTERM):
            signal.signal(number, self._ask)

    def _ask(self, *_: object) -> None:
        self.asked = True


def _prepare(url: str, *, demo: bool) -> None:
    from vinegate import demo as demo_data
    from vinegate.store import accounts
    from vinegate.store.database import connect_to, database
    from vinegate.store.migrate import migrate

    connect_to(url)
    migrate()
    with database.connection_context():
        if demo and not accounts.any_user():
            demo_data.load(DEMO_PASSWORD)
    database.close_all()


def _wait_for_port(host: str, port: int) -> None:
    """A server that is just stopping gets a moment; one that stays is named."""
    deadline = time.monotonic() + _PORT_WAIT_S
    while True:
        with socket.socket() as probe:
            probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
            try:
                probe.bind((host, port))
            except OSError:
                if time.monotonic() > deadline:
                    raise ServeError(f"port {port} is in use: choose another with --port") from None
                time.sleep(0.1)
            else:
                return


def _start_web(options: Options, url: str) -> subprocess.Popen[bytes]:
    environment = dict(os.environ)
    environment |= {
        "VINEGATE_DATABASE_URL": url,
        "VINEGATE_SECRET_KEY": os.environ.get("VINEGATE_SECRET_KEY") or _secret(options.data / "secret"),
        "VINEGATE_DEMO": "1" if options.demo else "",
    }
    command = [
        sys.executable,
        "-m",
        "gunicorn",
        "--bind",
        f"{options.host}:{options.port}",
        "--workers",
        str(options.workers),
        "--worker-class",
        "gthread",
        "--threads",
        "8",
        "--graceful-timeout",
        "10",
        "--log-level",
        "warning",
        "--no-control-socket",
        "--preload",
        "vinegate.web:create_app_from_environment()",
    ]
    return subprocess.Popen(
        command,
        env=environment,
        start_new_session=True,
        preexec_fn=die_with_parent,  # noqa: PLW1509 - one ctypes call
    )


def _secret(path: Path) -> str:
    """The key that signs sessions: made once, readable by its owner alone."""
    if not path.exists():
        handle = os.open(path, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600)
        with os.fdopen(handle, "w") as out:
            out.write(secrets.token_hex(32))
    return path.read_text().strip()


def _announce(options: Options, server: subprocess.Popen[bytes], stop: _Stop) -> None:
    while not stop.asked and server.poll() is None:
        with socket.socket() as probe:
            if probe.connect_ex((options.host, options.port)) == 0:
                print(f"Vine Gate is at http://{options.host}:{options.port}/", flush=True)
                return
        time.sleep(0.05)


_falls: list[float] = []
_MOST_FALLS, _WITHIN_S = 5, 60.0


def _bury(server: subprocess.Popen[bytes]) -> None:
    """End the workers that a killed web server leaves behind: they hold the port, and with it whoever waits for it.

    While they did, for ten seconds and more, a database that fell too was not looked after.
    """
    with suppress(ProcessLookupError):
        os.killpg(server.pid, signal.SIGKILL)  # the session was made for it: nobody else is in the group


def _again(options: Options, url: str, code: int) -> subprocess.Popen[bytes]:
    """The web server once more after it was killed; not for ever where it cannot stand. Raises ServeError."""
    now = time.monotonic()
    _falls[:] = [at for at in _falls if now - at < _WITHIN_S] + [now]
    if len(_falls) > _MOST_FALLS:
        raise ServeError(f"the web server has ended {_MOST_FALLS} times within a minute, last with {code}")
    print("vinegate: the web server has ended and is started again", file=sys.stderr)
    _wait_for_port(options.host, options.port)
    return _start_web(options, url)


def _watch(server: subprocess.Popen[bytes], instance: Instance | None, stop: _Stop) -> int | None:
    """Wait; bring a killed database back. None when asked to end, the web server's code when that has ended."""
    while not stop.asked:
        code = server.poll()
        if code is not None:
            return code
        if instance and instance.running_pid() is None:
            instance.ensure()
        time.sleep(_LOOK_S)
    return None


def _end(server: subprocess.Popen[bytes]) -> None:
    if server.poll() is None:
        server.terminate()
        try:
            server.wait(timeout=15)
        except subprocess.TimeoutExpired:
            server.kill()
            server.wait()
