"""Motors of the demo with their own copies as the new ones."""

from tests.conftest import demo_job, planner
from vinegate.core.replacement.fits import Fits
from vinegate.core.replacement.stage import REPLACEMENT

LOCK, SOUND = "harrowmere-lock.json", "skerry-sound.json"


def facts_of(file, tag):
    return dict(demo_job(file).circuits)[tag]


def copy_of(file, tag):
    """The new plate as a copy of the old one, and what every comparison asks beside it."""
    facts = facts_of(file, tag)
    return {f"new_{part}.{key}": text for part in ("plate", "machine") for key, text in facts.get(part, {}).items()} | {
        "replacement.coupled": "direct", "replacement.one_way": "no",
    }  # fmt: skip


PUMP, COMPRESSOR, HYDRAULIC, FAN, STIRRER, HOIST = (
    (planner(file, tag), copy_of(file, tag))
    for file, tag in ((LOCK, "P-12"), (LOCK, "C-71"), (SOUND, "H-1"), (SOUND, "F-3"), (LOCK, "M-41"), (LOCK, "G-21"))
)

SAME, WITH, UNKNOWN, NOT = Fits.SAME, Fits.WITH, Fits.UNKNOWN, Fits.NOT


def row(found, key):
    return next(one for one in found.of(REPLACEMENT).rows if one.key == key)
