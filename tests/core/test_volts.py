import pytest

from tests.conftest import planner
from vinegate.core.numbers import QuantityError
from vinegate.core.plate.volts import Winding, read_amps, read_volts
from vinegate.core.supply.facts import read_fault_level, read_x_over_r
from vinegate.core.system_volts import read_system_volts
from vinegate.core.wiring.facts import Wiring


@pytest.mark.parametrize(
    ("text", "connections"),
    [
        ("460", [(460, 460, "")]),
        ("230/460 V", [(230, 230, ""), (460, 460, "")]),
        ("115/230", [(115, 115, ""), (230, 230, "")]),  # order is kept: as it leaves the factory
        ("230/115", [(230, 230, ""), (115, 115, "")]),
        ("208-230/460", [(208, 230, ""), (460, 460, "")]),  # a hyphen is one connection's range
        ("400Δ/690Y", [(400, 400, "delta"), (690, 690, "wye")]),
        ("400 D / 690 Y V", [(400, 400, "delta"), (690, 690, "wye")]),
        ("230 V Δ / 400 V Y", [(230, 230, "delta"), (400, 400, "wye")]),
        ("380-415Δ/660-690Y", [(380, 415, "delta"), (660, 690, "wye")]),
        ("0.4 kV", [(400, 400, "")]),
        ("Δ400/Y690", [(400, 400, "delta"), (690, 690, "wye")]),  # signs ahead of each
        ("Y 400 / △ 230 V", [(400, 400, "wye"), (230, 230, "delta")]),
        ("Star 690 / Delta 400", [(690, 690, "wye"), (400, 400, "delta")]),
        ("400 V (Δ)", [(400, 400, "delta")]),
        ("400 volts star", [(400, 400, "wye")]),
        ("230YY/460Y", [(230, 230, "wye"), (460, 460, "wye")]),  # halves in parallel
        ("AC 400V +/-10 %", [(400, 400, "")]),
        ("460-3-60", [(460, 460, "")]),
        ("208-230/460-3-60", [(208, 230, ""), (460, 460, "")]),
        ("400/690", [(400, 400, "delta"), (690, 690, "wye")]),  # √3 apart: one winding in delta and in wye
        ("400/230", [(400, 400, "wye"), (230, 230, "delta")]),
        ("415/690", [(415, 415, "delta"), (690, 690, "wye")]),
        ("220-240/380-415", [(220, 240, "delta"), (380, 415, "wye")]),
        ("230/400/460/800", [(230, 230, "delta"), (400, 400, "wye"), (460, 460, "delta"), (800, 800, "wye")]),
        ("230/400/460", [(230, 230, ""), (400, 400, ""), (460, 460, "")]),  # one has no partner: nothing is told
        ("240/480", [(240, 240, ""), (480, 480, "")]),
        ("200/360", [(200, 200, "delta"), (360, 360, "wye")]),
        ("200/365", [(200, 200, ""), (365, 365, "")]),
        ("400Y/690", [(400, 400, "wye"), (690, 690, "")]),  # what is marked is left as it is
    ],
)
def test_designation(text, connections):
    found = read_volts(text)
    assert [(c.low_v, c.high_v, str(c.winding)) for c in found.connections] == connections


def test_usable_at_is_not_a_connection():
    found = read_volts("230/460 V, usable at 208 V")
    assert [c.text for c in found.connections] == ["230", "460"]
    assert found.usable_at_v == (208,)
    assert found.usable(208)
    assert not found.usable(240)


@pytest.mark.parametrize("text", ["460-230", "abc", "/", "230-400-460", "12/24"])
def test_designation_refused(text):
    with pytest.raises(QuantityError):
        read_volts(text)


def test_nearest_connection_by_share_of_its_volts():
    found = read_volts("230/460")
    assert found.nearest(480)[1].text == "460"
    assert found.nearest(240)[1].text == "230"
    assert read_volts("208-230/460").nearest(215)[1].deviation_pu(215) == 0
    assert read_volts("230").nearest(208)[1].deviation_pu(208) == pytest.approx(-22 / 230)
    assert read_volts("400Δ").connections[0].winding is Winding.DELTA


def test_amperes_follow_the_volts():
    volts, amps = read_volts("208-230/460"), read_amps("9.2-8.4/4.2 A")
    low, high = volts.connections
    assert amps.at(0, low, 208, 2) == 9.2
    assert amps.at(0, low, 230, 2) == 8.4
    assert amps.at(1, high, 460, 2) == 4.2
    assert read_amps("1/2/3").at(0, low, 208, 2) is None  # three values for two voltages cannot be placed


@pytest.mark.parametrize("text", ["81/47", "81 A / 47 A", "Δ81/Y47", "81Δ/47Y A", "81 A (Δ) / 47 A (Y)"])
def test_amperes_as_plates_have_them(text):
    assert read_amps(text).per_connection_a == ((81,), (47,))


@pytest.mark.parametrize(("text", "volts"), [("480Y/277", 480), ("400/230 V", 400), ("0.4 kV", 400), ("277/480", 480)])
def test_system_volts_are_line_to_line(text, volts):
    assert read_system_volts(text) == volts


@pytest.mark.parametrize(
    ("text", "line", "neutral", "kind"),
    [
        ("120/240", 240, 120, "split"),
        ("240/120 V 1φ 3W", 240, 120, "split"),
        ("240/120 high-leg", 240, 120, "high-leg"),
        ("240Δ/120", 240, 120, "high-leg"),
        ("240/120 3Ø 4W delta", 240, 120, "high-leg"),
        ("480Y277", 480, 277, "wye"),
        ("240D", 240, None, ""),
        ("400 V 3N~", 400, 400 / 3**0.5, ""),
        ("240 V 1PH 3W", 240, 120, "split"),
        ("208Y/120", 208, 120, "wye"),
        ("400/230", 400, 230, "wye"),
        ("3N~ 400/230 V 50 Hz", 400, 230, "wye"),
        ("480Y/277 VAC, 3PH 4W", 480, 277, "wye"),
        ("480 V delta", 480, None, ""),
        ("480Δ, 3 wire", 480, None, ""),
        ("240/120 V 4 wire", 240, 120, "high-leg"),
        ("240 V delta, 4 wire", 240, 120, "high-leg"),
        ("240 V delta, 3PH 4W", 240, 120, "high-leg"),
        ("240Δ 4-wire, three phase", 240, 120, "high-leg"),
        ("240 V delta, 3PH 3W", 240, None, ""),
    ],
)
def test_systems_with_a_neutral(text, line, neutral, kind):
    found = read_system_volts(text)
    assert (float(found), found.neutral_v, found.kind) == (line, neutral, kind)


def test_a_neutral_is_a_difference_of_systems_and_none_of_numbers():
    plain, split = read_system_volts("240"), read_system_volts("120/240")
    assert plain != split
    assert not plain == split  # noqa: SIM201 - both signs are asked
    assert not split != read_system_volts("240/120 V 1φ 3W")  # noqa: SIM202
    assert plain == split + 0.0 == 240.0


@pytest.mark.parametrize(
    ("reader", "text", "words"),
    [
        (read_system_volts, "480/300", "√3"),  # neither a three-phase nor a three-wire pair
        (read_system_volts, "480 V to ground", "written like 480Y/277"),
        (read_fault_level, "14", "needs its unit"),  # kA or MVA: never guessed
        (read_x_over_r, "R/X 0", "above zero"),
    ],
)
def test_supply_text_refused(reader, text, words):
    with pytest.raises(QuantityError, match=words):
        reader(text)


@pytest.mark.parametrize(("volts", "hertz", "said"), [
    ("460", "60 Hz", "for 383 V and 50 Hz, 0.83 times"), ("500", "60 Hz", "for 417 V and 50 Hz"), ("440", "60 Hz", ""),
    ("460", "50 Hz", ""), ("575", "60 Hz", ""),
])  # fmt: skip
def test_a_plate_whose_volts_and_hertz_stand_as_here_may_be_rerated_by_its_maker(h1, volts, hertz, said):
    """400 V at 50 Hz are 480 V at 60: 460 and 500 V lie within a twentieth of it, 440 V by its volts fits anyway."""
    gate = h1({"plate.volts": volts, "plate.frequency": hertz, "plate.full_load_current": "70"}).gate("plate.volts")
    assert ("with its maker's word" in gate.remedy) is bool(said)
    assert said in gate.remedy


class TestAtTheEdge:
    """400 V: ± 5 % for ever, ± 10 % at all (IEC 60034-1 zones A and B); 460 V: ± 10 % (MG 1 12.44)."""

    def gate(self, file, tag, volts):
        return planner(file, tag)({"supply.volts": volts, "supply.fault_level_volts": None}).gate("plate.volts")

    @pytest.mark.parametrize(
        ("volts", "verdict"),
        [("359", "fails"), ("360", "check"), ("379", "check"), ("380", "passes"), ("400", "passes"), ("420", "passes"),
         ("421", "check"), ("440", "check"), ("441", "fails")],
    )  # fmt: skip
    def test_the_zones_of_the_iec(self, volts, verdict):
        assert self.gate("skerry-sound.json", "H-1", volts).verdict == verdict

    @pytest.mark.parametrize(
        ("volts", "verdict"),
        [("413", "fails"), ("414", "check"), ("460", "passes"), ("506", "check"), ("507", "fails")],
    )
    def test_ten_per_cent_of_nema(self, volts, verdict):
        assert self.gate("harrowmere-lock.json", "P-11", volts).verdict == verdict

    @pytest.mark.parametrize(
        ("file", "tag", "volts", "settled"),
        [
            ("skerry-sound.json", "H-1", "370", ("380 V", "359 V")),
            ("skerry-sound.json", "H-1", "430", ("420 V", "441 V")),
            ("harrowmere-lock.json", "P-11", "415", ("424 V", "413 V")),
            ("harrowmere-lock.json", "P-11", "500", ("496 V", "507 V")),
        ],
    )
    def test_what_settles_it_does(self, file, tag, volts, settled):
        turns = self.gate(file, tag, volts).turns
        assert (turns.passes_as, turns.fails_as) == settled
        assert self.gate(file, tag, turns.passes_as).verdict == "passes"
        assert self.gate(file, tag, turns.fails_as).verdict == "fails"


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("D/Y 230/400", ["230Δ", "400Y"]), ("400/690 V Δ/Y", ["400Δ", "690Y"]), ("Y 400 V", ["400Y"]),
        ("3~ 400 V", ["400"]), ("3 PH 460 V 60 HZ", ["460"]), ("400 V ±10 %", ["400"]),
        ("220-240D/380-415Y", ["220-240Δ", "380-415Y"]),
    ],
)  # fmt: skip
def test_signs_and_dress_of_a_plate(text, said):
    assert [one.text for one in read_volts(text).connections] == said


def test_a_bare_size_is_in_its_dialects_unit():
    """4 is 4 mm² to IEC and a gauge of 21 mm² in North America: what was taken stands beside the field."""
    size = Wiring.fields()["size"]
    for us, text, said in (
        (True, "4", "4 AWG"),
        (False, "4", "4 mm²"),
        (False, "2,5", "2.5 mm²"),
        (True, "250", "250 kcmil"),
    ):
        assert size.reader(us=us)(text) == said
        assert size.echo(text, us=us) == f"= {said}"
    assert size.reader(us=False)("#4") == size.reader(us=True)("4 awg") == "4 AWG"
    assert size.echo("4 mm²", us=False) == ""
    plan = planner("skerry-sound.json", "H-1")
    bare, said = (plan({"wiring.size": text}).gate("protection.conductors") for text in ("35", "35 mm²"))
    assert bare == said


@pytest.mark.parametrize("text", ["230 V 1N~", "1~ 230 V", "240 V 1PH", "240 V single-phase"])
def test_volts_of_one_phase_alone_name_no_system(text):
    """Not a three-phase one of so many volts: what it is taken from is asked."""
    with pytest.raises(QuantityError, match="Of one phase: write 120/240"):
        read_system_volts(text)
