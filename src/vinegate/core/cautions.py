"""Cautions that always show, on every sheet and print."""

from vinegate.core.numbers import write

CAUTIONS = (
    "Planning aid, not an approval: local code, the authority having jurisdiction, the maker's data and a licensed or "
    "competent person decide.",
    "Work dead, locked out and proved.",
)

WYE_DELTA_CAUTION = (
    "Wye and delta contactors closed together are a three-phase short: interlock them electrically and mechanically."
)


def drive_caution(discharge_s: float | None) -> str:
    """Of whoever works on a drive; its bus's time by the drive's own plate, s.

    >>> drive_caution(300.0)[:71]
    'The bus of a drive stays charged when its supply is off: 5 min by its p'
    """
    wait = (
        "wait as long as its own plate says"
        if discharge_s is None
        else f"{write(discharge_s / 60, 2)} min by its plate"
    )
    return f"The bus of a drive stays charged when its supply is off: {wait}, then test. {_AT_A_DRIVE}"


_AT_A_DRIVE = (
    "Safe torque off is no isolation. No capacitors or arresters at its output; a contactor there opens only with the "
    "drive off. Current flows to earth by its filters: its protective conductor comes on first, a second one where "
    "more than 3.5 mA may be felt. A run command that is held starts it when power is back. Each of several motors "
    "keeps an overload of its own. Its maker's data and local rules come first."
)

BRIDGE_CAUTION = (
    "Thyristors that are blocked are no isolation, and an armature that turns gives volts: locked out, at rest, then "
    "tested. A field that carries current is never opened. A run command that is held starts it when power is back. "
    "Its maker's data and local rules come first."
)
