"""What must hold of every table: it states its source, is contiguous or monotonic, and agrees with known constants."""

import itertools
from importlib import resources

import pytest

from vinegate.core.tables import load

NAMES = sorted(
    path.name.removesuffix(".csv")
    for path in resources.files("vinegate.core.tables").iterdir()
    if path.name.endswith(".csv")
)


@pytest.mark.parametrize("name", NAMES)
def test_states_its_source_and_fills_its_columns(name):
    table = load(name)
    assert table.standard
    assert table.edition
    assert table.source
    assert table.rows
    assert all(None not in row and None not in row.values() for row in table.rows)


def test_papers_of_one_table_are_cited_each_with_its_own_year():
    assert load("motor_enclosure").cite.startswith("NEMA MG 1:2021; IEC 60034-5:2020; IEC 60034-6:1991; enclosures")
    codes = "NFPA 70:2023 table 500.8(C)(4); IEC 60079-0:2017 table 2 of temperature classes"
    assert load("temperature_code").cite == codes
    for name in NAMES:
        table = load(name)
        for paper, year in zip(table.standard.split("; "), table.edition.split("; "), strict=True):
            assert f"{paper}:{year}" in table.cite
            assert "," not in paper or "rows" in year or "row" in year, name


def column(name, key):
    table = load(name)
    return [value for row in table.rows if (value := table.number(row, key)) is not None]


def test_code_letters_are_contiguous_and_skip_i_o_q():
    rows = load("code_letter").rows
    assert "".join(row["letter"] for row in rows) == "ABCDEFGHJKLMNPRSTUV"
    for row, following in itertools.pairwise(rows):
        assert row["to_kva_per_hp"] == following["from_kva_per_hp"]
    assert rows[-1]["to_kva_per_hp"] == ""


def test_code_letter_steps_follow_the_preferred_numbers():
    """From D up the bands follow the R20 series of ISO 3 (one in two, rounded): each step is 9 to 15 %."""
    edges = column("code_letter", "to_kva_per_hp")
    assert all(1.09 < high / low < 1.15 for low, high in itertools.pairwise(edges))


@pytest.mark.parametrize(
    ("name", "columns"),
    [
        (
            "conductor_nec",
            [f"r_{metal}_{raceway}" for metal in ("cu", "al") for raceway in ("pvc", "aluminium", "steel")],
        ),
        ("conductor_iec", ["r_copper", "r_aluminium"]),
    ],
)
def test_resistance_falls_with_size(name, columns):
    for key in columns:
        values = column(name, key)
        assert values == sorted(values, reverse=True)
        assert len(values) == len(set(values))


def circular_mils(size):
    number, unit = size.split()
    if unit == "kcmil":
        return float(number) * 1000
    gauge = 1 - int(number[0]) if number.endswith("/0") else int(number)
    return 1000 * (5 * 92 ** ((36 - gauge) / 39)) ** 2 / 1000


def test_nec_resistance_agrees_with_the_metal():
    """Copper 12.9, aluminium 21.2 Ω·cmil/ft at 75 °C, plus 0 to 10 % for stranding, rounding to two digits and,
    at the largest sizes, skin and proximity effect (up to 60 % in steel)."""
    table = load("conductor_nec")
    for row in table.rows:
        cmil = circular_mils(row["size"])
        for key, rho in (("r_cu_pvc", 12.9), ("r_al_pvc", 21.2)):
            value = table.number(row, key)
            if value is not None:
                assert 0.93 < value / (1000 * rho / cmil) < (1.08 if cmil < 400e3 else 1.25), (row["size"], key)


def test_steel_raceway_adds_a_quarter_to_reactance():
    table = load("conductor_nec")
    for row in table.rows:
        ratio = table.number(row, "x_steel") / table.number(row, "x_pvc_or_aluminium")
        assert 1.22 <= ratio <= 1.28, row["size"]


def test_iec_resistance_agrees_with_the_metal():
    """Copper 17.241, aluminium 28.264 Ω·mm²/km over the nominal area, within what IEC 60228 allows for make."""
    table = load("conductor_iec")
    for row in table.rows:
        area = float(row["size"].split()[0])
        assert 1.0 < table.number(row, "r_copper") * area / 17.241 < 1.13, row["size"]
        aluminium = table.number(row, "r_aluminium")
        if aluminium is not None:
            assert 1.0 < aluminium * area / 28.264 < 1.14, row["size"]


def test_apparent_power_limits_are_contiguous_and_fall():
    rows = load("locked_rotor_apparent_power").rows
    for row, following in itertools.pairwise(rows):
        assert row["to_kw"] == following["above_kw"]
        assert float(row["kva_per_kw"]) > float(following["kva_per_kw"])


def test_full_load_currents_rise_with_power_and_fall_with_volts():
    table = load("full_load_current_3ph")
    for volts in table.columns[1:]:
        values = column("full_load_current_3ph", volts)
        assert values == sorted(values)
    for row in table.rows:
        across = [value for volts in table.columns[1:] if (value := table.number(row, volts)) is not None]
        assert across == sorted(across, reverse=True)


def test_full_load_currents_are_inverse_to_volts():
    """The table's columns are one set of motors at different volts: amperes times volts agree within rounding."""
    table = load("full_load_current_3ph")
    for row in table.rows:
        at_230, at_460 = table.number(row, "230"), table.number(row, "460")
        if at_230 and at_460:
            assert at_230 / at_460 == pytest.approx(2, abs=0.12), row["hp"]


@pytest.mark.parametrize("name", ["torque_nema_ab", "torque_nema_c"])
def test_torques_never_rise_with_power(name):
    table = load(name)
    for key in table.columns[1:]:
        values = column(name, key)
        assert values == sorted(values, reverse=True), key


def test_breakdown_is_never_below_locked_rotor_torque_from_two_horsepower():
    table = load("torque_nema_ab")
    for row in table.rows:
        for poles in (2, 4, 6, 8):
            start, top = table.number(row, f"lrt_{poles}"), table.number(row, f"bdt_{poles}")
            if start is not None and top is not None:
                assert top >= start, (row["hp"], poles)


def test_locked_rotor_limits_are_about_six_and_a_half_times_the_table_current():
    """NFPA 70 uses six times full-load current in 430.110; MG 1's limit lies at 5.3 to 9 times, higher for small motors."""
    table, currents = load("locked_rotor_nema"), load("full_load_current_3ph")
    for row in table.rows:
        hp = currents.find(hp=row["hp"])
        at_230 = currents.number(hp, "230") or 2 * currents.number(hp, "460")
        assert 5.3 < table.number(row, "amps_230") / at_230 < 9.2, row["hp"]


def test_iec_torques_are_contiguous_and_breakdown_is_above_the_start():
    rows = load("torque_iec_n").rows
    for row, following in itertools.pairwise(rows):
        assert row["to_kw"] == following["above_kw"]
    for row in rows:
        assert all(float(row[f"b_{p}"]) >= float(row[f"l_{p}"]) for p in (2, 4, 6, 8)), row
