"""Every number of the fire that a shop can measure for itself and put in place of ours."""

from typing import Literal, get_args

from varistrat.core.errors import InputError
from varistrat.core.figures import Figure

Atmosphere = Literal["air", "neutral", "rich", "very_rich", "flux", "sealed"]
ATMOSPHERES: tuple[Atmosphere, ...] = get_args(Atmosphere)
_SAY = "published ranges for the ratio to free air; indicative"
SCALE: dict[Atmosphere, Figure] = {
    "air": Figure("scale_air", "scale", "Scale in air, or a lean flame", "x", 1.0, 0.1, 3.0, "1 is the law itself; another set of data gives 1.5 to 1.7 times as much"),
    "neutral": Figure("scale_neutral", "scale", "Scale in a neutral gas flame", "x", 0.85, 0.05, 3.0, _SAY),
    "rich": Figure("scale_rich", "scale", "Scale in a slightly rich flame", "x", 0.4, 0.02, 3.0, _SAY),
    "very_rich": Figure("scale_very_rich", "scale", "Scale in a very rich flame", "x", 0.15, 0.01, 3.0, _SAY),
    "flux": Figure("scale_flux", "scale", "Scale under borax", "x", 0.3, 0.02, 3.0, _SAY),
    "sealed": Figure("scale_sealed", "scale", "Scale inside a seal", "x", 0.0, 0.0, 1.0, "nothing reaches it"),
}  # fmt: skip
DECARB = Figure(
    "decarb", "scale", "Decarburised skin against the law", "x", 1.0, 0.2, 3.0, "Birks and Jackson, JISI 208 (1970) 81; surface without carbon", "polish a coupon and look"
)  # fmt: skip
EMISSIVITY = Figure(
    "emissivity", "soak", "How well the fire radiates into the bar", "", 0.7, 0.3, 0.95, "0.6 to 0.85 for scaled steel in a small chamber"
)
BLOWN = Figure("convection", "soak", "Heat carried by the gas", "W/m2K", 30.0, 5.0, 150.0, "10 to 20 still, 30 to 60 from a blown burner")
FORGE = Figure(
    "forge_slower",
    "soak",
    "A small forge against an ideal chamber",
    "x",
    1.8,
    1.0,
    4.0,
    "1.5 to 2.5: it cools when loaded, one face lies on the floor",
)

FIGURES: dict[str, Figure] = {f.key: f for f in (*SCALE.values(), DECARB, EMISSIVITY, BLOWN, FORGE)}


def check_figure(key: str, value: float) -> float:
    """Raises InputError for a figure there is not, or a value nobody measures."""
    if key not in FIGURES:
        raise InputError.at("key", f"there is no figure {key[:40]!r}", f"use one of {', '.join(sorted(FIGURES))}")
    figure = FIGURES[key]
    if not figure.low <= value <= figure.high:
        raise InputError.at(
            "value", f"{value:g} {figure.unit} is out of range".replace("  ", " "), f"give {figure.low:g} to {figure.high:g}"
        )
    return value
