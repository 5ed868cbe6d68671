"""What was brought in, by what it is: a table, a COMTRADE pair, or its single file."""

from __future__ import annotations

import io
import zipfile
from collections.abc import Mapping
from typing import Final

from vinegate.core.capture.comtrade import read_pair, read_single
from vinegate.core.capture.recording import CaptureError, Recording
from vinegate.core.capture.table import read_table

MOST_BYTES: Final = 32_000_000


def read_files(files: Mapping[str, bytes]) -> Recording:
    """The recording in these files, by name. Raises CaptureError, whatever they hold."""
    if sum(len(body) for body in files.values()) > MOST_BYTES:
        raise CaptureError(f"larger than {MOST_BYTES // 1_000_000} MB.")
    by = {name.lower().rpartition(".")[2]: body for name, body in files.items()}
    if len(by) != len(files):
        raise CaptureError("two files of one kind: bring in one capture at a time.")
    try:
        if "cff" in by:
            return read_single(by["cff"])
        if "cfg" in by or "dat" in by:
            if not {"cfg", "dat"} <= by.keys():
                raise CaptureError(f"the {'.DAT' if 'cfg' in by else '.CFG'} belongs to it: choose both files.")
            return read_pair(by["cfg"], by["dat"])
        if len(by) == 1:
            return read_table(next(iter(by.values())))
    except (ValueError, IndexError, OverflowError, MemoryError) as error:
        if isinstance(error, CaptureError):
            raise
        raise CaptureError("it is malformed in a way that is not told more nearly.") from error
    raise CaptureError("choose a .csv, a .cff, or a .cfg with its .dat.")


def packed(files: Mapping[str, bytes]) -> bytes:
    """The files whole, pressed, in one."""
    found = io.BytesIO()
    with zipfile.ZipFile(found, "w", zipfile.ZIP_DEFLATED, compresslevel=6) as box:
        for name, body in files.items():
            box.writestr(zipfile.ZipInfo(name[-120:].replace("/", "_")), body, zipfile.ZIP_DEFLATED, 6)
    return found.getvalue()


def unpacked(body: bytes) -> dict[str, bytes]:
    """The files again; of what `packed` wrote."""
    with zipfile.ZipFile(io.BytesIO(body)) as box:
        return {name: box.read(name) for name in box.namelist()}
