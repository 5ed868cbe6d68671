"""Cautions that always show, on every sheet and print."""

CAUTIONS = (
    "Planning aid, not an approval: local code, the authority having jurisdiction, the maker's data and a licensed or "
    "competent person decide.",
    "Work dead, locked out and proved.",
)

WYE_DELTA_CAUTION = (
    "Wye and delta contactors closed together are a three-phase short: interlock them electrically and mechanically."
)
