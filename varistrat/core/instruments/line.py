"""A line of text as a caliper, scale or thermometer sends it: ended by a number and its unit, whatever stands before them.

The browser understands the same lines (web/src/lib/instrument.ts); both are held against tests/fixtures/instruments/lines.json.
"""

import re
from typing import Final

from varistrat.core.instruments.instrument import Taken, Unit

MOST = 200
"""Characters of a line; more is no reading."""
_SCALE: Final[dict[str, tuple[Unit, float, float]]] = {
    "mm": ("mm", 1.0, 0.0), "cm": ("mm", 10.0, 0.0), "m": ("mm", 1000.0, 0.0), "in": ("mm", 25.4, 0.0), "inch": ("mm", 25.4, 0.0),
    '"': ("mm", 25.4, 0.0), "thou": ("mm", 0.0254, 0.0), "g": ("g", 1.0, 0.0), "kg": ("g", 1000.0, 0.0), "oz": ("g", 28.349523125, 0.0),
    "lb": ("g", 453.59237, 0.0), "c": ("C", 1.0, 0.0), "°c": ("C", 1.0, 0.0), "f": ("C", 5 / 9, 32.0), "°f": ("C", 5 / 9, 32.0),
    "hrc": ("HRC", 1.0, 0.0),
}  # fmt: skip
_LINE = re.compile(r'(?:^|[^\d.,+-])([-+]?(?:\d+(?:[.,]\d*)?|[.,]\d+))\s*(°?[a-z]+|")\s*$', re.IGNORECASE | re.ASCII)


def understood(line: str) -> Taken | None:
    """The reading it ends with; None where it ends with none. Value = (number - offset) x scale."""
    if len(line) > MOST:
        return None
    found = _LINE.search(line.strip("\x02\x03\r\n\t ").replace("º", "°"))
    if not found or found[2].lower() not in _SCALE:
        return None
    unit, scale, offset = _SCALE[found[2].lower()]
    return Taken((float(found[1].replace(",", ".")) - offset) * scale, unit)
