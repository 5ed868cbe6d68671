"""How the starter is commanded, and what a drawing is altered in to see what breaks."""

from __future__ import annotations

import re
from typing import Final

from vinegate.core import quantity as q
from vinegate.core.field import Fact, Facts, choice, field, measure, whole
from vinegate.core.numbers import QuantityError
from vinegate.core.starter import quantities as c
from vinegate.core.starter.speeds import NAMES

_YES_NO: Final = (("yes", "yes"), ("no", "no"))
_COMMANDS_ALSO: Final = {
    **dict.fromkeys(("3-wire", "start/stop", "start stop", "push buttons", "momentary"), "three-wire"),
    **dict.fromkeys(("2-wire", "maintained", "maintained contact"), "two-wire"),
}
_WIRES: Final = tuple(
    (size, size) for size in ("18 AWG", "16 AWG", "14 AWG", "12 AWG", "10 AWG", "0.75 mm²", "1 mm²", "1.5 mm²",
                              "2.5 mm²", "4 mm²")
)  # fmt: skip
_CUT: Final = re.compile(r"[\w.-]{1,12} in [\w.-]{1,12}")


def read_cuts(text: str) -> tuple[str, ...]:
    """`2M in S; STOP in M`: contacts bridged. Raises QuantityError.

    >>> read_cuts("2M in S;  STOP in M")
    ('2M in S', 'STOP in M')
    """
    found = tuple(" ".join(part.split()) for part in re.split(r"[;\n]", text) if part.strip())
    for part in found:
        if not _CUT.fullmatch(part):
            raise QuantityError(f"“{part}” is no contact: write it like 2M in S, several parted by semicolons.")
    return found


class Starter(Facts):
    """Every field may be missing."""

    command: str | None = field(
        choice("Commanded by", (("three-wire", "buttons, three wires"), ("two-wire", "a held contact, two wires")),
               also=_COMMANDS_ALSO, help="Empty: buttons. A held contact, a float's or an alternator's, starts "
               "it by itself when power returns.")
    )  # fmt: skip
    stations: int | None = field(whole("Stations", 1, 6, example="2", help="With a start and a stop each. Empty: one."))
    emergency: str | None = field(
        choice("Emergency stop", _YES_NO, help="Beside the stops; latched. Empty: as the stop's sheet asks.")
    )
    jog: str | None = field(choice("Jog", _YES_NO, help="Runs while it is pressed, and never seals."))
    hands: str | None = field(choice("Hand, off, auto", _YES_NO, help="By a selector, with a controller's command."))
    changes_by: str | None = field(
        choice("Star ends by", (("timer", "its timer"), ("operator", "its operator"), ("speed", "a speed switch")),
               help="Wye-delta. Empty: as on the start's sheet.")
    )  # fmt: skip
    links: str | None = field(
        choice("Delta closes", (("ahead", "T1-T6 or U1-W2, ahead"), ("behind", "T1-T5 or U1-V2, behind")),
               help="Wye-delta, of the star. Empty: ahead. Behind is gentler, for the open motor's own volts lag.")
    )  # fmt: skip
    limits: str | None = field(choice("Limit switches", _YES_NO, help="One for each of two directions."))
    antiplug: str | None = field(choice("Anti-plugging", _YES_NO, help="No reversing while it still turns."))
    follows: str | None = field(choice("Follows another", _YES_NO, help="Only while another circuit's contact is in."))
    phases: str | None = field(
        choice("Phase relay", _YES_NO, help="On the line: opens where a phase is lost, or two are exchanged.")
    )
    lamps: str | None = field(
        choice("Lamps", (("green", "green runs"), ("red", "red runs"), ("none", "none")),
               help="IEC 60204-1 and NFPA 79: green is normal; many pump panels: red runs. Ask once for a site.")
    )  # fmt: skip
    heater: str | None = field(choice("Space heater", _YES_NO, help="On while the motor is off."))
    bypass: str | None = field(
        choice(
            "By-pass",
            _YES_NO,
            help="Of a drive: past it across the line, by a selector. Of a soft starter: once at speed.",
        )
    )
    speeds: str | None = field(
        choice(
            "Two speeds",
            tuple(NAMES.items()),
            help="Two windings, or one by its kind. The plate's figures are the high speed's.",
        )
    )
    low_current_a: float | None = field(
        measure("Amperes, low", q.CURRENT, "I_l", example="48 A", help="Of the plate: sets its own overload.")
    )
    low_speed_rpm: float | None = field(
        measure("Low speed", q.SPEED, "n_l", example="880 rpm", help="Of two windings. Of one it is about half.")
    )
    high_closes: str | None = field(
        choice("High closes by", (("two", "two contactors"), ("five", "one of five poles")),
               help="Of one winding whose leads are joined at high speed. Empty: two.")
    )  # fmt: skip
    compelling: str | None = field(choice("Only through low", _YES_NO, help="High answers once it has run low."))
    low_after_s: float | None = field(
        measure("Wait before low", q.SECONDS, "t_l", example="4 s", help="It slows by itself first: no braking jolt.")
    )
    runs_on_s: float | None = field(
        measure("Runs on for", q.SECONDS, "t_o", example="20 s", help="After a stop: what it serves is out before it.")
    )
    rests_s: float | None = field(
        measure("Rests for", q.SECONDS, "t_a", example="5 min", help="After each stop, before another start.")
    )
    purges_s: float | None = field(
        measure("Purged for", q.SECONDS, "t_p", example="120 s", help="Ahead of each start, while its purge flows.")
    )
    bypass_poles: str | None = field(
        choice("By-pass closes", (("three", "three poles"), ("two", "two poles")),
               help="Of a soft starter; two where it controls two phases: the third has volts while K is in.")
    )  # fmt: skip
    ride_s: float | None = field(
        measure("Rides outages of", q.SECONDS, "t_u", example="2 s", help="Starts again by itself within it.")
    )
    restart_s: float | None = field(
        measure("Restart delay", q.SECONDS, "t_r", example="5 s", help="Two wires, auto: see the job's restart order.")
    )
    lock: str | None = field(choice("Mechanical lock", _YES_NO, help="Mechanical, between contactors that never meet."))
    timer_s: float | None = field(
        measure("Timer", q.SECONDS, "t_x", example="3 s", help="Of the change-over. Empty: the start's sheet.")
    )
    control_from: str | None = field(
        choice("Control fed by", (("transformer", "its transformer"), ("line", "the line"), ("dc", "direct current")))
    )
    transformer_va: float | None = field(
        measure("Transformer", c.RATED_VA, "S_r", example="150 VA", help="Rated, by its plate.")
    )
    transformer_z_pu: float | None = field(
        measure("Its impedance", c.IMPEDANCE, "z", example="6 %", help="Empty: 4 to 10 %, 6 % taken.")
    )
    primary_fuse_a: float | None = field(measure("Primary device", q.DEVICE_CURRENT, "I_F1", example="1 A"))
    secondary_fuse_a: float | None = field(measure("Control device", q.DEVICE_CURRENT, "I_F2", example="2 A"))
    coil_pull_va: float | None = field(
        measure("Coil pulls in", c.RATED_VA, "S_c", example="340 VA", help="The largest, by its maker; empty: usual.")
    )
    coil_hold_va: float | None = field(measure("Coil, held in", c.RATED_VA, "S_ch", example="30 VA"))
    steady_va: float | None = field(
        measure("Lamps, others", c.CONTROL_VA, "S_l", example="20 VA", help="Held all the time.")
    )
    grounded: str | None = field(
        choice(
            "Common side",
            (("yes", "grounded"), ("monitored", "not, but watched"), ("no", "not grounded")),
            help="Of the coils.",
        )
    )
    run_m: float | None = field(measure("Run to buttons", q.LENGTH, "l_c", help="One way."))
    run_size: str | None = field(choice("Its wires", _WIRES, help="Copper. Empty: 14 AWG, 1 mm²."))
    run_capacitance: float | None = field(
        measure(
            "Its capacitance",
            c.RUN_CAPACITANCE,
            "C'",
            help="Between two wires, each km. Empty: 0.3 µF.",
        )
    )
    elsewhere: str | None = field(
        choice("Its own drawing", _YES_NO, help="Whether what is asked and not drawn here has one, proved and tried.")
    )
    bridged: tuple[str, ...] | None = field(
        Fact(label="Contacts bridged", read=read_cuts, example="2M in S",
             help="To see what breaks: such a drawing never passes.")
    )  # fmt: skip
