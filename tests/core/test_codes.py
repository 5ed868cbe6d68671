"""What the codes on a plate say."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from vinegate.core.codes import KIND_NAMES, decode
from vinegate.core.shelf import shelf
from vinegate.core.tables import load


def said(question):
    return " | ".join(f"{meaning.part}: {meaning.text}" for meaning in shelf(question))


@pytest.mark.parametrize(
    ("question", "words"),
    [
        ("what does 256TCZ mean", ["shaft height 6.25 in", "C-face and a shaft that is not standard"]),
        ("143T", ["shaft height 3.5 in"]),  # 14 ÷ 4
        ("405T", ["shaft height 10 in"]),
        ("56C", ["shaft height 3.5 in", "C-face"]),  # 56 ÷ 16, a NEMA number though 56 mm exists too
        ("frame 48", ["shaft height 3 in"]),
        ("256QQ", ["shaft height 6.25 in", "suffix not in the standard's list"]),
        ("225M", ["shaft height 225 mm", "medium"]),
        ("112M", ["shaft height 112 mm"]),
        ("IP55 IC411", ["dust may enter", "jets from any side", "own fan blows over the surface"]),
        ("IP6X", ["no dust enters", "not stated"]),
        # 6.3 and 7.1 kVA/hp · 15 hp / (√3 · 230 V): the band at rest
        ("code H at 15 hp 230 V", ["6.3 to below 7.1 kVA/hp", "237 to 267 A", "three-phase"]),
        ("code H 5 hp 230 V single-phase", ["137 to 154 A", "single-phase"]),
        ("code letter V", ["22.4 kVA/hp and more"]),
        ("class F insulation", ["155 °C"]),
        ("design D", ["high slip"]),
        ("T3C", ["160 °C"]),
        ("S3 40 %", ["intermittent periodic", "40 % of each cycle"]),
        ("60 MIN", ["60 minutes"]),
        ("1/2 HR", ["30 minutes"]),
        ("40 % ED", ["intermittent periodic", "40 % of each cycle"]),
        ("161-193 MFD 250 VAC", ["start capacitor", "same µF"]),
        ("30 µF 370 V", ["run capacitor"]),
        ("CCW ODE", ["opposite the drive"]),
        ("TEFC", ["not flame-proof"]),  # an enclosure is no explosion protection
        ("thermal AUTO", ["may restart without warning"]),
        ("IM B35", ["feet and flange"]),
        ("IM 3611", ["tapped holes, shaft vertical down"]),
        ("IC 0141", ["own fan blows"]),
        ("TP 211", ["slow warming", "switches off", "category 1"]),
        ("no thermal protection", ["the starter must protect"]),
    ],
)
def test_shelf(question, words):
    answer = said(question)
    for part in words:
        assert part in answer, answer


PLATE = {
    "frame": "FR 256T",
    "insulation": "INS CL F",
    "design": "DES B",
    "letter": "CODE G",
    "ip": "IP 55",
    "cooling": "IC 411",
    "mounting": "IM 1001",
    "duty": "S3 40 % 10 min",
    "efficiency": "IE3",
    "enclosure": "drip proof",
    "thermal": "TP 211",
    "rotation": "CW ODE",
    "capacitor": "161-193 MFD 250 V",
    "marking": "Ex db IIC T4 Gb",
}


@pytest.mark.slow
@given(st.permutations(sorted(PLATE)))
def test_a_code_says_the_same_whatever_stands_beside_it(order):
    alone = {(meaning.kind, meaning.text) for code in PLATE.values() for meaning in shelf(code)}
    assert {kind for kind, _ in alone} == set(PLATE)
    assert {(one.kind, one.text) for one in shelf(" ".join(PLATE[kind] for kind in order))} == alone


def test_what_is_no_part_of_a_marking_is_said_where_it_stands():
    assert "Gbb: not understood" in said("Ex db IIC T4 Gbb")
    assert "not understood" not in said("CL I GP D T3C INS F 1/2 HR XP")
    assert "not understood" not in said("what does Ex eb IIC T3 Gb mean?")
    assert "S1: continuous" in said("Class I Div 1 Groups C & D S1 T3C")
    assert "10 minutes: in cycles of 10 minutes" in said("S3 40 % 10 min")


@pytest.mark.parametrize(
    "question",
    [
        "",
        "zzz",
        "F",
        "hello world",
        "IP99",
        "T9",
        "IC99999",
        "S12",
        "999T",
        "15 hp",
        "94.2 %",
        "3 h",
        "no blower, high slip",
    ],
)
def test_what_is_no_code_is_not_explained(question):
    assert shelf(question) == ()


def test_an_enclosed_motor_is_never_called_explosion_proof():
    for code in ("TEFC", "TENV", "TEAO", "TEBC"):
        assert "not flame-proof" in decode("enclosure", code)[0].text
    assert "of its listing only" in decode("enclosure", "XP")[0].text


@given(st.text(max_size=30))
def test_any_text_is_answered(text):
    shelf(text)
    for kind in KIND_NAMES:
        decode(kind, text)


def test_every_listed_code_is_decoded_as_written():
    for row in load("codes").rows:
        if row["kind"] != "suffix":
            assert decode(row["kind"], row["code"])[0].text == row["meaning"], row


def test_temperature_codes_fall_in_order():
    limits = [int(row["meaning"].split()[-2]) for row in load("codes").rows if row["kind"] == "tcode"]
    assert limits == sorted(limits, reverse=True)
    assert limits == [450, 300, 280, 260, 230, 215, 200, 180, 165, 160, 135, 120, 100, 85]


def test_insulation_rises_leave_room_under_the_limit():
    """Limit less 40 °C ambient less rise is the hot-spot allowance: 5 to 15 K (IEC 60085)."""
    for row in load("codes").rows:
        if row["kind"] == "insulation":
            limit, rise = [int(word) for word in row["meaning"].split() if word.isdigit()][:2]
            assert 5 <= limit - 40 - rise <= 15, row["code"]


def test_shaft_heights_are_every_step_of_the_series():
    """ISO 3 R20 from 56 mm to 450 mm, each 10^(1/20) of the last: IEC 60072-1 has 132 in place of its 125 and 140."""
    series = [56 * 10 ** (step / 20) for step in range(19)]
    known = [
        height
        for height in range(50, 460)
        if f"shaft height {height} mm" in [m.text for m in decode("frame", f"{height}L")]
    ]
    assert [at for at in series if min(abs(at / height - 1) for height in known) > 0.02] == pytest.approx(
        [series[7], series[8]]
    )
    assert (len(known), 132 in known) == (18, True)
