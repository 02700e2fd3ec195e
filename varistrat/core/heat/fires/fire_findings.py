"""What to be careful of in a step's heats: for the steel, and for the smith."""

from varistrat.core.bars.bar import Bar
from varistrat.core.cautions import CARBON_MONOXIDE
from varistrat.core.figures import USUAL, Numbers
from varistrat.core.findings import Code, Finding
from varistrat.core.heat.fires.fired import Fired
from varistrat.core.heat.fires.working import MOST, Tool
from varistrat.core.laws import grain
from varistrat.core.laws.numbers import KEPT
from varistrat.core.steels import Steel
from varistrat.core.steels.ceiling import is_copper, too_hot
from varistrat.core.steels.weldable import FLUORIDES, SEALED_FROM, SEAMS, fears_sulphur, has_seams, wants_seal

WELDED, FORGED = ("weld", "join"), ("forge", "twist")
FORGE_SURE = 25.0
"""How surely a forging range is known, C."""
LEFT_SEEN, LEFT_CARE = 0.02, 0.08
"""Skin left in a weld that shows, and that is worth grinding again for, mm; indicative."""
SCALE_MOST = 0.2
"""Share of a bar's least size that its scale may take in a step before it is pointed out; indicative."""
FORGED_COARSE = 3.0
"""ASTM grain number under which a forging heat is pointed out."""

WELD_HOT = Code("weld_hot", "heat", ("care",), "Hotter than {steel} is welded.")
WELD_COLD = Code("weld_cold", "heat", ("care",), "Colder than {steel} likes to weld.")
NOT_SOAKED = Code("not_soaked", "heat", ("care",), "The middle may still be cold when the weld is set.")
CAN_SOAK = Code("can_soak", "heat", ("note",), "A can looks hot long before its middle is.")
WANTS_SEAL = Code("wants_seal", "heat", ("stop",), "{steel} does not weld so: borax does not take up chromium oxide.")
FORGE_HOT = Code("forge_hot", "heat", ("care",), "Hotter than {steel} is forged.")
FORGE_COLD = Code("forge_cold", "heat", ("care",), "Colder than {steel} is forged.")
SEAMS_RUN = Code("seams_run", "heat", ("care",), "Seams in {steel} melt here.")
SULPHUR = Code("sulphur", "heat", ("note",), "Keep {steel} out of a fire with sulphur.")
MUCH_SCALE = Code("much_scale", "heat", ("care", "stop"), "Much of the bar turns to scale here.")
SKIN_LEFT = Code("skin_left", "heat", ("note", "care"), "Pale lines along the welds.")
MANY_HEATS = Code("many_heats", "heat", ("care",), "This step takes more than a day at the fire.")
MANY = 40
"""Heats of ten minutes that fill a day."""
GRAIN = Code("grain", "heat", ("note",), "Coarse grain from this heat.")


def fire_findings(f: Fired, steels: list[Steel], kind: str, before: Bar, loose: bool, numbers: Numbers = USUAL) -> list[Finding]:
    """kind: the step's `fire`; before: the bar that was heated; loose: a can whose filling had not sunk together."""
    found = [_too_hot_or_cold(f, steels, kind), _soaked(f, kind, before, numbers), _can(f, loose), _seams(f, steels)] if f.heats else []
    if f.heats and kind in WELDED:
        found += [_seal(f, steels), _sulphur(f, steels)]
    found += [_many(f), _burnt(f, before), _skin_left(f)]
    if f.heats and kind in ("forge", "twist"):
        found.append(_coarse(f))
    return [x for x in found if x]


def _too_hot_or_cold(f: Fired, steels: list[Steel], kind: str) -> Finding | None:
    def of(code: Code, steel: Steel, why: str, do: str, limit: float) -> Finding:
        return code.found(
            f"{why} {limit:.0f} C. Indicative.", do, steel=steel.name, field="celsius", value=f.celsius, limit=limit, unit="C"
        )

    welded = [(s, s.weld) for s in steels if s.weld] if kind in WELDED else []
    if found := too_hot(f.celsius, steels):
        return found
    if kind in FORGED and (off := _forged(f, steels)):
        return off
    copper = next((s for s in steels if is_copper(s)), None)
    if copper and copper.weld and kind in WELDED:
        # the copper's own bonding heat counts, far under that of the steels
        welded = [(copper, copper.weld)]
    if hot := next(((s, w) for s, w in welded if f.celsius > w[1] + 5), None):
        return of(WELD_HOT, hot[0], "Its welding range ends at", "Lower the heat; a longer soak does as much.", hot[1][1])
    if cold := next(((s, w) for s, w in welded if f.celsius < w[0] - 25), None):
        do = "Hotter, or very clean faces, more pressure and a longer soak."
        return of(WELD_COLD, cold[0], "Its welding range begins at", do, cold[1][0])
    return None


def _forged(f: Fired, steels: list[Steel]) -> Finding | None:
    """Outside the forging range of one of them by more than it is known; copper is another matter (`too_hot`)."""
    ranges = [(s, s.forge) for s in steels if not is_copper(s)]
    if hot := next(((s, r) for s, r in ranges if f.celsius > r[1] + FORGE_SURE), None):
        code, (steel, (_, limit)) = FORGE_HOT, hot
        why, do = f"It is forged at {limit:.0f} C at the most: above, it crumbles or burns at its grain boundaries.", "Lower the heat."
    elif cold := next(((s, r) for s, r in ranges if f.celsius < r[0] - FORGE_SURE), None):
        code, (steel, (limit, _)) = FORGE_COLD, cold
        why, do = f"It is forged from {limit:.0f} C on: colder, it cracks or splits under the hammer.", "Heat it up again."
    else:
        return None
    return code.found(f"{why} Indicative.", do, steel=steel.name, field="celsius", value=f.celsius, limit=limit, unit="C")


def _seal(f: Fired, steels: list[Steel]) -> Finding | None:
    steel = next((s for s in steels if wants_seal(s)), None)
    if steel is None or f.atmosphere == "sealed":
        return None
    return WANTS_SEAL.found(
        f"It has {steel.share('Cr'):.0f} % chromium; its oxide stays on the face, under flux as in a reducing fire.",
        f"Clean faces, weld the edges shut or use a can. {FLUORIDES}",
        steel=steel.name,
        field="atmosphere",
        value=steel.share("Cr"),
        limit=SEALED_FROM,
        unit="%",
    )


def _seams(f: Fired, steels: list[Steel]) -> Finding | None:
    steel = next((s for s in steels if has_seams(s)), None)
    if steel is None or f.celsius < SEAMS[0]:
        return None
    return SEAMS_RUN.found(
        f"Its sulphide and phosphide seams run at {SEAMS[0]:.0f} to {SEAMS[1]:.0f} C: it may fall apart under the hammer.",
        "Soft, even pressure for the first heats, between carriers of other steel or in a can, until it is one piece.",
        steel=steel.name,
        field="celsius",
        value=f.celsius,
        limit=SEAMS[0],
        unit="C",
    )


def _sulphur(f: Fired, steels: list[Steel]) -> Finding | None:
    steel = next((s for s in steels if fears_sulphur(s)), None)
    if steel is None or f.atmosphere == "sealed":
        return None
    return SULPHUR.found(
        "Coal and green coke hold sulphur; nickel takes it up, and its grain boundaries melt from 645 C on.",
        "Gas, charcoal or well burnt coke; no sulphurous cutting oil on the faces.",
        steel=steel.name,
    )


def _soaked(f: Fired, kind: str, before: Bar, numbers: Numbers) -> Finding | None:
    least = numbers.of(KEPT["weld"]) / 2
    if "minutes" not in f.own or f.minutes >= least or kind not in WELDED:
        return None
    return NOT_SOAKED.found(
        (
            f"{f.minutes:g} min at heat; a section of {before.width:.0f} x {before.thickness:.0f} mm takes about {f.soak:.0f} min in "
            "the fire, then some minutes more. Indicative."
        ),
        "Soak until skin and middle are one colour.",
        field="minutes",
        value=f.minutes,
        limit=least,
        unit="min",
    )


def _can(f: Fired, loose: bool) -> Finding | None:
    if not loose:
        return None
    return CAN_SOAK.found(
        f"Powder and loose pieces pass heat about a tenth as well as steel: {f.soak:.0f} min in the fire for this one. Indicative.",
        "Soak it out; nothing shows from outside.",
        value=f.soak,
        unit="min",
    )


def _many(f: Fired) -> Finding | None:
    if f.heats <= MANY:
        return None
    return MANY_HEATS.found(
        f"{f.heats} {'heats or more' if f.heats >= MOST else 'heats'}: the tool moves so little steel before the bar is cold. Indicative.",
        "Shorter pieces, a larger section, a striker, or a press, rolls or a power hammer.",
        field="heats",
        value=f.heats,
        limit=MANY,
    )


def _burnt(f: Fired, before: Bar) -> Finding | None:
    thin = min(before.width, before.thickness)
    share = 2 * f.scale / thin
    if share < SCALE_MOST:
        return None
    return MUCH_SCALE.found(
        f"{f.each} heats of {f.minutes:.0f} min take {f.scale:.2f} mm off every face: {100 * min(1.0, share):.0f} % of {thin:.1f} mm.",
        "Fewer or shorter heats, a richer fire, or a seal.",
        grade="stop" if share > 0.5 else "care",
        field="heats",
        value=100 * min(1.0, share),
        limit=100 * SCALE_MOST,
        unit="%",
    )


def _skin_left(f: Fired) -> Finding | None:
    if f.left <= LEFT_SEEN:
        return None
    return SKIN_LEFT.found(
        (
            f"About {f.left:.2f} mm of carbon-poor skin was left on the faces welded here. Carbon comes back within minutes at heat; "
            "what scale left in the joint stays."
        ),
        f"Grind {f.left:.2f} mm more off each face before the weld.",
        grade="care" if f.left > LEFT_CARE else "note",
        field="grind",
        value=f.left,
        limit=LEFT_SEEN,
        unit="mm",
    )


def _coarse(f: Fired) -> Finding | None:
    number = grain.astm(grain.last_grain([(f.celsius, f.minutes)]))
    if number >= FORGED_COARSE:
        return None
    return GRAIN.found(
        f"After {f.minutes:.0f} min at {f.celsius:.0f} C about ASTM {number:.0f}; blades want 8 or finer.",
        "Normalise two or three times from falling heats before hardening.",
        value=number,
        limit=grain.COARSE,
    )


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
    said.append(CARBON_MONOXIDE)
    if any(s.share("Cr") > 10 or s.share("Ni") > 20 for s in steels):
        said.append("Hot nickel and chromium give off harmful fumes and dust: mask, and air drawn off.")
    if kind == "twist":
        said.append("A bar in a twisting machine or wrench can whip round: clamp it well, keep sleeves and gloves clear.")
    elif kind == "forge" and tool == "press":
        said.append("A press does not stop for fingers, and hot scale flies metres: guards, tongs that hold, eyes shielded.")
    elif kind == "forge":
        said.append("Hot scale flies metres: eyes shielded, tongs that hold.")
    said.append("Local rules come first.")
    return " ".join(said)
