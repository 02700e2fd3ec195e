"""What to be careful of in a step's heats: for the steel, and for the smith."""

from varistrat.core.bars.bar import Bar
from varistrat.core.figures import USUAL, Numbers
from varistrat.core.findings import Finding
from varistrat.core.heat.fires.fired import Fired
from varistrat.core.heat.fires.working import Tool
from varistrat.core.laws import grain
from varistrat.core.laws.numbers import KEPT
from varistrat.core.steels import Steel
from varistrat.core.steels.ceiling import is_copper, too_hot

WELDED = ("weld", "join")
LEFT_SEEN, LEFT_CARE = 0.02, 0.08
"""Skin left in a weld that shows, and that is worth grinding again for, mm; indicative."""
MUCH_SCALE = 0.2
"""Share of a bar's least size that its scale may take in a step before it is pointed out; indicative."""
FORGED_COARSE = 3.0
"""ASTM grain number under which a forging heat is pointed out."""


def fire_findings(f: Fired, steels: list[Steel], kind: str, before: Bar, loose: bool, numbers: Numbers = USUAL) -> list[Finding]:
    """kind: the step's `fire`; before: the bar that was heated; loose: a can whose filling had not sunk together."""
    found = [_too_hot_or_cold(f, steels, kind), _soaked(f, kind, before, numbers), _can(f, loose)] if f.heats else []
    found += [_burnt(f, before), _skin_left(f)]
    if f.heats and kind in ("forge", "twist"):
        found.append(_coarse(f))
    return [x for x in found if x]


def _too_hot_or_cold(f: Fired, steels: list[Steel], kind: str) -> Finding | None:
    def of(code: str, what: str, why: str, do: str, limit: float) -> Finding:
        return Finding(code, "care", what, why, do, field="celsius", value=f.celsius, limit=limit, unit="C")

    welded = [(s, s.weld) for s in steels if s.weld] if kind in WELDED else []
    if found := too_hot(f.celsius, steels):
        return found
    copper = next((s for s in steels if is_copper(s)), None)
    if copper and copper.weld and kind in WELDED:
        # the copper's own bonding heat counts, far under that of the steels
        welded = [(copper, copper.weld)]
    if hot := next(((s, w) for s, w in welded if f.celsius > w[1] + 5), None):
        return of("weld_hot", f"Hotter than {hot[0].name} is welded.", f"Its welding range ends at {hot[1][1]:.0f} C. Indicative.", "Lower the heat; a longer soak does as much.", hot[1][1])  # fmt: skip
    if cold := next(((s, w) for s, w in welded if f.celsius < w[0] - 25), None):
        return of("weld_cold", f"Colder than {cold[0].name} likes to weld.", f"Its welding range begins at {cold[1][0]:.0f} C. Indicative.", "Hotter, or very clean faces, more pressure and a longer soak.", cold[1][0])  # fmt: skip
    return None


def _soaked(f: Fired, kind: str, before: Bar, numbers: Numbers) -> Finding | None:
    least = numbers.of(KEPT["weld"]) / 2
    if "minutes" not in f.own or f.minutes >= least or kind not in WELDED:
        return None
    return Finding(
        "not_soaked", "care", "The middle may still be cold when the weld is set.",
        f"{f.minutes:g} min at heat; a section of {before.width:.0f} x {before.thickness:.0f} mm takes about {f.soak:.0f} min in the fire, then some minutes more. Indicative.",
        "Soak until skin and middle are one colour.", field="minutes", value=f.minutes, limit=least, unit="min",
    )  # fmt: skip


def _can(f: Fired, loose: bool) -> Finding | None:
    if not loose:
        return None
    return Finding(
        "can_soak", "note", "A can looks hot long before its middle is.",
        f"Powder and loose pieces pass heat about a tenth as well as steel: {f.soak:.0f} min in the fire for this one. Indicative.",
        "Soak it out; nothing shows from outside.", value=f.soak, unit="min",
    )  # fmt: skip


def _burnt(f: Fired, before: Bar) -> Finding | None:
    thin = min(before.width, before.thickness)
    share = 2 * f.scale / thin
    if share < MUCH_SCALE:
        return None
    return Finding(
        "much_scale", "stop" if share > 0.5 else "care", "Much of the bar turns to scale here.",
        f"{f.each} heats of {f.minutes:.0f} min take {f.scale:.2f} mm off every face: {100 * min(1.0, share):.0f} % of {thin:.1f} mm.",
        "Fewer or shorter heats, a richer fire, or a seal.", field="heats", value=100 * min(1.0, share), limit=100 * MUCH_SCALE, unit="%",
    )  # fmt: skip


def _skin_left(f: Fired) -> Finding | None:
    if f.left <= LEFT_SEEN:
        return None
    return Finding(
        "skin_left", "care" if f.left > LEFT_CARE else "note", "Pale lines along the welds.",
        f"About {f.left:.2f} mm of carbon-poor skin was left on the faces welded here. Carbon comes back within minutes at heat; what scale left in the joint stays.",
        f"Grind {f.left:.2f} mm more off each face before the weld.", field="grind", value=f.left, limit=LEFT_SEEN, unit="mm",
    )  # fmt: skip


def _coarse(f: Fired) -> Finding | None:
    number = grain.astm(grain.last_grain([(f.celsius, f.minutes)]))
    if number >= FORGED_COARSE:
        return None
    return Finding(
        "grain", "note", "Coarse grain from this heat.", f"After {f.minutes:.0f} min at {f.celsius:.0f} C about ASTM {number:.0f}; blades want 8 or finer.",
        "Normalise two or three times from falling heats before hardening.", value=number, limit=grain.COARSE,
    )  # fmt: skip


def caution_of(f: Fired, kind: str, tool: Tool, steels: list[Steel], canned: bool) -> str:
    """What can hurt the smith here, in a sentence or two; empty for a step without a heat."""
    if not f.heats:
        return ""
    said = []
    if canned:
        said.append(
            "A can or sealed packet that holds water or air bursts when hot: bake it dry, leave it a vent that faces away from people."
        )
    elif kind in WELDED and f.atmosphere == "flux":
        said.append("Molten flux sprays at the first blow: face shield, sleeves, nobody in its way.")
    elif kind in WELDED:
        said.append("A pile that does not hold flies apart: light pressure first, face shield.")
    if any(s.share("Cr") > 10 or s.share("Ni") > 20 for s in steels):
        said.append("Hot nickel and chromium give off harmful fumes and dust: mask, and air drawn off.")
    if kind == "twist":
        said.append("A bar in a twisting machine or wrench can whip round: clamp it well, keep sleeves and gloves clear.")
    elif kind == "forge" and tool == "press":
        said.append("A press does not stop for fingers, and hot scale flies metres: guards, tongs that hold, eyes shielded.")
    elif kind == "forge":
        said.append("Hot scale flies metres: eyes shielded, tongs that hold.")
    if said:
        said.append("Local rules come first.")
    return " ".join(said)
