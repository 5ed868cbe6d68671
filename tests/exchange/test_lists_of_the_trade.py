"""Lists as the trade writes them: devices with poles, frames and kinds, starters with their size, grounds, volts."""

import pytest

from tests.exchange.test_cables import IEC, NEC, rows_of
from vinegate.core.numbers import QuantityError
from vinegate.core.protection.facts import read_rating
from vinegate.core.supply.cable import cable_of, read_size

TD, BREAKER, MCP = ({"protection.device_nec": kind} for kind in ("time-delay", "inverse-time", "instantaneous"))


def amps(rating, **more):
    return {"protection.rating": f"{rating} A"} | {f"protection.{name}": text for name, text in more.items()}


@pytest.mark.parametrize(
    ("rules", "head", "text", "facts"),
    [
        (NEC, "Breaker", "50", amps(50) | BREAKER), (NEC, "CB (A)", "50", amps(50) | BREAKER),
        (NEC, "Circuit breaker", "3P-50A", amps(50) | BREAKER), (NEC, "Breaker", "50/3", amps(50) | BREAKER),
        (NEC, "Breaker", "100AF/50AT/3P", amps(50) | BREAKER), (NEC, "Breaker", "50AT/100AF", amps(50) | BREAKER),
        (NEC, "Breaker", "MCP 50", amps(50) | MCP), (NEC, "Breaker", "50A TM", amps(50) | BREAKER),
        (NEC, "Fuse", "40", amps(40)), (NEC, "Breaker", "175A fuses", amps(175)), (NEC, "OCPD", "50A/3P", amps(50)),
        (NEC, "Fuse", "40 A TD", amps(40) | TD), (NEC, "Fuse", "60AS/40AF", amps(40, disconnect="60 A")),
        (NEC, "Disc", "60/3/40", amps(40, disconnect="60 A")), (NEC, "Disc", "60/3", {"protection.disconnect": "60 A"}),
        (NEC, "Disconnect switch", "60A NFSS", {"protection.disconnect": "60 A"}),
        (NEC, "Fuse", "1/2", {"protection.rating": "1/2"}), (NEC, "MOCP", "50", {"protection.drive_device": "50"}),
        (IEC, "Breaker", "C16", amps(16, device_iec="mcb-c")), (IEC, "MCB", "16A B", amps(16, device_iec="mcb-b")),
        (IEC, "Breaker", "D16/3", amps(16, device_iec="mcb-d")), (IEC, "MCB", "D32", amps(32, device_iec="mcb-d")),
        (IEC, "Fuse", "DII 25A gG", amps(25, device_iec="gg")), (IEC, "Fuse", "14x51 32A aM", amps(32, device_iec="am")), (IEC, "Fuse", "NH00 63A gG", amps(63, device_iec="gg")),
        (IEC, "Fuse", "aM63", amps(63, device_iec="am")), (IEC, "Fuse", "3x63A", amps(63)),
        (IEC, "Isolator", "25A TP&N", {"protection.disconnect": "25 A"}),
    ],
)  # fmt: skip
def test_devices(rules, head, text, facts):
    assert rows_of(rules, f"Tag,{head}", text) == ([facts], [False])


@pytest.mark.parametrize(
    ("rules", "head", "text"),
    [
        (NEC, "Fuse", "60/40"), (NEC, "Breaker", "100AF"), (IEC, "Breaker", "16"), (IEC, "MCB", "16A"),
        (IEC, "MCCB", "100A"), (IEC, "Breaker", "K16"), (IEC, "MPCB", "4-6.3 A"), (NEC, "Breaker", "184/92"),
    ],
)  # fmt: skip
def test_what_may_be_several_is_asked_back(rules, head, text):
    """A frame is no rating, and a breaker of an unsaid type no fuse."""
    assert rows_of(rules, f"Tag,{head}", text)[1] == [True]


def test_a_column_of_kinds_goes_before_what_a_head_says():
    found, _ = rows_of(NEC, "Tag,Breaker,Short-circuit device", "50,MCP")
    assert found == [amps(50) | MCP]


@pytest.mark.parametrize(
    ("text", "facts"),
    [
        ("FVNR size 1", {"start.method": "full-voltage", "protection.starter_size": "1"}),
        ("Combination FVR NEMA 2", {"start.method": "full-voltage", "protection.starter_size": "2", "start.reversing": "yes"}),
        ("VFD/bypass", {"start.method": "drive", "starter.bypass": "yes"}),
        ("Y-D closed transition", {"start.method": "wye-delta", "start.transition": "closed"}),
        ("RVAT, open", {"start.method": "autotransformer", "start.transition": "open"}),
        ("SSRV", {"start.method": "soft-starter"}), ("DOL F/R", {"start.method": "full-voltage", "start.reversing": "yes"}),
        ("soft starter with bypass", {"start.method": "soft-starter", "starter.bypass": "yes"}),
        ("star-delta starter", {"start.method": "wye-delta"}), ("MMS", {"start.method": "full-voltage"}),
    ],
)  # fmt: skip
def test_starters(text, facts):
    quoted = f'"{text}"'
    assert rows_of(NEC, "Tag,Starter", quoted) == ([facts], [False])


@pytest.mark.parametrize(
    ("head", "text", "facts"),
    [
        ("VFD (Y/N)", "Y", {"start.method": "drive"}), ("VFD", "no", {}), ("Soft starter", "x", {"start.method": "soft-starter"}),
        ("VFD", "VFD w/ bypass", {"start.method": "drive", "starter.bypass": "yes"}), ("VFD", "", {}),
    ],
)  # fmt: skip
def test_a_column_of_yes_and_no_for_a_way_to_start(head, text, facts):
    assert rows_of(NEC, f"Tag,{head}", text) == ([facts], [False])


@pytest.mark.parametrize(
    ("head", "text", "facts"),
    [
        ("Ground", "1#8", {"wiring.ground_size": "1#8"}), ("EGC", "#10 GND", {"wiring.ground_size": "#10"}),
        ("Sets", "(2)", {"wiring.sets": "2"}), ("Sets", "2 runs", {"wiring.sets": "2"}),
        ("Starter size", "1.0", {"protection.starter_size": "1"}), ("Size (HP)", "5", {"plate.power": "5 HP"}),
        ("V/PH", "460/3", {"plate.volts": "460 V", "plate.kind": "cage"}),
        ("V-Ph-Hz", "460-3-60", {"plate.volts": "460-3-60", "plate.frequency": "60 Hz"}),
        ("V/PH", "230/460", {"plate.volts": "230/460"}), ("Frame (A)", "100", {}),
    ],
)  # fmt: skip
def test_grounds_sets_sizes_and_volts(head, text, facts):
    assert rows_of(NEC, f"Tag,{head}", text) == ([facts], [False])


@pytest.mark.parametrize(
    ("text", "size", "sets"),
    [
        ("3x(1x240)", "240 mm²", 1), ("6x(1x240)", "240 mm²", 2), ("2x(3x1x240)", "240 mm²", 2), ("2x(3x95)", "95 mm²", 2),
        ("3.5C x 70", "70 mm²", 1), ("3x2.5+PE", "2.5 mm²", 1),
    ],
)  # fmt: skip
def test_single_cores_in_brackets_are_one_set(text, size, sets):
    """Three cables of one core are no three sets."""
    found = cable_of(text, read_size)
    assert (found.size, found.sets) == (size, sets)


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("NYY-J 4x16", ("16 mm²", "copper", "PVC", "")), ("3x35/16 NYCWY", ("35 mm²", "copper", "PVC", "16 mm²")),
        ("NAYY-J 4x50", ("50 mm²", "aluminium", "PVC", "")), ("N2XH 3x25+16", ("25 mm²", "copper", "XLPE", "16 mm²")),
        ("H07RN-F 4G2,5", ("2.5 mm²", "copper", "", "")), ("U-1000 R2V 4G6", ("6 mm²", "copper", "XLPE", "")),
        ("NA2XY 4x95 Al", ("95 mm²", "aluminium", "XLPE", "")), ("NH 4x16", None),
    ],
)  # fmt: skip
def test_types_of_cable_say_metal_and_insulation(text, said):
    if said is None:
        with pytest.raises(QuantityError):
            cable_of(text, read_size)
        return
    found = cable_of(text, read_size)
    assert (found.size, found.metal, found.cover, found.ground) == said


def test_four_single_cores_in_brackets_are_no_sets():
    with pytest.raises(QuantityError, match="whole sets"):
        cable_of("4x(1x240)", read_size)


@pytest.mark.parametrize(("text", "value"), [("50/3", 50), ("100AF/50AT", 50), ("50A-3P", 50)])
def test_a_rating_is_read_beside_poles_and_frame(text, value):
    assert read_rating(text) == value


def test_what_else_a_rating_says_is_asked_for_where_it_belongs():
    with pytest.raises(QuantityError, match="40 A here, and 60 A under “Disconnect”"):
        read_rating("60AS/40AF")
