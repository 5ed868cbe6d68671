"""Changes one thing in core at a time, and says which changes no test notices.

`tools/mutate SEED COUNT` draws so many places at random, runs the core's tests with that one change in a process
forked for it, and prints every survivor, kills by folder and the share. A change is tried on the tests that run its
line (of a module's constant, the lines that use it): those first that name its module or a key that stands beside it,
those of a file named like it or its package, those of whole plans, then the others, the quickest first, up to a fifth
of the time that all tests take. It is run by
hand when tests are worked on, not in ./test. Which lines a test runs is found once, in ten minutes; MUTATE_LINES names
a file that keeps it for a second run. Numbers behind the count try those of the sample again.
"""

from __future__ import annotations

import importlib
import importlib.abc
import importlib.util
import os
import re
import signal
import sys
import time
from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from pathlib import Path
from types import ModuleType
from typing import Final

import hypothesis  # noqa: F401 - loaded once for all that are forked
import numpy as np  # noqa: F401
import pydantic  # noqa: F401
import pytest
from mutants import CORE, Change, Place, changed, drawn
from watching import ROOT, Test, users_of, watched

_LONGEST_S: Final = 300
_SHARE: Final = 0.2
"""Of the seconds that all tests took while they were watched: so long each change is tried."""
_AROUND: Final = 12
_KEY: Final = re.compile(r"[\"'](\w+\.\w+)[\"']")
_NEAR: Final = 2
_DOING: Final = {"start": "starting", "stop": "stopping"}
"""Words by which files of tests name a package beside its own."""
_WHOLE_PLANS: Final = tuple(f"tests/core/test_{name}.py" for name in ("working", "verdicts", "settled", "senses"))
"""What looks at every figure and every gate of many plans, and at what would settle each."""


class _Instead(importlib.abc.MetaPathFinder, importlib.abc.Loader):
    """Gives one module with its change."""

    def __init__(self, place: Place, change: Change) -> None:
        self.name = _module(place.path)
        self.path, self.text = place.path, change.text

    def find_spec(self, name: str, path: object, target: object = None) -> importlib.machinery.ModuleSpec | None:
        if name != self.name:
            return None
        package = [str(self.path.parent)] if self.path.name == "__init__.py" else None
        return importlib.util.spec_from_file_location(name, self.path, loader=self, submodule_search_locations=package)

    def create_module(self, spec: importlib.machinery.ModuleSpec) -> ModuleType | None:
        return None

    def exec_module(self, module: ModuleType) -> None:
        exec(compile(self.text, str(self.path), "exec"), module.__dict__)


def _module(path: Path) -> str:
    name = str(path.relative_to(ROOT / "src")).removesuffix(".py").replace("/", ".")
    return name.removesuffix(".__init__")


def tests_of(place: Place, change: Change, tests: Sequence[Test]) -> list[str]:
    """What to try a change on, the nearest first: its own examples, who names its module, whole plans, the quick."""
    wanted, module = users_of(place.path, change.statement), _module(place.path)
    package, _, stem = module.rpartition(".")
    texts = {test.file: "" for test in tests}
    texts = {file: (ROOT / file).read_text() for file in texts}

    shows = {change.line, *wanted.get(str(place.path.relative_to(ROOT)), set())}
    keys = {key for line in shows for key in _keys(place.path, line)}
    most_s, own, above = _SHARE * sum(test.seconds for test in tests), {*stem.split("_")}, package.rpartition(".")[2]

    def far(test: Test) -> tuple[int, float]:
        text, words = texts[test.file], {*Path(test.file).stem.split("_")}
        if f"{module} " in text or any(key in text for key in keys):
            return 0, test.seconds
        if words & own:
            return 1, test.seconds
        if words & {above, _DOING.get(above)}:
            return 2, test.seconds
        if test.file in _WHOLE_PLANS:
            return 3, test.seconds
        return (4 if f"{package}." in text else 5), test.seconds

    found, taken = [str(place.path.relative_to(ROOT))], 0.0
    # What is read as modules are loaded no test runs, and what core keeps for good only the first that asks: so those
    # that name the module, or its package in their file's name, in any case.
    near = [test for test in tests if test.runs(wanted) or far(test)[0] <= _NEAR]
    for test in sorted(near, key=far):
        if taken + test.seconds <= most_s:
            taken += test.seconds
            found += test.nodes
    return found


def _keys(path: Path, line: int) -> set[str]:
    """Keys of gates, figures and facts that stand near a line: who tests them most likely names them."""
    lines = path.read_text().splitlines()[max(line - _AROUND, 0) : line + _AROUND]
    return {key for one in lines for key in _KEY.findall(one)}


def _try(place: Place, change: Change, nodes: Sequence[str]) -> None:
    """In the forked process: run the tests with the change; exit 0 where all pass, 4 where they are not found."""
    os.setpgid(0, 0)
    nowhere = os.open(os.devnull, os.O_WRONLY)
    os.dup2(nowhere, 1)
    os.dup2(nowhere, 2)
    instead = _Instead(place, change)
    sys.meta_path.insert(0, instead)
    code: int = 1
    try:
        importlib.import_module(instead.name)  # before the tests' runner, which reads a module that it is given itself
        words = ["-q", "-x", "-p", "no:playwright", "-p", "no:xdist", "-W", "ignore", "--tb=no"]
        code = int(pytest.main([*words, *nodes]))
    finally:
        os._exit({0: 0, 5: 0, 4: 4}.get(code, 1))


@dataclass
class Trial:
    """A change that is being tried."""

    number: int
    place: Place
    change: Change
    tried: int
    begun: float


def outcomes(sample: Sequence[tuple[int, Place]], tests: Sequence[Test]) -> Iterator[tuple[Trial, bool]]:
    """Each change with whether it lives, as they end; as many at once as there are cores."""
    left, running = list(reversed(sample)), dict[int, Trial]()
    most = int(os.environ.get("MUTATE_JOBS", os.cpu_count() or 1))
    while left or running:
        while left and len(running) < most:
            number, place = left.pop()
            change = changed(place)
            nodes = tests_of(place, change, tests)
            pid = os.fork()
            if pid == 0:
                _try(place, change, nodes)
            running[pid] = Trial(number, place, change, len(nodes) - 1, time.monotonic())
        pid, status = os.waitpid(-1, os.WNOHANG)
        if pid:
            assert os.waitstatus_to_exitcode(status) != 4, running[pid]
            yield running.pop(pid), status == 0
            continue
        time.sleep(0.1)
        for late, trial in running.items():
            if time.monotonic() - trial.begun > _LONGEST_S:
                os.killpg(late, signal.SIGKILL)


def main() -> None:
    seed, count = int(sys.argv[1]), int(sys.argv[2])
    numbers = {int(text) for text in sys.argv[3:]} or set(range(1, count + 1))
    sample = [(number, place) for number, place in enumerate(drawn(seed, count), 1) if number in numbers]
    tests = watched(os.environ.get("MUTATE_LINES", ""))
    print(f"{len(tests)} tests watched, {sum(test.seconds for test in tests):.0f} s", flush=True)
    killed, alive = Counter[str](), Counter[str]()
    os.chdir(ROOT)
    sys.path.insert(0, str(ROOT))
    for trial, lives in outcomes(sample, tests):
        where = trial.place.path.relative_to(CORE)
        (alive if lives else killed)[where.parts[0]] += 1
        if lives:
            print(
                f"{trial.number:4}  survives {trial.tried:4} tests  {where}:{trial.change.line} {trial.change.said}",
                flush=True,
            )
    for folder in sorted({*killed, *alive}):
        whole = killed[folder] + alive[folder]
        print(f"{folder:20} {killed[folder]:4} of {whole:4}  {100 * killed[folder] / whole:5.1f} %")
    print(f"{killed.total()} of {len(sample)} killed, {100 * killed.total() / max(len(sample), 1):.1f} %, seed {seed}")


if __name__ == "__main__":
    main()
