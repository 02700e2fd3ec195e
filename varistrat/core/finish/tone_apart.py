"""How far apart the etched steels of a blade are in lightness, as the fire left them."""

from varistrat.core.design.worked import Worked
from varistrat.core.etch.tones import reflectance
from varistrat.core.finish.depth import surface_of


def lightness(tone: float) -> float:
    """CIE L* of a tone."""
    y = reflectance(tone)
    return 116 * y ** (1 / 3) - 16 if y > 0.008856 else 903.3 * y


def tone_apart(worked: Worked, bath: str = "ferric") -> float | None:
    """L* between the lightest and the darkest steel of the face; None of one steel alone."""
    steels = [s.steel for s in surface_of(worked)]
    if len(steels) < 2:
        return None
    fired = worked.fired_tones.tones
    tones = [s.tone[bath] + fired.get(s.key, s.shade) - s.shade for s in steels]  # type: ignore[index]
    return lightness(max(tones)) - lightness(min(tones))
