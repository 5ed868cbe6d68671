"""Three MariaDB nodes of one Galera cluster on loopback: made, started, killed, brought back. For tests and tools.

Needs Debian's galera-4 and rsync, and the state-transfer scripts of mariadb-server in `.cluster/sst` (tools/setup.sh).
"""

from __future__ import annotations

import os
import shutil
import signal
import subprocess
import time
import uuid
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any, Final

import pymysql

from vinegate.store.instance import die_with_parent, free_port, server_user, tool

ROOT: Final = Path(__file__).parents[1]
SCRIPTS: Final = ROOT / ".cluster/sst"
PROVIDER: Final = Path("/usr/lib/galera/libgalera_smm.so")
ACCOUNT: Final = "vinegate"
PASSWORD: Final = "only on loopback"
_QUICK: Final = (
    "evs.keepalive_period=PT0.3S;evs.inactive_check_period=PT0.2S;evs.suspect_timeout=PT2S;"
    # One that is gone is known by its silence; those that are left get the time of a loaded machine to agree on it: two
    # that gave each other up would wait for the third for ever.
    "evs.inactive_timeout=PT20S;evs.install_timeout=PT15S"
)
_READY_S: Final = 60.0


def there() -> bool:
    """Whether what a cluster needs is installed."""
    return PROVIDER.exists() and (SCRIPTS / "wsrep_sst_common").exists() and shutil.which("rsync") is not None


@dataclass(slots=True)
class Node:
    """One server: where it lives and its four ports (clients, group, incremental and full transfer)."""

    home: Path
    name: str
    ports: tuple[int, int, int, int]
    process: subprocess.Popen[bytes] | None = None

    @property
    def data(self) -> Path:
        return self.home / self.name

    @property
    def group(self) -> str:
        return f"127.0.0.1:{self.ports[1]}"

    def command(self, *more: str) -> list[str]:
        return [
            tool("mariadbd"), "--no-defaults", f"--datadir={self.data}", f"--user={server_user(self.home)}",
            f"--socket={self.home / self.name}.sock", f"--pid-file={self.home / self.name}.pid",
            f"--log-error={self.home / self.name}.err", "--bind-address=127.0.0.1", f"--port={self.ports[0]}",
            "--skip-name-resolve", "--character-set-server=utf8mb4", "--collation-server=utf8mb4_unicode_ci",
            "--max-allowed-packet=64M", "--performance-schema=OFF", "--innodb-flush-log-at-trx-commit=1",
            "--innodb-buffer-pool-size=64M", "--log-bin-trust-function-creators=1", *more,
        ]  # fmt: skip

    def clustered(self, others: list[Node]) -> list[str]:
        where = ",".join(one.group for one in others)
        options = (
            f"gmcast.listen_addr=tcp://{self.group};ist.recv_addr=127.0.0.1:{self.ports[2]};gcache.size=32M;{_QUICK}"
        )
        return self.command(
            "--binlog-format=ROW", "--innodb-autoinc-lock-mode=2", "--wsrep-on=ON", f"--wsrep-provider={PROVIDER}",
            "--wsrep-cluster-name=vinegate", f"--wsrep-node-name={self.name}", "--wsrep-node-address=127.0.0.1",
            f"--wsrep-node-incoming-address=127.0.0.1:{self.ports[0]}", "--wsrep-sst-method=rsync",
            f"--wsrep-sst-receive-address=127.0.0.1:{self.ports[3]}", f"--wsrep-cluster-address=gcomm://{where}",
            f"--wsrep-provider-options={options}",
        )  # fmt: skip

    def install(self, *more: str) -> None:
        """An empty database in its directory. Raises RuntimeError with the installer's last words."""
        self.data.mkdir()
        command = [
            tool("mariadb-install-db"), "--no-defaults", f"--datadir={self.data}", f"--user={server_user(self.home)}",
            "--auth-root-authentication-method=normal", "--skip-test-db", *more,
        ]  # fmt: skip
        done = subprocess.run(command, capture_output=True, text=True, check=False, env=self._surroundings())
        if done.returncode != 0:
            raise RuntimeError(f"{self.name} could not be made:\n{done.stdout[-800:]}{done.stderr[-800:]}")

    def _surroundings(self) -> dict[str, str]:
        """Temporary tables of its own: a server clears those of every other that shares the directory as it starts."""
        scratch = self.home / f"{self.name}.tmp"
        scratch.mkdir(mode=0o700, exist_ok=True)
        if os.getuid() == 0:
            shutil.chown(scratch, server_user(self.home))
        path = f"{SCRIPTS}:{os.environ.get('PATH', '')}:/usr/sbin:/usr/bin"
        return {**os.environ, "PATH": path, "TMPDIR": str(scratch)}

    def run(self, command: list[str]) -> None:
        self.process = subprocess.Popen(
            command,
            env=self._surroundings(),
            stdout=subprocess.DEVNULL,
            stderr=subprocess.DEVNULL,
            start_new_session=True,
            preexec_fn=die_with_parent,  # noqa: PLW1509 - one ctypes call
        )

    def ask(self, statement: str, *, root: bool = False) -> Any:
        """The first row it answers. Raises what the driver does."""
        account: dict[str, Any] = {"host": "127.0.0.1", "port": self.ports[0], "user": ACCOUNT, "password": PASSWORD}
        if root:
            account = {"unix_socket": f"{self.home / self.name}.sock", "user": "root"}
        connection = pymysql.connect(**account, ssl_disabled=True, connect_timeout=2, read_timeout=10)
        try:
            with connection.cursor() as cursor:
                cursor.execute(statement)
                return cursor.fetchone()
        finally:
            connection.close()

    def state(self, name: str) -> str:
        """One of its status words; empty where it does not answer."""
        try:
            row = self.ask(f"SHOW STATUS LIKE 'wsrep_{name}'")
        except pymysql.Error:
            return ""
        return str(row[1]) if row else ""

    @property
    def sees(self) -> int:
        """How many nodes it counts: not by `cluster_size`, which stays nought where it took in only what it missed."""
        return len([one for one in self.state("incoming_addresses").split(",") if one])

    def end(self, how: signal.Signals) -> None:
        if self.process is not None:
            self.process.send_signal(how)
            self.process.wait()
            self.process = None


@dataclass(slots=True)
class Cluster:
    """All of them. `nodes` is filled by `start`."""

    home: Path
    nodes: list[Node] = field(default_factory=list)

    def start(self, count: int = 3) -> None:
        """From nothing. A port that was free may be taken before it is bound: then all of it once more, on others."""
        try:
            self._start(count)
        except RuntimeError:
            self.stop()
            for left in self.home.iterdir():
                shutil.rmtree(left) if left.is_dir() else left.unlink()
            self._start(count)

    def _start(self, count: int) -> None:
        """The first is made with its account, copied, and all are started as one group."""
        ports = iter(_free_ports(4 * count))
        self.nodes = [
            Node(self.home, f"n{one + 1}", (next(ports), next(ports), next(ports), next(ports))) for one in range(count)
        ]
        first = self.nodes[0]
        self._make(first)
        for other in self.nodes[1:]:
            shutil.copytree(first.data, other.data)
        self._one_group()
        self._own()
        for node in self.nodes:
            node.run(node.clustered([one for one in self.nodes if one is not node]))
        self.until_whole()

    def _make(self, node: Node) -> None:
        """A server with the application's account and its empty database, stopped again."""
        node.install("--skip-name-resolve")
        self._own()
        node.run(node.command())
        _until(lambda: _answers(node), f"{node.name} does not answer")
        for statement in (
            f"CREATE USER {ACCOUNT}@'127.0.0.1' IDENTIFIED BY '{PASSWORD}'",
            "CREATE DATABASE vinegate CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci",
            f"GRANT ALL ON vinegate.* TO {ACCOUNT}@'127.0.0.1'",
        ):
            node.ask(statement, root=True)
        node.end(signal.SIGTERM)

    def _one_group(self) -> None:
        """The same view of the group in each folder, so that they find each other without a transfer."""
        members = sorted(str(uuid.uuid1()) for _ in self.nodes)
        listed = "".join(f"member: {one} 0\n" for one in members)
        for node, mine in zip(self.nodes, members, strict=True):
            view = f"my_uuid: {mine}\n#vwbeg\nview_id: 3 {members[0]} 3\nbootstrap: 0\n{listed}#vwend\n"
            (node.data / "gvwstate.dat").write_text(view)
            (node.data / "galera.cache").unlink(missing_ok=True)

    def _own(self) -> None:
        user = server_user(self.home)
        if os.getuid() == 0 and user != "root":
            subprocess.run(["chown", "-R", user, str(self.home)], check=True)

    def until_whole(self, count: int | None = None) -> None:
        """Until so many nodes are one group and may write."""
        wanted = count or len(self.nodes)

        def whole() -> bool:
            running = [one for one in self.nodes if one.process is not None]
            return all(one.state("ready") == "ON" and one.sees == wanted for one in running)

        _until(whole, f"the cluster is not {wanted} nodes")

    def kill(self, *places: int) -> None:
        """At once, as by a power failure."""
        for place in places:
            self.nodes[place].end(signal.SIGKILL)

    def go_on_alone(self, place: int) -> None:
        """Tell the last node that is left that it is the cluster now: nobody else can know that."""
        self.nodes[place].ask("SET GLOBAL wsrep_provider_options='pc.bootstrap=YES'", root=True)
        _until(lambda: self.nodes[place].state("ready") == "ON", "it does not go on alone")

    def revive(self, place: int) -> None:
        """Start it again: it takes what it missed from the others."""
        node = self.nodes[place]
        (node.data / "gvwstate.dat").unlink(missing_ok=True)
        node.run(node.clustered([one for one in self.nodes if one is not node]))
        _until(lambda: node.state("ready") == "ON", f"{node.name} does not come back")

    def url(self, first: int = 0) -> str:
        """For the application: every node, from this one on."""
        turned = self.nodes[first:] + self.nodes[:first]
        places = ",".join(f"127.0.0.1:{one.ports[0]}" for one in turned)
        return f"mysql://{ACCOUNT}:{PASSWORD.replace(' ', '%20')}@{places}/vinegate"

    def stop(self) -> None:
        for node in self.nodes:
            node.end(signal.SIGKILL)


def _answers(node: Node) -> bool:
    try:
        node.ask("SELECT 1", root=True)
    except pymysql.Error:
        return False
    return True


def _free_ports(count: int) -> list[int]:
    found: set[int] = set()
    while len(found) < count:
        found.add(free_port())
    return sorted(found)


def _until(done: Any, complaint: str) -> None:
    deadline = time.monotonic() + _READY_S
    while not done():
        if time.monotonic() > deadline:
            raise RuntimeError(complaint)
        time.sleep(0.05)
