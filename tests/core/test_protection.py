import pytest

from tests.conftest import planner
from vinegate.core.grade import Verdict


@pytest.mark.parametrize(
    ("changes", "normal", "ceiling"),
    [
        # NFPA 70 430.32(A)(1) and (C), plate FLA 92 A
        ({"plate.service_factor": "1.15"}, 115.0, 128.8),
        ({"plate.service_factor": "1.25"}, 115.0, 128.8),
        ({"plate.service_factor": "1.0"}, 105.8, 119.6),
        ({"plate.service_factor": "1.0", "plate.temperature_rise": "40 °C"}, 115.0, 128.8),
        ({"plate.service_factor": "1.0", "plate.temperature_rise": "50 °C"}, 105.8, 119.6),
        ({"plate.service_factor": None}, 105.8, 119.6),
    ],
)
def test_nec_overload(p11, changes, normal, ceiling):
    plan = p11(changes)
    assert plan.figure("overload.normal").value == pytest.approx(normal)
    assert plan.figure("overload.ceiling").value == pytest.approx(ceiling)


def test_without_service_factor_the_lower_percentage_is_an_assumption(p11):
    plan = p11({"plate.service_factor": None})
    assert plan.figure("overload.normal").provenance == "assumed"
    assert "plate.service_factor" in [missing.path for missing in plan.missing]


def test_iec_overload_is_set_to_the_rated_current(h1):
    plan = h1()
    assert plan.figure("overload.normal").value == 81
    assert plan.figure("overload.holds").value == pytest.approx(81 * 1.05)
    assert plan.figure("overload.trips").value == pytest.approx(81 * 1.2)
    assert plan.figure("overload.in_delta").value == pytest.approx(81 / 3**0.5)
    assert plan.figure("overload.ceiling") is None


def test_relay_in_the_delta_only_where_there_is_one(p11):
    assert p11({"plate.leads": "3"}).figure("overload.in_delta") is None


@pytest.mark.parametrize(
    ("changes", "r", "x"),
    [
        # table 9, 1/0 copper in steel: 0.12 and 0.055 Ω/kft; 62 m = 203.41 ft
        ({}, 0.12 * 203.412, 0.055 * 203.412),
        ({"wiring.sets": "2"}, 0.06 * 203.412, 0.0275 * 203.412),
        ({"wiring.raceway": "pvc"}, 0.12 * 203.412, 0.044 * 203.412),
        ({"wiring.metal": "aluminum"}, 0.20 * 203.412, 0.055 * 203.412),
        ({"wiring.size": "500 MCM", "wiring.length": "1000 ft"}, 29, 48),
    ],
)
def test_nec_run(p11, changes, r, x):
    plan = p11(changes)
    assert plan.figure("wiring.r").value == pytest.approx(r, rel=1e-5)
    assert plan.figure("wiring.x").value == pytest.approx(x, rel=1e-5)


def test_iec_run(h1):
    """35 mm² copper: 0.524 Ω/km at 20 °C, 1.25 × warm, 75 m: 49.1 mΩ; 0.08 mΩ/m: 6 mΩ."""
    plan = h1()
    assert plan.figure("wiring.r").value == pytest.approx(0.524 * 1.25 * 75)
    assert plan.figure("wiring.x").value == pytest.approx(6.0)


@pytest.mark.parametrize(("rules_of", "size"), [("p11", "35 mm²"), ("h1", "1/0 AWG")])
def test_a_size_of_the_other_table_is_named_as_missing(request, rules_of, size):
    plan = request.getfixturevalue(rules_of)({"wiring.size": size})
    assert plan.figure("wiring.r") is None
    assert any(size in missing.label for missing in plan.missing)


def test_aluminium_14_awg_is_not_tabulated(p11):
    plan = p11({"wiring.size": "14", "wiring.metal": "aluminium"})
    assert plan.figure("wiring.r") is None
    assert any("aluminium" in missing.label for missing in plan.missing)


@pytest.mark.parametrize(
    ("name", "key", "path", "text"),
    [
        ("p11", "disconnect", "protection.disconnect", "400 A"),
        ("p11", "device", "protection.rating", "150 A"),
        ("p11", "conductors", "wiring.size", "2/0 AWG"),
        ("p11", "grounding", "wiring.ground_size", "1/0 AWG"),
        ("h1", "disconnect", "protection.disconnect", "250 A"),
        ("h1", "device", "protection.rating", "125 A"),
        ("h1", "conductors", "wiring.size", "70 mm²"),
        ("h1", "grounding", "wiring.ground_size", "35 mm²"),
    ],
)
def test_what_is_advised_is_offered_where_another_is_fitted_and_only_there(name, key, path, text, p11, h1):
    plan = {"p11": p11, "h1": h1}[name]
    advised = plan({path: None}).protected.device(key).advised
    other, same = (plan({path: size}).protected.device(key) for size in (text, advised))
    assert (other.take, other.path) == (advised, path)
    assert (same.take, same.chosen) == ("", advised)


@pytest.mark.parametrize(
    ("job", "tag", "changes"),
    [("skerry-sound.json", "H-1", {"start.method": "full-voltage"}),  # volts at the terminals as it starts
     ("skerry-sound.json", "F-3", {}),  # bearing a fault
     ("harrowmere-lock.json", "P-11", {"wiring.length": "300 m"}), ("harrowmere-lock.json", "C-71", {})],
)  # fmt: skip
@pytest.mark.parametrize("said", [None, "other"])
def test_the_size_that_is_advised_before_one_is_laid_is_advised_of_it_too(job, tag, changes, said):
    """Once the advice came in two steps: taken, it asked for a larger one."""
    plan = planner(job, tag)
    wrong = "14 AWG" if job.startswith("skerry") else "2.5 mm²"
    advised = plan(changes | {"wiring.size": said and wrong}).protected.device("conductors")
    there = plan(changes | {"wiring.size": advised.take}).protected.device("conductors")
    assert (there.advised, there.asked, there.take) == (advised.advised, advised.asked, "")


def test_a_size_of_the_other_system_is_not_known_ahead_of_a_drive_either():
    plan = planner("skerry-sound.json", "F-3")({"wiring.size": "6 AWG"})
    assert plan.gate("protection.drive_input").verdict is Verdict.UNKNOWN
