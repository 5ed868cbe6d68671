"""Requests nobody means: what each kind is answered with. Drawn by a seed; a fault of the server's own is a finding."""

from __future__ import annotations

import http.client
import json
import random
from collections import Counter
from collections.abc import Callable
from urllib.parse import quote

_ODD = (
    "",
    "²",
    "٣",
    "\ud800".encode("utf-8", "surrogatepass").decode("latin-1"),
    "9" * 400,
    "-1",
    "1e400",
    "NaN",
    "%00",
    "' OR 1=1 --",
    "<script>",
    "../../etc/passwd",
    "\x00",
    "𝟙",
    "0x10",
    "∞",
    "a" * 5000,
    "{}",
    "[[[[",
    "\r\nX: y",
    "http://[",
    "1/0",
)
_PATHS = (
    "/",
    "/jobs",
    "/jobs/{}",
    "/jobs/{job}/{}",
    "/jobs/{job}/{tag}/{}",
    "/jobs/{job}/{tag}/start",
    "/quick/{}",
    "/docs/{}",
    "/jobs/{job}/{tag}/revisions/{}",
    "/jobs/{job}/{tag}/record/measure/{}",
    "/s/{}/{}",
    "/api/v1/jobs/{}",
    "/{}",
    "/jobs/{job}/{tag}/compare?a={}&b={}",
    "/jobs/{job}?stands={}&board={}&find={}",
    "/jobs/{job}/{tag}/starter?run={}",
)
_FIELDS = (
    "plate.power",
    "plate.volts",
    "plate.speed",
    "supply.transformer_power",
    "wiring.size",
    "load.points",
    "drive.points",
    "start.tap",
    "place.motor",
    "board_9.size",
    "area_0.name",
    "protection.rating",
    "stop.method",
    "no.such",
    "plate",
    "",
)
_PROGRAMS = (
    ("POST", "/api/v1/plan"),
    ("POST", "/api/v1/plan"),
    ("POST", "/api/v1/jobs"),
    ("POST", "/api/v1/jobs/{job}/circuits"),
    ("PATCH", "/api/v1/jobs/{job}/circuits/{tag}"),
    ("GET", "/api/v1/jobs/{job}/circuits/{}"),
    ("GET", "/api/v1/jobs?page={}&size={}"),
    ("DELETE", "/api/v1/jobs/{job}/circuits/{}"),
)


class Odd:
    """Draws and sends them."""

    def __init__(self, port: int, cookie: str, token: str, bearer: str, job: int, tag: str, seed: int) -> None:
        self._port, self._cookie, self._token, self._bearer = port, cookie, token, bearer
        self._job, self._tag, self._random = job, tag, random.Random(seed)

    def sent(self, count: int) -> dict[str, Counter[str]]:
        """Counts of statuses by kind of request."""
        kinds: dict[str, Callable[[], str]] = {
            "odd addresses": self._address,
            "odd fields": self._fields,
            "odd files": self._files,
            "odd JSON": self._json,
            "odd heads": self._heads,
        }
        found: dict[str, Counter[str]] = {name: Counter() for name in kinds}
        for at in range(count):
            name = list(kinds)[at % len(kinds)]
            found[name][kinds[name]()] += 1
        return found

    def _one(self) -> str:
        return self._random.choice(_ODD)

    def _path(self) -> str:
        path = self._random.choice(_PATHS).replace("{job}", str(self._job)).replace("{tag}", self._tag)
        while "{}" in path:
            path = path.replace("{}", quote(self._one(), safe="/") or "x", 1)
        return path

    def _ask(self, method: str, path: str, body: bytes | None = None, heads: dict[str, str] | None = None) -> str:
        link = http.client.HTTPConnection("127.0.0.1", self._port, timeout=30)
        try:
            link.request(method, path, body, {"Cookie": self._cookie, **(heads or {})})
            return str(link.getresponse().status)
        except ValueError:
            return "not sent"  # the client itself refuses to write it
        except (OSError, http.client.HTTPException):
            return "cut off"
        finally:
            link.close()

    def _address(self) -> str:
        return self._ask(
            self._random.choice(("GET", "GET", "POST", "PUT", "DELETE", "PATCH", "OPTIONS", "TRACE")), self._path()
        )

    def _fields(self) -> str:
        names = [f"f:{self._random.choice(_FIELDS)}" for _ in range(self._random.randrange(1, 5))]
        pairs = [(name, self._one()) for name in names] + [(name.replace("f:", "was:"), self._one()) for name in names]
        pairs += [("csrf_token", self._token), ("sequence", self._one()), ("seen", self._one()), ("page", self._one())]
        body = "&".join(f"{quote(name)}={quote(text)}" for name, text in pairs).encode()
        sheet = self._random.choice(("plate", "start", "stop", "place", "drive", "supply", "load"))
        path = f"/jobs/{self._job}/{self._tag}/{sheet}"
        return self._ask("POST", path, body, {"Content-Type": "application/x-www-form-urlencoded", "X-Live": "1"})

    def _files(self) -> str:
        edge = "edge"
        content = self._random.choice(
            (
                b"",
                b"PK\x03\x04" + self._random.randbytes(200),
                self._random.randbytes(500),
                b"{" * 900,
                b"Tag,HP\n" + b"A," * 3000,
                b'{"format":"vinegate/2","job":{}}',
            )
        )
        name = self._random.choice(("a.xlsx", "a.ods", "a.csv", "a.json", "a.cff", "a", "..\\a.csv"))
        parts = [
            f'--{edge}\r\nContent-Disposition: form-data; name="csrf_token"\r\n\r\n{self._token}\r\n'.encode(),
            f'--{edge}\r\nContent-Disposition: form-data; name="file"; filename="{name}"\r\n\r\n'.encode(),
            content,
            f"\r\n--{edge}--\r\n".encode(),
        ]
        path = self._random.choice(
            (
                f"/jobs/{self._job}/import",
                "/jobs",
                f"/jobs/{self._job}/compare",
                f"/jobs/{self._job}/{self._tag}/record/captures",
            )
        )
        return self._ask("POST", path, b"".join(parts), {"Content-Type": f"multipart/form-data; boundary={edge}"})

    def _json(self) -> str:
        """To the interface of programs, by one that may write."""
        value = self._random.choice(
            (
                None, [], 7, self._one(), {"plate": self._one()}, {"plate": {"power": [self._one()]}},
                {self._one(): {self._one(): self._one()}},
                {"name": self._one(), "rules": self._one(), "tag": self._one()},
                {"rules": "nec", "job": {}, "circuit": {"plate": {"power": self._one()}}},
            )
        )  # fmt: skip
        body = json.dumps(value).encode() if self._random.random() < 0.8 else self._random.randbytes(60)
        method, path = self._random.choice(_PROGRAMS)
        path = (
            path.replace("{job}", str(self._job)).replace("{tag}", self._tag).replace("{}", quote(self._one(), safe=""))
        )
        heads = {"Content-Type": "application/json", "Authorization": f"Bearer {self._bearer}"}
        if self._random.random() < 0.3:
            heads["Idempotency-Key"] = quote(self._one())
        return self._ask(method, path, body, heads)

    def _heads(self) -> str:
        name = self._random.choice(
            (
                "Host",
                "X-Forwarded-For",
                "X-Forwarded-Host",
                "Range",
                "If-None-Match",
                "Accept-Encoding",
                "Authorization",
                "Accept-Language",
                "Content-Length",
                "Cookie",
            )
        )
        text = self._one().replace("\r\n", " ").encode("latin-1", "replace").decode("latin-1")
        return self._ask("GET", self._path(), None, {name: text})
