"""The tables entered a second time, by column and in other units where the standard's structure allows, and compared."""

import pytest

from vinegate.core.tables import load


def column(name, key, by):
    table = load(name)
    return {row[by]: table.number(row, key) for row in table.rows if row[key]}


def numbers(text):
    return [float(word) for word in text.split()]


def test_code_letters():
    """By upper ends, A to U; V is open."""
    ends = numbers("3.15 3.55 4 4.5 5 5.6 6.3 7.1 8 9 10 11.2 12.5 14 16 18 20 22.4")
    assert list(column("code_letter", "to_kva_per_hp", "letter").values()) == ends
    assert list(column("code_letter", "from_kva_per_hp", "letter").values()) == [0, *ends]


SIZES = [
    "14",
    "12",
    "10",
    "8",
    "6",
    "4",
    "3",
    "2",
    "1",
    "1/0",
    "2/0",
    "3/0",
    "4/0",
    "250",
    "300",
    "350",
    "400",
    "500",
    "600",
    "750",
    "1000",
]


# Ohms to neutral per kilometre, as the table's other half has them: 3.28 kft to the kilometre, rounded to two digits.
PER_KM = {
    "x_pvc_or_aluminium": "0.190 0.177 0.164 0.171 0.167 0.157 0.154 0.148 0.151 0.144 0.141 0.138 0.135 0.135 0.135 0.131 0.131 0.128 0.128 0.125 0.121",
    "x_steel": "0.240 0.223 0.207 0.213 0.210 0.197 0.194 0.187 0.187 0.180 0.177 0.171 0.167 0.171 0.167 0.164 0.161 0.157 0.157 0.157 0.151",
    "r_cu_pvc": "10.2 6.6 3.9 2.56 1.61 1.02 0.82 0.62 0.49 0.39 0.33 0.253 0.203 0.171 0.144 0.125 0.108 0.089 0.075 0.062 0.049",
    "r_cu_aluminium": "10.2 6.6 3.9 2.56 1.61 1.02 0.82 0.66 0.52 0.43 0.33 0.269 0.220 0.187 0.161 0.141 0.125 0.105 0.092 0.079 0.062",
    "r_cu_steel": "10.2 6.6 3.9 2.56 1.61 1.02 0.82 0.66 0.52 0.39 0.33 0.259 0.207 0.177 0.148 0.128 0.115 0.095 0.082 0.069 0.059",
    "r_al_pvc": "10.5 6.6 4.3 2.66 1.67 1.31 1.05 0.82 0.66 0.52 0.43 0.33 0.279 0.233 0.200 0.177 0.141 0.118 0.095 0.075",
    "r_al_aluminium": "10.5 6.6 4.3 2.66 1.67 1.35 1.05 0.85 0.69 0.52 0.43 0.36 0.295 0.249 0.217 0.194 0.157 0.135 0.112 0.089",
    "r_al_steel": "10.5 6.6 4.3 2.66 1.67 1.31 1.05 0.82 0.66 0.52 0.43 0.33 0.282 0.236 0.207 0.180 0.148 0.125 0.102 0.082",
}


@pytest.mark.parametrize("key", PER_KM)
def test_conductors_per_kilometre(key):
    entered = column("conductor_nec", key, "size")
    per_km = dict(
        zip(
            SIZES if "al_" not in key or key.startswith("x") or "cu" in key else SIZES[1:],
            numbers(PER_KM[key]),
            strict=True,
        )
    )
    assert [size.split()[0] for size in entered] == list(per_km)
    for size, value in entered.items():
        assert value * 3.281 == pytest.approx(per_km[size.split()[0]], rel=0.03), size


def test_iec_conductors_by_area():
    areas = numbers("1.5 2.5 4 6 10 16 25 35 50 70 95 120 150 185 240 300 400 500 630")
    copper = numbers(
        "12.1 7.41 4.61 3.08 1.83 1.15 .727 .524 .387 .268 .193 .153 .124 .0991 .0754 .0601 .047 .0366 .0283"
    )
    aluminium = numbers("3.08 1.91 1.2 .868 .641 .443 .32 .253 .206 .164 .125 .1 .0778 .0605 .0469")
    assert [float(size.split()[0]) for size in column("conductor_iec", "r_copper", "size")] == areas
    assert list(column("conductor_iec", "r_copper", "size").values()) == copper
    assert list(column("conductor_iec", "r_aluminium", "size").values()) == aluminium


FULL_LOAD = {
    "115": "4.4 6.4 8.4 12 13.6",
    "200": "2.5 3.7 4.8 6.9 7.8 11 17.5 25.3 32.2 48.3 62.1 78.2 92 120 150 177 221 285 359 414 552",
    "208": "2.4 3.5 4.6 6.6 7.5 10.6 16.7 24.2 30.8 46.2 59.4 74.8 88 114 143 169 211 273 343 396 528",
    "230": "2.2 3.2 4.2 6 6.8 9.6 15.2 22 28 42 54 68 80 104 130 154 192 248 312 360 480",
    "460": "1.1 1.6 2.1 3 3.4 4.8 7.6 11 14 21 27 34 40 52 65 77 96 124 156 180 240 302 361 414 477 515 590",
    "575": ".9 1.3 1.7 2.4 2.7 3.9 6.1 9 11 17 22 27 32 41 52 62 77 99 125 144 192 242 289 336 382 412 472",
}


@pytest.mark.parametrize("volts", FULL_LOAD)
def test_full_load_currents_by_volts(volts):
    assert list(column("full_load_current_3ph", volts, "hp").values()) == numbers(FULL_LOAD[volts])


def test_locked_rotor_limits_at_460_volts():
    """Half the amperes at twice the volts, as NFPA 70 table 430.251(B) prints them, rounded there to whole amperes."""
    at_460 = numbers(
        "10 12.5 15 20 25 32 46 63.5 81 116 145 183 218 290 363 435 543 725 908 1085 1450 1825 2200 2550 2900 3250 3625"
    )
    for (hp, value), printed in zip(column("locked_rotor_nema", "amps_230", "hp").items(), at_460, strict=True):
        assert value / 2 == pytest.approx(printed, abs=0.6), hp


START = {
    2: "1.5 175, 2 170, 3 160, 5 150, 7.5 140, 10 135, 15 130, 20 130, 25 130, 30 130, 40 125, 50 120, 60 120, 75 105, 100 105, 125 100, 150 100, 200 100, 250 70, 300 70, 350 70, 400 70, 450 70, 500 70",
    4: "1 275, 1.5 250, 2 235, 3 215, 5 185, 7.5 175, 10 165, 15 160, 20 150, 25 150, 30 150, 40 140, 50 140, 60 140, 75 140, 100 125, 125 110, 150 110, 200 100, 250 80, 300 80, 350 80, 400 80, 450 80, 500 80",
    6: "0.75 175, 1 170, 1.5 165, 2 160, 3 155, 5 150, 7.5 150, 10 150, 15 140, 20 135, 25 135, 30 135, 40 135, 50 135, 60 135, 75 135, 100 125, 125 125, 150 120, 200 120, 250 100, 300 100, 350 100",
    8: "0.5 140, 0.75 135, 1 135, 1.5 130, 2 130, 3 130, 5 130, 7.5 125, 10 125, 15 125, 20 125, 25 125, 30 125, 40 125, 50 125, 60 125, 75 125, 100 125, 125 120, 150 120, 200 120, 250 100",
}


@pytest.mark.parametrize("poles", START)
def test_least_locked_rotor_torques_by_poles(poles):
    entered = column("torque_nema_ab", f"lrt_{poles}", "hp")
    assert entered == {pair.split()[0]: float(pair.split()[1]) for pair in START[poles].split(",")}


@pytest.mark.parametrize(
    ("poles", "falls"),
    [
        # horsepower from which the least breakdown torque is this percentage
        (2, "1.5 250, 2 240, 3 230, 5 215, 7.5 200, 250 175"),
        (4, "1 300, 1.5 280, 2 270, 3 250, 5 225, 7.5 215, 10 200, 250 175"),
        (6, "0.75 275, 1 265, 1.5 250, 2 240, 3 230, 5 215, 7.5 205, 10 200, 250 175"),
        (8, "0.5 225, 0.75 220, 1 215, 1.5 210, 3 205, 7.5 200, 250 175"),
    ],
)
def test_least_breakdown_torques_by_steps(poles, falls):
    steps = [(float(pair.split()[0]), float(pair.split()[1])) for pair in falls.split(",")]
    for hp, value in column("torque_nema_ab", f"bdt_{poles}", "hp").items():
        assert value == [percent for start, percent in steps if float(hp) >= start][-1], hp


FEET_NEMA = """143T 3.5 5.5 4 .875 2.25 · 145T 3.5 5.5 5 .875 2.25 · 182T 4.5 7.5 4.5 1.125 2.75 · 184T 4.5 7.5 5.5 1.125 2.75
213T 5.25 8.5 5.5 1.375 3.375 · 215T 5.25 8.5 7 1.375 3.375 · 254T 6.25 10 8.25 1.625 4 · 256T 6.25 10 10 1.625 4
284T 7 11 9.5 1.875 4.625 · 286T 7 11 11 1.875 4.625 · 324T 8 12.5 10.5 2.125 5.25 · 326T 8 12.5 12 2.125 5.25
364T 9 14 11.25 2.375 5.875 · 365T 9 14 12.25 2.375 5.875 · 404T 10 16 12.25 2.875 7.25 · 405T 10 16 13.75 2.875 7.25
444T 11 18 14.5 3.375 8.5 · 445T 11 18 16.5 3.375 8.5 · 447T 11 18 20 3.375 8.5"""
FEET_IEC = """80 80 125 100 19 40 · 90S 90 140 100 24 50 · 90L 90 140 125 24 50 · 100L 100 160 140 28 60 · 112M 112 190 140 28 60
132S 132 216 140 38 80 · 132M 132 216 178 38 80 · 160M 160 254 210 42 110 · 160L 160 254 254 42 110 · 180M 180 279 241 48 110
180L 180 279 279 48 110 · 200L 200 318 305 55 110 · 225S 225 356 286 60 140 · 225M 225 356 311 60 140 · 250M 250 406 349 65 140
280S 280 457 368 75 140 · 280M 280 457 419 75 140 · 315S 315 508 406 80 170"""


@pytest.mark.parametrize("text", [FEET_NEMA, FEET_IEC], ids=["inches", "millimetres"])
def test_frames_by_their_feet(text):
    table = load("frame_dimension")
    for line in text.replace("\n", " · ").split(" · "):
        name, *values = line.split()
        kept = table.find(frame=name)
        columns = ("height", "across", "along", "shaft", "length")
        assert [table.number(kept, one) for one in columns] == [float(one) for one in values], name


def test_the_height_names_the_frame():
    """The first two figures of an inch frame are four times its height (MG 1 4.2), a metric one's are its height."""
    for kept in load("frame_dimension").rows:
        digits = "".join(mark for mark in kept["frame"] if mark.isdigit())
        if kept["unit"] == "mm":
            assert float(kept["height"]) == float(digits), kept["frame"]
        elif len(digits) > 2:
            assert 4 * float(kept["height"]) == float(digits[:2]), kept["frame"]
        else:
            assert 16 * float(kept["height"]) == float(digits), kept["frame"]
