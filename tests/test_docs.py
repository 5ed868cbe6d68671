"""The docs name what exists, and what exists is named."""

import json
import re
from pathlib import Path

import pytest
from tools.sbom_run import packages

from tests.conftest import whole
from vinegate import __version__
from vinegate.cli import parser
from vinegate.core.replacement.fits import Fits
from vinegate.core.replacement.stage import REPLACEMENT
from vinegate.core.starter.logic import contacts_of
from vinegate.core.starter.stage import STARTER
from vinegate.demo import demo_job
from vinegate.exchange.nomenclature import nomenclature

ROOT = Path(__file__).parents[1]
DOCS = [ROOT / "README.md", *sorted((ROOT / "docs").rglob("*.md"))]


def test_links_and_pictures_lead_somewhere():
    for page in DOCS:
        for target in re.findall(r"\]\(([^)#]+)\)", page.read_text()):
            assert (page.parent / target).exists(), (page.name, target)


def test_every_picture_is_shown():
    readme = (ROOT / "README.md").read_text()
    shots = sorted(path.name for path in (ROOT / "docs/screenshots").glob("*.png"))
    assert 0 < len(shots) < 20
    assert [name for name in shots if name not in readme] == []


def test_paths_named_in_the_readme_exist():
    for name in re.findall(r"`((?:src|tools|docs)/[^`* ]+)`", (ROOT / "README.md").read_text()):
        assert (ROOT / name).exists(), name


def test_nomenclature_is_that_of_the_fields():
    assert (ROOT / "docs/nomenclature.md").read_text() == nomenclature()


def test_every_setting_is_described_and_every_described_setting_exists():
    code = "".join(path.read_text() for path in (ROOT / "src").rglob("*.py")) + (ROOT / "start").read_text()
    used = set(re.findall(r"VINEGATE_[A-Z_]+", code)) - {"VINEGATE_DEMO"}  # set by `serve` itself
    described = set(re.findall(r"VINEGATE_[A-Z_]+", (ROOT / "docs/deploy.md").read_text()))
    assert used == described


def test_the_start_script_names_the_commands_options():
    text = (ROOT / "start").read_text()
    for option in ("--port", "--data", "--no-demo"):
        assert option in text
        assert option in parser()._subparsers._group_actions[0].choices["serve"].format_help()


def test_no_host_is_named():
    for path in [*DOCS, *ROOT.glob("*.lock"), *ROOT.glob("*.toml"), *(ROOT / "tools").iterdir()]:
        if path.is_file():
            hosts = set(re.findall(r"https?://([\w.-]+)", path.read_text())) - {
                "127.0.0.1",
                "www.w3.org",
            }  # the last names SVG
            assert not hosts, path


def test_worked_examples_say_what_the_plan_says():
    """The figures that the worked pages rest on are still those of the demo's plans."""

    for file, tag, said in (
        ("harrowmere-lock.json", "P-11", {"soft-starter": "313 A", "wye-delta": "687 A rms"}),
        ("harrowmere-lock.json", "X-51", {"full-voltage": "511 A", "wye-delta": "195 A", "drive": "74 A"}),
        ("skerry-sound.json", "H-1", {"wye-delta": "756 A rms", "soft-starter": "2.8 ×"}),
    ):
        page, found = (ROOT / f"docs/worked/{tag}.md").read_text(), whole(file, tag)().comparison
        for method, text in said.items():
            assert text in page, (tag, method)
            row = found.row(method)
            shown = {f"{row.peak_a:.0f} A", row.setting, f"{row.spike.most_a:.0f} A rms" if row.spike else ""}
            assert text in shown, (tag, method, shown)
        assert f"docs/worked/{tag}.md" in (ROOT / "README.md").read_text()


def test_the_worked_protection_is_the_plans():
    """Each tag's row names the device, disconnect, overload, and sizes that its plan has."""

    rows = {
        cells[1].strip(): line
        for line in (ROOT / "docs/worked/protection.md").read_text().splitlines()
        if line.startswith("| ") and (cells := line.split("|")) and "-" in cells[1]
    }
    for file in ("harrowmere-lock.json", "skerry-sound.json"):
        from vinegate.demo import demo_job

        for tag, _ in demo_job(file).circuits:
            plan = whole(file, tag)()
            for key in ("device", "overload", "conductors", "grounding", "starter"):
                chosen = plan.protected.device(key).chosen
                if tag == "P-12" and key == "conductors":
                    continue  # as P-11
                assert chosen in rows[tag], (tag, key, chosen)
    assert "docs/worked/protection.md" in (ROOT / "README.md").read_text()


def test_the_worked_stops_are_the_plans():

    page = (ROOT / "docs/worked/stopping.md").read_text()
    for file, tag, said in (
        ("harrowmere-lock.json", "G-21", {"brake": "0.268 s"}),
        ("harrowmere-lock.json", "R-31", {"plugging": "0.279 s"}),
        ("harrowmere-lock.json", "X-51", {"dc": "36.2 s", "plugging": "9.22 s"}),
        ("skerry-sound.json", "W-2", {"brake": "0.322 s"}),
    ):
        found = whole(file, tag)().stopping
        for method, text in said.items():
            assert text in page, (tag, method)
            assert found.row(method).time_s == pytest.approx(float(text.removesuffix(" s")), rel=5e-3), (tag, method)
    assert "docs/worked/stopping.md" in (ROOT / "README.md").read_text()


def test_the_worked_places_are_the_plans():
    """The material that decides, its limit and the verdict of each motor."""

    page = (ROOT / "docs/worked/places.md").read_text()
    for file, tag, decides, most, verdict in (
        ("harrowmere-lock.json", "M-41", "biogas", 537, "passes"),
        ("harrowmere-lock.json", "B-42", "hydrogen sulfide", 260, "passes"),
        ("harrowmere-lock.json", "D-61", "wood dust", 165, "passes"),
        ("skerry-sound.json", "K-5", "diethyl ether", 160, "passes"),
    ):
        motor = whole(file, tag)().placed.device("motor")
        assert (motor.decides, motor.most_c, motor.verdict) == (decides, most, verdict)
        assert f"## {tag}" in page
        assert f"{most} °C" in page
    assert "docs/worked/places.md" in (ROOT / "README.md").read_text()


def test_the_worked_drives_are_the_plans():
    """Each line with a key, under its circuit's heading, within its own tolerance."""

    checked, plan = 0, None
    for line in (ROOT / "docs/worked/drive.md").read_text().splitlines():
        if line.startswith("## ") and "-" in line:
            tag = line[3:].split(",")[0]
            files = ("skerry-sound.json", "harrowmere-lock.json")
            plan = next((whole(file, tag)() for file in files if tag in dict(demo_job(file).circuits)), None)
        cells = [cell.strip() for cell in line.split("|")]
        if len(cells) > 4 and cells[1].startswith("drive."):
            value, within = float(cells[2]), float(cells[3].removesuffix(" %")) / 100
            assert plan.figure(cells[1]).value == pytest.approx(value, rel=within), (tag, cells[1])
            checked += 1
    assert checked > 20
    assert "docs/worked/drive.md" in (ROOT / "README.md").read_text()


def test_the_worked_starters_are_the_plans():
    """Equations, amperes and the race on the page against the circuits that are drawn."""
    page = (ROOT / "docs/worked/starters.md").read_text()
    drawn = whole("harrowmere-lock.json", "X-51")({"stop.method": "coast", "stop.emergency": None}).of(STARTER)
    lines = re.findall(r"^(\w+) += (.+?)(?:  .*)?$", page.split("```")[1], flags=re.MULTILINE)
    assert {tag for tag, _ in lines} == {device.tag for device in drawn.circuit.devices}
    for tag, equation in lines:
        named = set(re.findall(r"/?[A-Z0-9]+[a-z]?\b", equation.replace("T(", "(")))
        contacts = set(contacts_of(drawn.circuit.device(tag).logic))
        assert named == {f"{'/' if one.breaks else ''}{one.of}" for one in contacts}, tag
    parts = {one.tag: one.amps for one in drawn.parts}
    rows = re.findall(r"^\| (\S[^|]*?) \| ([\d.]+)(?: ms)? \|", page, flags=re.MULTILINE)
    by_hand = {key: float(value) for key, value in rows}
    assert parts["1M"] == pytest.approx(by_hand["1M, 2M of 71 A"], rel=1e-3)
    assert parts["S"] == pytest.approx(by_hand["S of 71 A"], rel=1e-3)
    assert drawn.races[0].margin_ms == pytest.approx(by_hand["S to 2M"])
    fed = whole("skerry-sound.json", "H-1")()
    rows = dict(re.findall(r"^\| (\S[^|]*?) \| ([\d.]+) (?:VA|%|m) \|", page, flags=re.MULTILINE))
    assert fed.figure("starter.held_va").value == pytest.approx(float(rows["beside it held"]), rel=5e-3)
    assert fed.figure("starter.sum_va").value == pytest.approx(float(rows["by arithmetic sum"]), rel=1e-3)
    assert fed.figure("starter.exact_va").value == pytest.approx(float(rows["by phasors"]), rel=1e-3)
    assert fed.figure("starter.size_va").value == float(rows["least transformer"])
    assert fed.gate("starter.coil_volts").value == pytest.approx(float(rows["volts at the coil"]), rel=5e-3)
    assert fed.gate("starter.hold_in").limit == pytest.approx(float(rows["hold-in from"]), rel=5e-3)
    assert "docs/worked/starters.md" in (ROOT / "README.md").read_text()


def test_the_worked_replacements_are_the_plans():
    page = (ROOT / "docs/worked/replacement.md").read_text()
    rows = re.findall(r"^\| (\S[^|]*?) \| ([\d.]+)(?: kWh)? \| ([\d.]+) % \|", page, flags=re.MULTILINE)
    by_hand = {key: (float(value), float(within) / 100) for key, value, within in rows}
    turns = whole("harrowmere-lock.json", "P-12")().of(REPLACEMENT).turns
    found = {
        "old, r/min": turns.old_rpm, "new, r/min": turns.new_rpm, "power, times": turns.new_w / turns.old_w,
        "saved at the old speed": turns.same_speed_kwh, "saved in truth": turns.saved_kwh,
    }  # fmt: skip
    lifts = {"load.kind": "pump-static", "load.static": "60 %", "load.breakaway": None}
    static = whole("harrowmere-lock.json", "P-12")(lifts).of(REPLACEMENT)
    moved = re.search(r"([+-][\d.]+) % flow", next(one.text for one in static.rows if one.key == "speed"))
    found |= {
        "static: old, r/min": static.turns.old_rpm, "static: new, r/min": static.turns.new_rpm,
        "static: power, times": static.turns.new_w / static.turns.old_w, "static: flow, times": 1 + float(moved[1]) / 100,
    }  # fmt: skip
    assert found.keys() == by_hand.keys()
    for key, value in found.items():
        wanted, within = by_hand[key]
        assert value == pytest.approx(wanted, rel=within), key
    stirrer = {one.key: one.fits for one in whole("harrowmere-lock.json", "M-41")().of(REPLACEMENT).rows}
    assert stirrer["listing"] is Fits.NOT
    assert stirrer["power"] is Fits.SAME
    compressor = {one.key: one for one in whole("harrowmere-lock.json", "C-71")().of(REPLACEMENT).rows}
    assert (compressor["at_rest"].old, compressor["at_rest"].new) == ("154 A", "196 A")
    assert "from 0.875 in" in compressor["frame"].task


def test_what_it_is_made_of_is_the_lock():
    """After a change of the lock: `tools/sbom`. Licences are what the installed packages say, and not compared."""
    found = packages((ROOT / "requirements.lock").read_text())
    made = json.loads((ROOT / "docs/sbom.json").read_text())
    listed = {(one["name"], one["version"]): one for one in made["components"]}
    assert len(found) > 40
    for one in found:
        part = listed.pop((one.name, one.version))
        assert [digest["content"] for digest in part["hashes"]] == list(one.digests)
        assert f"| {one.name} | {one.version} |" in (ROOT / "docs/licences.md").read_text()
    vendor = {file.name for file in (ROOT / "src/vinegate/web/static/vendor").iterdir()}
    assert {name for name, _ in listed} == {"bulma", "idiomorph", "IBM Plex Sans"}
    assert all(f"{name}-{version}" in " ".join(vendor) for name, version in listed if name in ("bulma", "idiomorph"))
    assert made["metadata"]["component"]["version"] == __version__
