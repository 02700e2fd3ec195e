"""One step's heats, what they did, and what to be careful of in them."""

from collections.abc import Mapping
from dataclasses import dataclass

from varistrat.core.bars.bar import Bar
from varistrat.core.bars.forged import Address
from varistrat.core.findings import Finding
from varistrat.core.heat import grain
from varistrat.core.heat.numbers import Atmosphere
from varistrat.core.heat.through import Normal
from varistrat.core.steels import Steel
from varistrat.core.steels.pairing import SOLIDUS_CLEAR

KEPT = {"weld": 5.0, "join": 5.0, "forge": 2.0, "twist": 3.0, "": 0.0}
"""Minutes a bar stays at heat once its heart is there, before it is worked; indicative."""
COPPER_MOST = 1050.0


@dataclass(frozen=True)
class Fired:
    """One step's heats; each: how many of them any one place of the bar sees. Temperatures C; minutes at heat of each; soak: minutes in the fire of each from cold; mm per face over all of them.

    skin: depth of the carbon-poor skin when they are done; grind: what to take off to be below it; left: what was left on faces
    welded here; carbon: (least, mean, most) of each steel below the skin; own: what the smith said.
    """

    bar: Address
    step: int | None
    kind: str
    heats: int
    each: int
    celsius: float
    minutes: float
    soak: float
    atmosphere: Atmosphere
    scale: float
    scale_volume: float
    skin: float
    grind: float
    left: float
    thinnest: float
    across: float
    """How long the line through the layers is, face to face, mm."""
    normal: Normal
    layers: int
    carbon: Mapping[str, tuple[float, float, float]]
    profile: tuple[list[float], list[float], list[int]]
    uneven: float
    """How much of the differences in activity the steels began with is left inside the bar, 0 to 1."""
    own: tuple[str, ...] = ()
    findings: tuple[Finding, ...] = ()


def fire_findings(f: Fired, steels: list[Steel], kind: str, before: Bar, loose: bool) -> list[Finding]:
    found: list[Finding] = []
    if not f.heats:
        pass
    elif molten := [s for s in steels if f.celsius >= s.solidus]:
        found.append(
            Finding(
                "melts",
                "stop",
                f"{molten[0].name} melts.",
                f"{f.celsius:.0f} C is at or above its {molten[0].solidus:.0f} C, where it begins to melt.",
                f"Stay under {molten[0].solidus - SOLIDUS_CLEAR:.0f} C.",
                field="celsius",
                value=f.celsius,
                limit=molten[0].solidus,
                unit="C",
            )
        )
    elif close := [s for s in steels if f.celsius > s.solidus - SOLIDUS_CLEAR]:
        found.append(
            Finding(
                "burns",
                "care",
                f"Corners of {close[0].name} may burn.",
                f"It begins to melt at {close[0].solidus:.0f} C; segregated or scaled corners up to {SOLIDUS_CLEAR:.0f} C° before.",
                "Lower the heat, and soak instead.",
                field="celsius",
                value=f.celsius,
                limit=close[0].solidus - SOLIDUS_CLEAR,
                unit="C",
            )
        )
    elif hot := [s for s in steels if kind in ("weld", "join") and s.weld and f.celsius > s.weld[1] + 5]:
        found.append(
            Finding(
                "weld_hot",
                "care",
                f"Hotter than {hot[0].name} is welded.",
                f"Its welding range ends at {hot[0].weld[1] if hot[0].weld else 0:.0f} C. Indicative.",
                "Lower the heat; a longer soak does as much.",
                field="celsius",
                value=f.celsius,
                limit=hot[0].weld[1] if hot[0].weld else None,
                unit="C",
            )
        )
    elif cold := [s for s in steels if kind in ("weld", "join") and s.weld and f.celsius < s.weld[0] - 25]:
        found.append(
            Finding(
                "weld_cold",
                "care",
                f"Colder than {cold[0].name} likes to weld.",
                f"Its welding range begins at {cold[0].weld[0] if cold[0].weld else 0:.0f} C. Indicative.",
                "Hotter, or very clean faces, more pressure and a longer soak.",
                field="celsius",
                value=f.celsius,
                limit=cold[0].weld[0] if cold[0].weld else None,
                unit="C",
            )
        )
    if f.heats and any(s.share("Cu") > 50 for s in steels) and f.celsius > COPPER_MOST:
        found.append(
            Finding(
                "copper_melts",
                "stop",
                "Copper runs out of the stack and cracks the steel.",
                f"With its oxide it melts at 1066 C; {f.celsius:.0f} C is asked for.",
                f"Never above {COPPER_MOST:.0f} C once copper is in it.",
                field="celsius",
                value=f.celsius,
                limit=COPPER_MOST,
                unit="C",
            )
        )
    if f.heats and "minutes" in f.own and f.minutes < KEPT["weld"] / 2 and kind in ("weld", "join"):
        found.append(
            Finding(
                "not_soaked",
                "care",
                "The middle may still be cold when the weld is set.",
                f"{f.minutes:g} min at heat; a section of {before.width:.0f} x {before.thickness:.0f} mm takes about {f.soak:.0f} min in the fire, then some minutes more. Indicative.",
                "Soak until skin and middle are one colour.",
                field="minutes",
                value=f.minutes,
                limit=KEPT["weld"] / 2,
                unit="min",
            )
        )
    if loose and f.heats:
        found.append(
            Finding(
                "can_soak",
                "note",
                "A can looks hot long before its middle is.",
                f"Powder and loose pieces pass heat about a tenth as well as steel: {f.soak:.0f} min in the fire for this one. Indicative.",
                "Soak it out; nothing shows from outside.",
                value=f.soak,
                unit="min",
            )
        )
    if f.left > 0.02:
        found.append(
            Finding(
                "skin_left",
                "care" if f.left > 0.08 else "note",
                "Pale lines along the welds.",
                f"About {f.left:.2f} mm of carbon-poor skin was left on the faces welded here. Carbon comes back within minutes at heat; what scale left in the joint stays.",
                f"Grind {f.left:.2f} mm more off each face before the weld.",
                field="grind",
                value=f.left,
                limit=0.02,
                unit="mm",
            )
        )
    if f.heats and kind in ("forge", "twist") and grain.astm(grain.last_grain([(f.celsius, f.minutes)])) < 3:
        found.append(
            Finding(
                "grain",
                "note",
                "Coarse grain from this heat.",
                f"After {f.minutes:.0f} min at {f.celsius:.0f} C about ASTM {grain.astm(grain.last_grain([(f.celsius, f.minutes)])):.0f}; blades want 8 or finer.",
                "Normalise two or three times from falling heats before hardening.",
                value=grain.astm(grain.last_grain([(f.celsius, f.minutes)])),
                limit=grain.COARSE,
            )
        )
    return found
