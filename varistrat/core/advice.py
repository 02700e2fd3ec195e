"""Findings that need more than one step to see: order of work, steels beside one another, the pattern on the blade."""

from collections.abc import Iterable, Mapping

import numpy as np

from varistrat.core.bars.forged import Forged
from varistrat.core.cutting.cut import Cut
from varistrat.core.findings import Code, Finding
from varistrat.core.heat.fires.homogenisation import LEFT, homogeneity
from varistrat.core.steels import Steel
from varistrat.core.steels.flow import CONTAIN, FORGING_C, WARN, stiffness_ratio

HAZE, SIGHT, NICKEL = 0.025, 0.05, 0.015
"""Layers this thin (mm) read as grey, cannot be told apart, lose even nickel; indicative."""
MAY_HOMOGENISE = 0.4
"""Carbon is only asked after in layers thinner than this, mm: thicker ones keep their own in any usual fire."""
CLAD_LEAST = 0.15
CORE_LEAST = 0.18


UNLIKE_FLOW = Code(
    "unlike_flow",
    "bar",
    ("care",),
    "{names} will not flow together: the softer squeezes out at the sides, the stiffer breaks up when it is thin.",
)
CARBON_EVENED = Code(
    "carbon_evened",
    "bar",
    ("note", "care"),
    {
        "note": "Carbon has evened out between the layers; nickel and chromium keep the contrast.",
        "care": "Carbon has evened out between the layers: little contrast is left.",
    },
)
LAYERS_LOST = Code("layers_lost", "bar", ("care",), "The finest layers fade into one another: even nickel moves so far.")
LAYERS_HAZE = Code("layers_haze", "bar", ("care",), "The pattern reads as a grey haze.")
LAYERS_FINE = Code("layers_fine", "bar", ("note",), "The finest lines can hardly be told apart at arm's length.")
CORE_THIN = Code("core_thin", "grind", ("care",), "The core is thin: a small wander of it leaves the edge without hard steel.")
TWIST_AFTER_RELIEF = Code("twist_after_relief", "bar", ("care",), "The ladder or dimples made before all but disappear.")
CLAD_THIN = Code("clad_thin", "grind", ("care",), "The {side} clad hardly survives grinding, even at the spine.")


def order_findings(forged: Forged) -> dict[int, list[Finding]]:
    """By stage index: what an earlier step means for a later one."""
    found: dict[int, list[Finding]] = {}
    relief: int | None = None
    for i, stage in enumerate(forged.stages):
        if stage.step.surface_figure:
            relief = i
        if stage.step.undoes_surface and relief is not None:
            found.setdefault(i, []).append(
                TWIST_AFTER_RELIEF.found(
                    f"Step {relief + 1} brought layers up to the face; twisting winds them round and lines them up along the thread.",
                    "Twist first and cut the relief afterwards, or leave the relief out.",
                )
            )
    return found


def steel_findings(layers: Iterable[tuple[str, str]], steels: Mapping[str, Steel], field: str = "layers") -> list[Finding]:
    """Steels that lie on one another but will not flow together; pairs of keys."""
    worst, pair = 1.0, ("", "")
    for a, b in dict.fromkeys(layers):
        if a != b and (ratio := stiffness_ratio(steels[a], steels[b])) > worst:
            worst, pair = ratio, (a, b)
    if worst <= WARN:
        return []
    names = " and ".join(steels[k].name for k in pair)
    contain = worst > CONTAIN
    return [
        UNLIKE_FLOW.found(
            f"At {FORGING_C:.0f} C one is {worst:.2f} times as stiff as the other; above {WARN:g} edges mushroom. Indicative.",
            "Weld the edges shut or use a can, and keep it hot."
            if contain
            else "Work it hot, with light even passes, and trim the edges early.",
            names=names,
            field=field,
            value=worst,
            limit=CONTAIN if contain else WARN,
        )
    ]


def blade_findings(cut: Cut, thinnest: float | None) -> list[Finding]:
    """How the pattern fares on the finished blade, as far as its shape tells."""
    found = _fineness(thinnest) if thinnest is not None else []
    return found + (_laminate(cut) if cut.core else [])


def _why_fine(thinnest: float) -> str:
    how = f"about {1000 * thinnest:.0f} µm" if thinnest >= 0.0005 else "less than a µm"
    return f"The finest layers are {how} thick on the finished blade"


def _fineness(thinnest: float) -> list[Finding]:
    um, why = 1000 * thinnest, _why_fine(thinnest)
    if thinnest < NICKEL:
        return [
            LAYERS_LOST.found(
                f"{why}; below {1000 * NICKEL:.0f} µm an hour at welding heat takes most of the contrast. Indicative.",
                "Fewer layers, or fewer and shorter welding heats once they are fine.",
                value=um,
                limit=1000 * NICKEL,
                unit="µm",
            )
        ]
    if thinnest < HAZE:
        return [
            LAYERS_HAZE.found(
                f"{why}; below {1000 * HAZE:.0f} µm the eye no longer parts them. Indicative.",
                "Fewer layers; each weld the fewer makes them as much thicker.",
                value=um,
                limit=1000 * HAZE,
                unit="µm",
            )
        ]
    if thinnest < SIGHT:
        return [
            LAYERS_FINE.found(
                f"{why}; a pair of them makes {2 * um:.0f} µm, about what the eye parts at 300 mm.",
                "It looks like silk; for lines that can be counted use fewer layers.",
                value=um,
                limit=1000 * SIGHT,
                unit="µm",
            )
        ]
    return []


def may_have_homogenised(thinnest: float | None) -> bool:
    """Whether it is worth asking the fire: thicker layers keep their carbon, finer ones are pointed out for that already."""
    return thinnest is not None and SIGHT <= thinnest < MAY_HOMOGENISE


def homogenisation_findings(thinnest: float, left: float, lasts: bool) -> list[Finding]:
    """What the fires did to the pattern. `left`: share of its carbon differences that they leave; `lasts`:
    whether other alloy keeps the contrast."""
    if homogeneity(left) != "even":
        return []
    share = f"{100 * left:.0f} %" if left >= 0.01 else "less than 1 %"
    return [
        CARBON_EVENED.found(
            f"{_why_fine(thinnest)}; after all the heats planned {share} of the difference between layers is left.",
            "Reckon with one carbon content throughout when hardening."
            if lasts
            else "Put a steel with nickel or chromium beside the plain one.",
            grade="note" if lasts else "care",
            value=100 * left,
            limit=100 * LEFT,
            unit="%",
        )
    ]


def _laminate(cut: Cut) -> list[Finding]:
    assert cut.core
    low, high = cut.core
    whole = cut.core_bar.thickness
    found = []
    share = (high - low) / whole
    if share < CORE_LEAST:
        found.append(
            CORE_THIN.found(
                f"It is {100 * share:.0f} % of the thickness; a quarter to two fifths is usual.",
                "Start with a thicker core.",
                value=100 * share,
                limit=100 * CORE_LEAST,
                unit="%",
            )
        )
    geometry = cut.placed.geometry
    x = np.linspace(0.1, 0.8, 15) * geometry.length
    height = geometry.height(x)
    faces = geometry.faces(x, height)
    for side, z in (("right", faces.right), ("left", faces.left)):
        s = cut.layers_at(x, height, z)
        left = np.minimum(np.abs(s - low), np.abs(s - high)) * (faces.forged / whole)
        inside = (s > low) & (s < high)
        if inside.mean() > 0.25 or (left[~inside].size and np.quantile(left[~inside], 0.25) < CLAD_LEAST):
            thin = 0.0 if inside.mean() > 0.25 else float(np.quantile(left[~inside], 0.25))
            found.append(
                CLAD_THIN.found(
                    f"{thin:.2f} mm of it is left there; hand sanding alone takes some hundredths.",
                    "A thinner core, a thicker bar, or less off that side.",
                    side=side,
                    value=thin,
                    limit=CLAD_LEAST,
                    unit="mm",
                )
            )
    return found
