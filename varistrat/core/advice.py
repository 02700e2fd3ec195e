"""Findings that need more than one step to see: order of work, steels beside one another, the pattern on the blade."""

from collections.abc import Iterable

import numpy as np

from varistrat.core.bars.forged import Forged
from varistrat.core.blade.cut import Cut
from varistrat.core.findings import Finding
from varistrat.core.steels import STEELS
from varistrat.core.steels.flow import CONTAIN, FORGING_C, WARN, stiffness_ratio

HAZE, SIGHT, EVENED, NICKEL = 0.025, 0.05, 0.25, 0.015
"""Layers this thin (mm) read as grey, cannot be told apart, have evened out their carbon, lose even nickel; indicative."""
CLAD_LEAST = 0.15
CORE_LEAST = 0.18


def order_findings(forged: Forged) -> dict[int, list[Finding]]:
    """By stage index: what an earlier step means for a later one."""
    found: dict[int, list[Finding]] = {}
    relief: int | None = None
    for i, stage in enumerate(forged.stages):
        if stage.step.surface_figure:
            relief = i
        if stage.step.undoes_surface and relief is not None:
            found.setdefault(i, []).append(
                Finding(
                    "twist_after_relief",
                    "care",
                    "The ladder or dimples made before all but disappear.",
                    f"Step {relief + 1} brought layers up to the face; twisting winds them round and lines them up along the thread.",
                    "Twist first and cut the relief afterwards, or leave the relief out.",
                )
            )
    return found


def steel_findings(layers: Iterable[tuple[str, str]], field: str = "layers") -> list[Finding]:
    """Steels that lie on one another but will not flow together; pairs of keys."""
    worst, pair = 1.0, ("", "")
    for a, b in set(layers):
        if a != b and (ratio := stiffness_ratio(a, b)) > worst:
            worst, pair = ratio, (a, b)
    if worst <= WARN:
        return []
    names = " and ".join(STEELS[k].name for k in pair)
    contain = worst > CONTAIN
    return [
        Finding(
            "unlike_flow",
            "care",
            f"{names} will not flow together: the softer squeezes out at the sides, the stiffer breaks up when it is thin.",
            f"At {FORGING_C:.0f} C one is {worst:.2f} times as stiff as the other; above {WARN:g} edges mushroom. Indicative.",
            "Weld the edges shut or use a can, and keep it hot."
            if contain
            else "Work it hot, with light even passes, and trim the edges early.",
            field=field,
            value=worst,
            limit=CONTAIN if contain else WARN,
        )
    ]


def blade_findings(cut: Cut, thinnest: float | None) -> list[Finding]:
    """How the pattern fares on the finished blade."""
    found = _fineness(cut, thinnest) if thinnest is not None else []
    return found + (_laminate(cut) if cut.core else [])


def _fineness(cut: Cut, thinnest: float) -> list[Finding]:
    um = 1000 * thinnest
    keys = [STEELS[k].composition for k in cut.trace.steels]
    alloyed = max((max(c.get(e, 0.0) for c in keys) - min(c.get(e, 0.0) for c in keys)) for e in ("Ni", "Cr")) > 0.5
    why = f"The finest layers are about {um:.0f} µm thick on the finished blade"
    if thinnest < NICKEL:
        return [
            Finding(
                "layers_lost", "care", "The finest layers fade into one another: even nickel moves so far.",
                f"{why}; below {1000 * NICKEL:.0f} µm an hour at welding heat takes most of the contrast. Indicative.",
                "Fewer layers, or fewer and shorter welding heats once they are fine.", value=um, limit=1000 * NICKEL, unit="µm",
            )
        ]  # fmt: skip
    if thinnest < HAZE:
        return [
            Finding(
                "layers_haze", "care", "The pattern reads as a grey haze.", f"{why}; below {1000 * HAZE:.0f} µm the eye no longer parts them. Indicative.",
                "Fewer layers; each weld the fewer makes them as much thicker.", value=um, limit=1000 * HAZE, unit="µm",
            )
        ]  # fmt: skip
    if thinnest < SIGHT:
        return [
            Finding(
                "layers_fine", "note", "The finest lines can hardly be told apart at arm's length.", f"{why}; a pair of them makes {2 * um:.0f} µm, about what the eye parts at 300 mm.",
                "It looks like silk; for lines that can be counted use fewer layers.", value=um, limit=1000 * SIGHT, unit="µm",
            )
        ]  # fmt: skip
    if thinnest < EVENED:
        grade_care = not alloyed
        return [
            Finding(
                "carbon_evened",
                "care" if grade_care else "note",
                "Carbon has evened out between the layers"
                + (": little contrast is left." if grade_care else "; nickel and chromium keep the contrast."),
                f"{why}; carbon crosses a pair of {2 * thinnest:.2f} mm in {0.0759 * (2 * thinnest) ** 2 / 2.6e-4 / 60:.1f} min at 1200 C.",
                "Put a steel with nickel or chromium beside the plain one."
                if grade_care
                else "Reckon with one carbon content throughout when hardening.",
                value=um,
                limit=1000 * EVENED,
                unit="µm",
            )
        ]
    return []


def _laminate(cut: Cut) -> list[Finding]:
    assert cut.core
    low, high = cut.core
    whole = cut.trace.forged.first.thickness
    found = []
    share = (high - low) / whole
    if share < CORE_LEAST:
        found.append(
            Finding(
                "core_thin", "care", "The core is thin: a small wander of it leaves the edge without hard steel.",
                f"It is {100 * share:.0f} % of the thickness; a quarter to two fifths is usual.", "Start with a thicker core.",
                value=100 * share, limit=100 * CORE_LEAST, unit="%",
            )
        )  # fmt: skip
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
                Finding(
                    "clad_thin", "care", f"The {side} clad hardly survives grinding, even at the spine.",
                    f"{thin:.2f} mm of it is left there; hand sanding alone takes some hundredths.",
                    "A thinner core, a thicker bar, or less off that side.", value=thin, limit=CLAD_LEAST, unit="mm",
                )
            )  # fmt: skip
    edge = geometry.faces(x, np.zeros_like(x))
    across = (np.arange(60) + 0.5) / 60
    z = edge.left[:, None] + across * edge.thickness[:, None]
    s = cut.layers_at(x[:, None], np.zeros((len(x), 1)), z)
    bare = float((((s >= low) & (s <= high)).mean(axis=1) < 0.5).mean())
    if bare > 0:
        found.append(
            Finding(
                "edge_clad", "stop", "Clad covers the edge: it will not harden there.",
                f"Over {100 * bare:.0f} % of the edge less than half its thickness is core.",
                "Grind both sides alike, start with a thicker core, or a thinner edge.", value=100 * bare, unit="%",
            )
        )  # fmt: skip
    return found
