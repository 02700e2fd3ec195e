"""Writing a picture of ours as PNG: grey, or grey and alpha, of which neighbours differ little.

One filter for every row and run lengths only: four times faster than trying all filters on each row, and smaller
on etched steel, whose grain leaves nothing to be found by looking further back.
"""

import struct
import zlib

import numpy as np

from varistrat.core.bars.points import Array

_SUB = 1
"""The filter that keeps each sample's difference to the one at its left."""


def png(grey: Array, px_per_mm: float, note: str = "") -> bytes:
    """PNG bytes of 8-bit grey (rows, cols), or grey and alpha (rows, cols, 2), with the scale written in (pHYs and a text line).

    Source: Portable Network Graphics (PNG) Specification, ISO/IEC 15948.
    """
    rows, cols = grey.shape[:2]
    deep = 1 if grey.ndim == 2 else grey.shape[2]
    flat = np.ascontiguousarray(grey).reshape(rows, cols * deep)
    raw = np.empty((rows, 1 + cols * deep), np.uint8)
    raw[:, 0] = _SUB
    raw[:, 1 : 1 + deep] = flat[:, :deep]
    np.subtract(flat[:, deep:], flat[:, :-deep], out=raw[:, 1 + deep :])
    packed = zlib.compressobj(1, zlib.DEFLATED, zlib.MAX_WBITS, zlib.DEF_MEM_LEVEL, zlib.Z_RLE)
    per_metre = max(1, round(px_per_mm * 1000))
    texts = [("Scale", f"{px_per_mm:.6g} px/mm"), *([("Description", note)] if note else [])]
    chunks = [
        (b"IHDR", struct.pack(">IIBBBBB", cols, rows, 8, 4 if deep == 2 else 0, 0, 0, 0)),
        (b"pHYs", struct.pack(">IIB", per_metre, per_metre, 1)),
        *(_text(name, said) for name, said in texts),
        (b"IDAT", packed.compress(raw.data) + packed.flush()),
        (b"IEND", b""),
    ]
    return b"\x89PNG\r\n\x1a\n" + b"".join(_chunk(kind, data) for kind, data in chunks)


def _text(name: str, said: str) -> tuple[bytes, bytes]:
    """Latin-1 where it will do, UTF-8 elsewhere."""
    try:
        return b"tEXt", name.encode("latin-1") + b"\0" + said.encode("latin-1")
    except UnicodeEncodeError:
        return b"iTXt", name.encode("latin-1") + b"\0\0\0\0\0" + said.encode()


def _chunk(kind: bytes, data: bytes) -> bytes:
    return struct.pack(">I", len(data)) + kind + data + struct.pack(">I", zlib.crc32(data, zlib.crc32(kind)))
