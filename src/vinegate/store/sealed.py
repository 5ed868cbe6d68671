"""A file that only its word opens: chunks under AES-256-GCM, in an order that cannot be changed or cut short.

The key comes from the word by scrypt (RFC 7914) with a salt of the file's own. Each chunk's nonce is the file's seven
bytes, the chunk's number and whether it is the last (the STREAM construction: Hoang, Reyhanitabar, Rogaway and Vizár,
Online Authenticated-Encryption and its Nonce-Reuse Misuse-Resistance, CRYPTO 2015).
"""

from __future__ import annotations

import hashlib
import io
import os
from typing import Any, BinaryIO, Final

from cryptography.exceptions import InvalidTag
from cryptography.hazmat.primitives.ciphers.aead import AESGCM

MAGIC: Final = b"vinegate-sealed/1\n"
_CHUNK: Final = 65536
_TAG: Final = 16
_SALT, _PREFIX = 16, 7
LEAST: Final = 12


class CannotOpen(ValueError):
    """Another word, or the file was changed or cut short."""


def _cipher(word: str, salt: bytes) -> AESGCM:
    key = hashlib.scrypt(word.encode(), salt=salt, n=2**15, r=8, p=1, maxmem=2**26, dklen=32)
    return AESGCM(key)


def _nonce(prefix: bytes, number: int, *, last: bool) -> bytes:
    return prefix + number.to_bytes(4, "big") + bytes([last])


class Sealing(io.RawIOBase):
    """What is written into it goes out sealed; closed, it is whole. The file below stays open."""

    def __init__(self, out: BinaryIO, word: str) -> None:
        super().__init__()
        salt, self._prefix = os.urandom(_SALT), os.urandom(_PREFIX)
        self._out, self._cipher, self._number, self._held = out, _cipher(word, salt), 0, bytearray()
        out.write(MAGIC + salt + self._prefix)

    def writable(self) -> bool:
        return True

    def write(self, data: Any) -> int:
        self._held += data
        while len(self._held) > _CHUNK:
            self._chunk(bytes(self._held[:_CHUNK]), last=False)
            del self._held[:_CHUNK]
        return len(data)

    def _chunk(self, plain: bytes, *, last: bool) -> None:
        self._out.write(self._cipher.encrypt(_nonce(self._prefix, self._number, last=last), plain, None))
        self._number += 1

    def close(self) -> None:
        if not self.closed:
            self._chunk(bytes(self._held), last=True)
        super().close()


class Opening(io.RawIOBase):
    """What was sealed, chunk by chunk. Raises CannotOpen as it is read."""

    def __init__(self, source: BinaryIO, word: str) -> None:
        """`source` stands behind the magic."""
        super().__init__()
        head = source.read(_SALT + _PREFIX)
        if len(head) < _SALT + _PREFIX:
            raise CannotOpen("it is cut short")
        self._source, self._prefix, self._number = source, head[_SALT:], 0
        self._cipher, self._plain, self._ended = _cipher(word, head[:_SALT]), b"", False
        self._next = source.read(_CHUNK + _TAG)

    def readable(self) -> bool:
        return True

    def readinto(self, into: Any) -> int:
        while not self._plain and not self._ended:
            chunk, self._next = self._next, self._source.read(_CHUNK + _TAG)
            self._ended = not self._next
            try:
                self._plain = self._cipher.decrypt(_nonce(self._prefix, self._number, last=self._ended), chunk, None)
            except InvalidTag:
                raise CannotOpen("another word, or it was changed or cut short") from None
            self._number += 1
        count = min(len(into), len(self._plain))
        into[:count] = self._plain[:count]
        self._plain = self._plain[count:]
        return count
