"""People who save over the pages without pause, and remember what was acknowledged: for faults of every kind."""

from __future__ import annotations

import http.client
import threading
import time
from dataclasses import dataclass, field

from tools.load_run import Person, hidden

_AGAIN_S = 0.1


@dataclass(slots=True)
class Kept:
    """What one writer was told is kept, and the longest time it had to wait for an answer."""

    texts: list[str] = field(default_factory=list)
    longest_s: float = 0.0
    wrong: list[str] = field(default_factory=list)


class Writer(threading.Thread):
    """One person on one circuit: text after text for what it drives, each sent until it is acknowledged."""

    def __init__(self, port: int, cookie: str, address: str, name: str) -> None:
        super().__init__(daemon=True)
        self._person, self._address, self._name = Person(port, cookie), address, name
        self._over = threading.Event()
        self.kept = Kept()

    def run(self) -> None:
        page, was, number = self._page(), "", 0
        was = hidden(page, "was:start.driven")
        while not self._over.is_set():
            number += 1
            text = f"{self._name} {number}"
            begun = time.monotonic()
            page = self._sent(page, was, text, number)
            if not page:
                return
            self.kept.longest_s = max(self.kept.longest_s, time.monotonic() - begun)
            self.kept.texts.append(text)
            was = text

    def _page(self) -> str:
        while not self._over.is_set():
            try:
                status, page = self._person.ask("GET", self._address)
            except (OSError, http.client.HTTPException):
                status, page = 0, ""
            if status == 200:
                return page
            self._over.wait(_AGAIN_S)
        return ""

    def _sent(self, page: str, was: str, text: str, number: int) -> str:
        """The page that shows the text; the same save is sent again until there is one."""
        form = {name: hidden(page, name) for name in ("csrf_token", "page", "seen")}
        form |= {"sequence": str(number), "was:start.driven": was, "f:start.driven": text}
        while not self._over.is_set():
            try:
                status, answer = self._person.ask("POST", self._address, form, X_Live="1")
            except (OSError, http.client.HTTPException):
                status, answer = 0, ""
            if status == 200 and f'value="{text}"' in answer:
                return answer
            if status not in (0, 200, 502, 503, 504):
                self.kept.wrong.append(f"{status} for {text}")
            self._over.wait(_AGAIN_S)
        return ""

    def end(self) -> Kept:
        self._over.set()
        self.join()
        return self.kept


def writing(port: int, cookie: str, addresses: list[str], mark: str) -> list[Writer]:
    """One on each, begun."""
    found = [Writer(port, cookie, address, f"{mark}{at}") for at, address in enumerate(addresses)]
    for one in found:
        one.start()
    return found
