"""Changes one thing in core at a time, and says which changes no test notices.

`tools/mutate SEED COUNT` draws so many places at random, runs the core's tests on a copy of the tree with that one
change, and prints every survivor, kills by folder and the share. A change is tried on the test files that run its line,
those that name its module and those of whole plans first, for some forty seconds of tests; the slow walks over random
facts are left out. It is run by hand when tests are worked on, not in ./test. Which lines a test file runs is found
once, in ten minutes; MUTATE_LINES names a file that keeps it for a second run. Numbers behind the count try those of
the sample again.
"""

from __future__ import annotations

import json
import os
import shutil
import subprocess
import sys
import tempfile
import time
from collections import Counter
from collections.abc import Iterator, Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from hashlib import sha256
from pathlib import Path
from typing import Final

from mutants import CORE, Place, changed, drawn

ROOT: Final = Path(__file__).parents[1]
_LONGEST_S: Final = 900
_GROUPS_S: Final = (30.0, 100.0, 160.0)
"""How long the groups of test files may take while watched, seven times as long as alone; the nearest come first."""


_WHOLE_PLANS: Final = ("tests/core/test_working.py", "tests/core/test_verdicts.py")
"""What looks at every figure and every gate of many plans."""


@dataclass(frozen=True)
class TestFile:
    """One file of the core's tests: how long it takes, and what lines of core it runs, by file."""

    path: str
    seconds: float
    lines: dict[str, frozenset[int]]

    def runs(self, path: str, statement: range) -> bool:
        return not self.lines.get(path, frozenset()).isdisjoint(statement)


def _pytest(home: Path, *words: str, traced: Path | None = None) -> int:
    command = [sys.executable, "-m"]
    if traced is not None:
        command += ["coverage", "run", f"--data-file={traced}", "--source", "src/vinegate/core", "-m"]
    command += ["pytest", "-q", "-x", "-p", "no:playwright", "-W", "ignore", "-m", "not slow", *words]
    environment = {**os.environ, "PYTHONPATH": str(home / "src"), "PYTHONDONTWRITEBYTECODE": "1"}
    try:
        return subprocess.run(
            command, cwd=home, env=environment, capture_output=True, timeout=_LONGEST_S, check=False
        ).returncode
    except subprocess.TimeoutExpired:
        return 1


def _watched(path: Path) -> TestFile:
    """Runs a test file once with its lines of core recorded, in a process of its own: nothing is in a cache."""
    with tempfile.TemporaryDirectory(prefix="lines-") as folder:
        data, found = Path(folder) / "data", Path(folder) / "found.json"
        begun = time.monotonic()
        code = _pytest(ROOT, str(path.relative_to(ROOT)), traced=data)
        seconds = time.monotonic() - begun
        assert code in {0, 5}, f"{path} does not pass as it is"
        subprocess.run(
            [sys.executable, "-m", "coverage", "json", "-q", f"--data-file={data}", "-o", str(found)],
            cwd=ROOT,
            check=False,
        )
        files = json.loads(found.read_text())["files"] if found.exists() else {}
    lines = {name: frozenset(file["executed_lines"]) for name, file in files.items()}
    return TestFile(str(path.relative_to(ROOT)), seconds, lines)


_KEPT: Final = os.environ.get("MUTATE_LINES", "")


def _digest(path: str) -> str:
    return sha256((ROOT / path).read_bytes()).hexdigest()


def _kept_files() -> dict[str, TestFile]:
    """What was found of test files that are as they were, by their paths."""
    if not _KEPT or not Path(_KEPT).exists():
        return {}
    return {
        path: TestFile(path, seconds, {name: frozenset(lines) for name, lines in run.items()})
        for path, digest, seconds, run in json.loads(Path(_KEPT).read_text())
        if (ROOT / path).exists() and _digest(path) == digest
    }


def _keep_files(files: Sequence[TestFile]) -> None:
    if _KEPT:
        found = [
            (one.path, _digest(one.path), one.seconds, {name: sorted(run) for name, run in one.lines.items()})
            for one in files
        ]
        Path(_KEPT).write_text(json.dumps(found))


def _all_watched(pool: ThreadPoolExecutor) -> list[TestFile]:
    known = _kept_files()
    paths = [str(path.relative_to(ROOT)) for path in sorted((ROOT / "tests/core").glob("test_*.py"))]
    new = pool.map(_watched, [ROOT / path for path in paths if path not in known])
    files = [*(known[path] for path in paths if path in known), *new]
    _keep_files(files)
    return files


def _groups(place: Place, statement: range, files: Sequence[TestFile]) -> Iterator[list[str]]:
    """The files to try a change on, some at a time: its own examples, who names its module, then the quick ones."""
    path = str(place.path.relative_to(ROOT))
    module = path.removeprefix("src/").removesuffix(".py").replace("/", ".")
    package = module.rpartition(".")[0]

    def far(file: TestFile) -> tuple[int, float]:
        text = (ROOT / file.path).read_text()
        if f"{module} " in text:
            return 0, file.seconds
        if file.path in _WHOLE_PLANS:
            return 1, file.seconds
        return (2 if f"{package}." in text or package.rpartition(".")[2] in file.path else 3), file.seconds

    left = sorted((file for file in files if file.runs(path, statement)), key=far)
    group, taken = [path], 0.0
    for longest in _GROUPS_S:
        while left and (taken == 0 or taken + left[0].seconds <= longest):
            taken += left[0].seconds
            group.append(left.pop(0).path)
        if group:
            yield group
        group, taken = [], 0.0


def survives(place: Place, files: Sequence[TestFile]) -> tuple[bool, str]:
    """Whether the core's tests pass with the change, and what it was."""
    change = changed(place)
    with tempfile.TemporaryDirectory(prefix="mutant-") as folder:
        home = Path(folder)
        for part in ("src", "tests", "docs"):
            shutil.copytree(ROOT / part, home / part, ignore=shutil.ignore_patterns("__pycache__", "screenshots"))
        for name in ("pyproject.toml", "README.md"):
            shutil.copy(ROOT / name, home / name)
        (home / place.path.relative_to(ROOT)).write_text(change.text)
        lives = all(_pytest(home, *group) in {0, 5} for group in _groups(place, change.statement, files))
    return lives, f"{place.path.relative_to(CORE)}:{change.line} {change.said}"


def main() -> None:
    seed, count = int(sys.argv[1]), int(sys.argv[2])
    numbers = [int(text) for text in sys.argv[3:]] or range(1, count + 1)
    sample = [one for number, one in enumerate(drawn(seed, count), 1) if number in set(numbers)]
    killed, alive = Counter[str](), Counter[str]()
    with ThreadPoolExecutor(int(os.environ.get("MUTATE_JOBS", os.cpu_count() or 1))) as pool:
        files = _all_watched(pool)
        print(f"{len(files)} test files watched, {sum(file.seconds for file in files):.0f} s of tests", flush=True)
        tried = pool.map(lambda place: survives(place, files), sample)
        for number, place, (lives, said) in zip(sorted(numbers), sample, tried, strict=True):
            folder = place.path.relative_to(CORE).parts[0]
            (alive if lives else killed)[folder] += 1
            if lives:
                print(f"{number:4}  survives  {said}", flush=True)
    for folder in sorted({*killed, *alive}):
        whole = killed[folder] + alive[folder]
        print(f"{folder:20} {killed[folder]:4} of {whole:4}  {100 * killed[folder] / whole:5.1f} %")
    print(
        f"{sum(killed.values())} of {len(sample)} killed, {100 * sum(killed.values()) / len(sample):.1f} %, seed {seed}"
    )


if __name__ == "__main__":
    main()
