"""docs/deploy.md as it stands: its files and commands, on loopback, with paths, ports and words put in."""

import http.client
import os
import re
import socket
import ssl
import subprocess
import tempfile
import time
from contextlib import ExitStack, closing, contextmanager
from pathlib import Path
from urllib.parse import urlencode

import pymysql
import pytest
from tools.nodes import Node
from tools.stand import until

from tests.server import PASSWORD
from vinegate.store.instance import free_port, server_user, tool

ROOT = Path(__file__).parents[1]
TOOLS = ROOT / ".cluster/bin"
PAGE = (ROOT / "docs/deploy.md").read_text()
BLOCKS = {
    head.strip("#- ").split(" (")[0]: body
    for head, body in re.findall(r"^```\w*\n((?:#|--) [^\n]*)\n(.*?)^```", PAGE, flags=re.MULTILINE | re.DOTALL)
}
NAME = "motors.example"

pytestmark = pytest.mark.skipif(not (TOOLS / "mariadb-binlog").exists(), reason="the database's tools are not there")


def put_in(text, words):
    for name, value in words.items():
        text = text.replace(name, str(value))
    return text


def certificate(folder, name, hosts):
    """A key, and a certificate of our own authority for these hosts."""
    run = lambda *words: subprocess.run(["openssl", *words], check=True, capture_output=True, cwd=folder)  # noqa: E731
    if not (folder / "ca.pem").exists():
        run("req", "-x509", "-newkey", "rsa:2048", "-nodes", "-keyout", "ca.key", "-out", "ca.pem", "-days", "2",
            "-subj", "/CN=Authority", "-addext", "keyUsage=critical,keyCertSign")  # fmt: skip
    names = ",".join(f"DNS:{one}" for one in hosts)
    (folder / f"{name}.ext").write_text(f"subjectAltName={names}\n")
    run(
        "req",
        "-newkey",
        "rsa:2048",
        "-nodes",
        "-keyout",
        f"{name}.key",
        "-out",
        f"{name}.csr",
        "-subj",
        f"/CN={hosts[0]}",
    )
    run("x509", "-req", "-in", f"{name}.csr", "-CA", "ca.pem", "-CAkey", "ca.key", "-CAcreateserial", "-days", "2",
        "-out", f"{name}.pem", "-extfile", f"{name}.ext")  # fmt: skip


@contextmanager
def server(home, name, *more):
    """A MariaDB of its own, made and answering on its socket."""
    port = free_port()
    node = Node(home, name, (port, 0, 0, 0))
    node.install()
    if os.getuid() == 0:
        subprocess.run(["chown", "-R", server_user(home), str(home)], check=True)
    command = [tool("mariadbd"), *(more or ("--no-defaults", f"--port={port}")), f"--datadir={node.data}",
               f"--user={server_user(home)}", f"--socket={home / name}.sock", f"--pid-file={home / name}.pid",
               f"--log-error={home / name}.err", "--skip-name-resolve"]  # fmt: skip
    node.run(put_in(" ".join(command), {"PORT": port}).split(" "))

    def answers():
        try:
            return node.ask("SELECT 1", root=True)
        except pymysql.Error:
            return False

    try:
        until(answers, f"{name} does not answer")
        yield node
    finally:
        node.process.kill()
        node.process.wait()


@pytest.fixture(scope="module")
def place():
    """Everything as the page has it: certificates, database, two applications, proxy. Yields what was put in for what."""
    with tempfile.TemporaryDirectory(prefix="vgd-") as folder, ExitStack() as kept:
        home = Path(folder)
        home.chmod(0o755)
        yield _made(home, kept)


def _made(home, kept):
    etc = home / "etc"
    etc.mkdir()
    certificate(etc, "db", ["localhost"])
    certificate(etc, "site", [NAME])
    (etc / "site.pem").write_text((etc / "site.pem").read_text() + (etc / "site.key").read_text())
    ports = {name: free_port() for name in ("first", "second", "proxy")}
    words = {"/etc/vinegate": etc, "/backups": home / "backups", "10.0.0.5": "127.0.0.1", "/var/lib/mysql/binlog": home / "db/binlog",
             "PASSWORD": "word%2Fof+mine", "db.internal": "localhost", "THE-SAME-64-HEXADECIMAL-DIGITS-ON-EVERY-MACHINE": "5" * 64,
             "/opt/vinegate": ROOT, "/var/lib/vinegate": home / "apps", ":443": f"127.0.0.1:{ports['proxy']}",
             ":8000": f":{ports['first']}", ":8001": f":{ports['second']}"}  # fmt: skip
    (home / "backups").mkdir()
    cnf = etc / "90-vinegate.cnf"
    db_port = free_port()
    words |= {"port = 3306": f"port = {db_port}", ":3306": f":{db_port}"}
    cnf.write_text(put_in(BLOCKS["/etc/mysql/mariadb.conf.d/90-vinegate.cnf"], words))
    database = kept.enter_context(server(home, "db", f"--defaults-file={cnf}"))
    sql = put_in(BLOCKS["once, as the database's administrator"], words | {"PASSWORD": "word/of+mine"})
    for statement in filter(str.strip, sql.split(";")):
        database.ask(statement, root=True)
    settings = dict(line.split("=", 1) for line in put_in(BLOCKS["/etc/vinegate/vinegate.env"], words).split())
    unit = re.search(r"^ExecStart=(.*)$", BLOCKS["/etc/systemd/system/vinegate@.service"], flags=re.MULTILINE)[1]
    (home / "apps").mkdir()
    for port in (ports["first"], ports["second"]):
        command = put_in(unit, words).replace("%i", str(port)).split(" ")
        process = subprocess.Popen(command, env={**os.environ, **settings}, stdout=subprocess.DEVNULL)
        kept.callback(process.wait)
        kept.callback(process.terminate)
    (etc / "haproxy.cfg").write_text(put_in(BLOCKS["/etc/haproxy/haproxy.cfg"], words))
    proxy = subprocess.Popen(["/usr/sbin/haproxy", "-q", "-f", etc / "haproxy.cfg"])
    kept.callback(proxy.wait)
    kept.callback(proxy.terminate)
    found = {"home": home, "ports": ports, "settings": settings, "database": database, "words": words}
    until(lambda: _status(found) == 200, "nothing answers behind the proxy")
    return found


def _open(place):
    context = ssl.create_default_context(cafile=place["home"] / "etc/ca.pem")
    link = http.client.HTTPSConnection(NAME, place["ports"]["proxy"], context=context, timeout=20)
    link._create_connection = lambda address, *more: socket.create_connection(("127.0.0.1", address[1]), *more)
    return link


def _status(place):
    try:
        with closing(_open(place)) as link:
            link.request("GET", "/health/ready")
            return link.getresponse().status
    except (OSError, http.client.HTTPException):
        return 0


def ask(place, method, path, form=None, cookie=""):
    heads = {"Cookie": cookie, "Referer": f"https://{NAME}:{place['ports']['proxy']}{path}"}
    if form is not None:
        heads["Content-Type"] = "application/x-www-form-urlencoded"
    with closing(_open(place)) as link:
        link.request(method, path, urlencode(form) if form is not None else None, heads)
        answer = link.getresponse()
        return answer, answer.read().decode()


def command(place, text, **more):
    """A line of the page, by this program and the database's own tools."""
    path = f"{ROOT}/.venv/bin:{TOOLS}:{os.environ['PATH']}"
    environment = {
        **os.environ,
        **place["settings"],
        "VINEGATE_BACKUP_KEY": "a word of many letters",
        "PATH": path,
        **more,
    }
    done = subprocess.run(
        ["bash", "-euc", put_in(text, place["words"])],
        env=environment,
        capture_output=True,
        text=True,
        cwd=place["home"],
        check=False,
    )
    assert done.returncode == 0, done.stderr
    return done.stdout


def token(page):
    return re.search(r'name="csrf_token" value="([^"]+)"', page)[1]


@pytest.fixture(scope="module")
def signed_in(place):
    """Ines, with a job: her cookie and the job's address."""
    add = ["vinegate", "user", "add", "ines", "--name", "Ines Okafor"]
    subprocess.run([ROOT / ".venv/bin" / add[0], *add[1:]], input=PASSWORD + "\n", text=True, check=True,
                   env={**os.environ, **place["settings"]}, capture_output=True)  # fmt: skip
    answer, page = ask(place, "GET", "/sign-in")
    first = answer.getheader("Set-Cookie").partition(";")[0]
    answer, _ = ask(
        place, "POST", "/sign-in", {"csrf_token": token(page), "login": "ines", "password": PASSWORD}, first
    )
    assert answer.status == 302
    cookie = answer.getheader("Set-Cookie")
    assert cookie.startswith("__Host-")
    assert "Secure" in cookie
    cookie = cookie.partition(";")[0]
    answer, page = ask(place, "GET", "/", cookie=cookie)
    cookie = answer.getheader("Set-Cookie", cookie).partition(";")[0]  # the forms' token is in it
    answer, _ = ask(
        place, "POST", "/jobs", {"csrf_token": token(page), "name": "Harrowmere Lock", "rules": "nec"}, cookie
    )
    return cookie, answer.getheader("Location")


def test_pages_come_encrypted_and_say_so(place, signed_in):
    cookie, job = signed_in
    answer, page = ask(place, "GET", job, cookie=cookie)
    assert answer.status == 200
    assert "Harrowmere Lock" in page
    assert "max-age" in answer.getheader("Strict-Transport-Security")


def test_a_database_of_another_authority_is_refused(place):
    certificate(other := place["home"] / "backups", "x", ["localhost"])
    url = place["settings"]["VINEGATE_DATABASE_URL"].replace(str(place["home"] / "etc/ca.pem"), str(other / "ca.pem"))
    done = subprocess.run([ROOT / ".venv/bin/vinegate", "doctor"], env={**os.environ, "VINEGATE_DATABASE_URL": url},
                          capture_output=True, text=True, check=False)  # fmt: skip
    assert done.returncode != 0
    assert "certificate verify failed" in done.stdout + done.stderr


def test_a_copy_is_written_and_brought_back(place, signed_in):
    command(place, BLOCKS["every night, by the machine's own scheduler"])
    (copy,) = (place["home"] / "backups").glob("vinegate-*")
    before = command(place, "vinegate verify")
    database = place["database"]
    database.ask("CREATE DATABASE empty CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci", root=True)
    database.ask("GRANT ALL ON empty.* TO 'vinegate'@'%'", root=True)
    url = place["settings"]["VINEGATE_DATABASE_URL"].replace("/vinegate?", "/empty?")
    text = BLOCKS["into an empty database of the same program, named by VINEGATE_DATABASE_URL"]
    assert command(place, text.replace("NEWEST", copy.name), VINEGATE_DATABASE_URL=url).endswith(before)


def test_the_database_goes_back_to_just_before_a_mistake(place, signed_in):
    cookie, job = signed_in
    home, database = place["home"], place["database"]
    as_root = {"mariadb-dump": f"mariadb-dump --socket={home / 'db.sock'} --user=root"}
    command(place, put_in(BLOCKS["base"], as_root))
    _, page = ask(place, "GET", job, cookie=cookie)
    ask(place, "POST", f"{job}/circuits", {"csrf_token": token(page), "tag": "P-11"}, cookie)  # kept after the base
    database.ask("FLUSH TABLES", root=True)
    before = database.ask("SHOW MASTER STATUS", root=True)[1]
    ask(place, "POST", f"{job}/away", {"csrf_token": token(page), "name": "Harrowmere Lock"}, cookie)  # the mistake
    assert database.ask("SELECT deleted_at IS NULL FROM vinegate.job", root=True)[0] == 0
    begins = re.search(r"MASTER_LOG_POS=(\d+)", (home / "backups/base.sql").read_text())[1]
    with server(home, "again") as other:
        words = {"PLACE": begins, "BEFORE": before, "mariadb < ": f"mariadb --socket={home / 'again.sock'} --user=root < ",
                 "| mariadb": f"| mariadb --socket={home / 'again.sock'} --user=root"}  # fmt: skip
        command(place, put_in(BLOCKS["back"], words))
        assert other.ask("SELECT tag FROM vinegate.circuit", root=True)[0] == "P-11"
        assert other.ask("SELECT deleted_at IS NULL FROM vinegate.job", root=True)[0] == 1


def test_one_application_falls_and_the_other_answers(place, signed_in):
    lines = subprocess.run(
        ["pgrep", "-f", f"serve --no-demo --port {place['ports']['first']}"], capture_output=True, text=True, check=True
    )
    os.kill(int(lines.stdout.split()[0]), 9)
    deadline = time.monotonic() + 20
    while (status := ask(place, "GET", "/sign-in")[0].status) != 200:
        assert time.monotonic() < deadline, status
