"""What load and endurance are tried on: applications of their own on loopback, alone or over a cluster's nodes."""

from __future__ import annotations

import os
import shutil
import signal
import socket
import subprocess
import sys
import time
import urllib.request
from collections.abc import Iterator
from contextlib import ExitStack, contextmanager, suppress
from dataclasses import dataclass
from pathlib import Path
from typing import Final

from tools.nodes import Cluster
from vinegate.store.instance import free_port

ROOT: Final = Path(__file__).parents[1]
_READY_S: Final = 90.0
_SECRET: Final = "of a stand on loopback, thrown away with it"


@dataclass(slots=True)
class Application:
    """One `vinegate serve`: its port, where its data is, and its processes."""

    port: int
    data: Path
    process: subprocess.Popen[str]

    @property
    def master(self) -> int:
        """The web server's first process."""
        return next(one for one in _children(self.process.pid) if "gunicorn" in _line(one))

    @property
    def workers(self) -> list[int]:
        return _children(self.master)

    @property
    def database(self) -> int:
        return int((self.data / "mariadb/db.pid").read_text())

    def answers(self) -> bool:
        try:
            with urllib.request.urlopen(f"http://127.0.0.1:{self.port}/health/ready", timeout=5) as answer:
                return bool(answer.status == 200)
        except OSError:
            return False

    def until_ready(self) -> None:
        until(self.answers, "the application is not ready")


@contextmanager
def application(data: Path, *, url: str = "", demo: bool = True) -> Iterator[Application]:
    """Serving until the end of the block."""
    port = free_port()
    command = [str(ROOT / ".venv/bin/vinegate"), "serve", "--port", str(port), "--data", str(data)]
    environment = {**os.environ, "VINEGATE_SECRET_KEY": _SECRET, "PATH": f"{ROOT}/.venv/bin:{os.environ['PATH']}"}
    if url:
        environment["VINEGATE_DATABASE_URL"] = url
    command += [] if demo else ["--no-demo"]
    data.mkdir(exist_ok=True)
    said = (data / "said.log").open("w")  # what it says of lost connections is looked at where something is wrong
    with said, subprocess.Popen(command, env=environment, stdout=said, stderr=said, text=True) as process:
        found = Application(port, data, process)
        try:
            found.until_ready()
            yield found
        finally:
            process.send_signal(signal.SIGTERM)


@contextmanager
def balanced(home: Path, ports: list[int]) -> Iterator[int]:
    """A balancer before these: its port. One that does not answer is left out within two seconds."""
    tool = shutil.which("haproxy", path=f"{os.environ['PATH']}:/usr/sbin")
    if tool is None:
        raise SystemExit("haproxy is not installed: tools/cluster installs it from Debian")
    port, file = free_port(), home / "balancer.cfg"
    servers = "\n".join(f"  server a{at} 127.0.0.1:{one} check inter 500 fall 2 rise 1" for at, one in enumerate(ports))
    file.write_text(
        f"defaults\n  mode http\n  timeout connect 2s\n  timeout client 60s\n  timeout server 60s\n"
        f"  option httpchk GET /health/ready\n  option redispatch\n  retries 2\n"
        f"listen front\n  bind 127.0.0.1:{port}\n  balance roundrobin\n{servers}\n"
    )
    with subprocess.Popen([tool, "-q", "-f", str(file)]) as process:
        try:
            until(lambda: _open(port), "the balancer does not answer")
            yield port
        finally:
            process.terminate()


@dataclass(slots=True)
class Stand:
    """A cluster, applications over it, each asking another node first, and the balancer before them."""

    cluster: Cluster
    applications: list[Application]
    port: int


@contextmanager
def clustered(home: Path, count: int = 2) -> Iterator[Stand]:
    """Three nodes and so many applications. The first brings the tables and the made-up works."""
    cluster = Cluster(home / "nodes")
    cluster.home.mkdir()
    cluster.home.chmod(0o755)
    with ExitStack() as kept:
        kept.callback(cluster.stop)
        cluster.start()
        found = [
            kept.enter_context(application(home / f"app{at}", url=cluster.url(at), demo=True)) for at in range(count)
        ]
        port = kept.enter_context(balanced(home, [one.port for one in found]))
        yield Stand(cluster, found, port)


def until(done: object, complaint: str, within_s: float = _READY_S) -> None:
    """Look again and again. Raises SystemExit."""
    assert callable(done)
    deadline = time.monotonic() + within_s
    while not done():
        if time.monotonic() > deadline:
            raise SystemExit(complaint)
        time.sleep(0.05)


def _open(port: int) -> bool:
    with socket.socket() as probe:
        return probe.connect_ex(("127.0.0.1", port)) == 0


def _line(pid: int) -> str:
    with suppress(OSError):
        return Path(f"/proc/{pid}/cmdline").read_text().replace("\0", " ")
    return ""


def _children(pid: int) -> list[int]:
    found = []
    for task in Path(f"/proc/{pid}/task").glob("*/children"):
        with suppress(OSError):
            found += [int(one) for one in task.read_text().split()]
    return found


def main() -> None:
    """Three nodes, two applications and the balancer, until Ctrl-C."""
    import tempfile

    with tempfile.TemporaryDirectory(prefix="vinegate-cluster-") as folder:
        home = Path(folder)
        home.chmod(0o755)
        with clustered(home) as stand:
            print(f"Vine Gate is at http://127.0.0.1:{stand.port}/, over {len(stand.applications)} applications")
            for node in stand.cluster.nodes:
                print(f"  {node.name}: port {node.ports[0]}, process {node.process.pid if node.process else 0}")
            sys.stdout.flush()
            with suppress(KeyboardInterrupt):
                signal.pause()


if __name__ == "__main__":
    main()
