"""The heat of hardening, in a kiln or by magnet and eye."""

from math import ceil

from varistrat.core.cautions import CARBON_MONOXIDE
from varistrat.core.findings import Code, Finding
from varistrat.core.heat.colours import glow
from varistrat.core.heat.fires.soak import through_minutes
from varistrat.core.heat.hardening.hardening import MAGNET, BladeHardening, Part
from varistrat.core.heat.hardening.plan.step import LONG, PlanStep, say_hrc
from varistrat.core.heat.segment import Segment
from varistrat.core.laws import grain
from varistrat.core.laws.transform import SOLUTION_SURE
from varistrat.core.steels.ceiling import ceiling_of, too_hot
from varistrat.core.steels.hardening import BY_LAW, EDGE_LEAST, TARGET, Quenched, short_of_full

PLATE_CARBON = 1.0
"""Carbon in solution from which martensite comes in plates with fine cracks, %."""
OVERHEAT = 40.0
"""C over its range from which grain is called coarse."""
BELOW_RANGE = 15.0
"""C under a steel's own range from which it is told; what is read off a kiln is hardly better than ten."""
NO_WINDOW = Code(
    "no_window",
    "heat",
    ("care", "stop"),
    {"care": "No one heat suits all its steels.", "stop": "With {steel} in it this blade cannot be hardened."},
)
OVERHEATED = Code("overheated", "heat", ("care",), "Too hot: the grain grows coarse.")
NOT_HOT_ENOUGH = Code("not_hot_enough", "heat", ("care", "stop"), "{steel} does not come to its hardness from this heat.")
NOT_BY_MAGNET = Code("not_by_magnet", "heat", ("stop",), "Not by magnet and eye: this one wants a kiln.")
SOFT = 40.0
"""Hardness under which a steel is called soft, HRC: a file cuts it freely; indicative."""
CLAD_PARTLY = Code("clad_partly", "heat", ("note",), "{steel} does not come to its full hardness at this heat.")
CLAD_SOFT = Code("clad_soft", "heat", ("note",), "{steel} stays soft at this heat.")
NOT_KNOWN = Code("not_known", "heat", ("care",), "How {steel} hardens from this heat is not known here.")
SOAK_BY_EYE = Code("soak_by_eye", "heat", ("care",), "These steels want a soak that is hard to hold by eye.")
PLATE = Code("plate", "heat", ("care",), "{steel} turns to brittle plates.")
MUCH_CARBON = Code("much_carbon", "heat", ("note",), "{steel} has a little much carbon in solution.")


def heat(w: BladeHardening) -> PlanStep:
    """To the heat and held there, in a kiln or by magnet and eye."""
    said = glow(w.heat)
    warm = through_minutes(w.blade.width, w.blade.spine, w.heat + 8, w.heat - 5)
    found = _findings(w)
    whole = w.blade.whole or w.blade.length
    room = f" Its chamber must take {10 * ceil((whole + 40) / 10):.0f} mm." if whole > LONG else ""
    kiln = f"Kiln at {w.heat:.0f} C.{room} The blade is hot through about {warm:.0f} min after it goes in; then soak {w.soak:.0f} min." + (
        f" It glows {said[1]}." if said else ""
    )
    solved = [
        f"{p.steel.name}: {p.quenched.carbon:.2f} % carbon in solution."
        for p in w.parts
        if p.quenched and p.quenched.carbon is not None and p.steel.key in w.asked
    ]
    why = " ".join(solved) + f" {TARGET[0]} to {TARGET[1]} is wanted." if solved else "Its own published range and soak."
    do = kiln
    if w.said.school == "magnet":
        if w.not_by_magnet:
            found.append(NOT_BY_MAGNET.found(w.not_by_magnet, "Harden it in a controlled kiln, or have it done.", field="school"))
        else:
            do, why = _by_magnet(w, said[1] if said else "")
            if any(s.share("Cr") > 0.8 for s in (w.shop.steels[k] for k in w.asked)):
                found.append(
                    SOAK_BY_EYE.found(
                        f"Chromium carbides take {w.soak:.0f} min at heat to dissolve.",
                        "Use a controlled kiln for this one, or expect a point or two less.",
                        field="school",
                    )
                )
    program = (Segment(celsius=650, minutes=10, through=True), Segment(celsius=w.heat, rate=300, minutes=w.soak, through=True))
    return PlanStep(
        "heat",
        "Harden: the heat",
        do,
        why,
        "Bare steel in air loses carbon: foil, paste or a rich fire, and as short as it may be."
        + (f" {CARBON_MONOXIDE}" if w.said.school == "magnet" else ""),
        program,
        tuple(found),
    )


def _findings(w: BladeHardening) -> list[Finding]:
    found: list[Finding] = []
    melting = too_hot(w.heat, w.materials)
    if melting:
        found.append(melting)
    if w.window is None and len(w.asked) >= 1:
        found.append(_no_window(w))
    if not melting or melting.grade != "stop":
        found += [f for p in w.parts if (f := _of_part(w, p))]
    high = max((w.ranges[k][1] for k in w.asked), default=900.0)
    if w.heat > high + OVERHEAT:
        grown = (
            f"; {w.soak:.0f} min there make grain of about ASTM {grain.astm(grain.grown(grain.START, w.heat, w.soak)):.0f}"
            if w.heat < 1000
            else ""
        )
        found.append(
            OVERHEATED.found(
                f"{w.heat:.0f} C is {w.heat - high:.0f} C° over its range{grown}.",
                "Stay in the range, or normalise again before hardening.",
                field="celsius",
                value=w.heat,
                limit=high,
                unit="C",
            )
        )
    return found


def _of_part(w: BladeHardening, p: Part) -> Finding | None:
    """What this heat makes of one of the steels."""
    q = p.quenched
    if not q:
        return None
    asked = p.steel.key in w.asked
    if short := _short(w, p, q):
        low, _ = w.ranges[p.steel.key]
        if not asked:
            code = CLAD_SOFT if q.hrc is None or q.hrc < SOFT else CLAD_PARTLY
            return code.found(
                f"{short} It does not lie at the edge and need not harden.",
                "Leave it so: the edge decides the heat.",
                steel=p.steel.name,
                field="celsius",
            )
        return NOT_HOT_ENOUGH.found(
            short,
            "Hotter." if w.heat < low else "A heat in its own range.",
            grade="stop" if p.edge and (q.hrc is None or q.hrc < EDGE_LEAST) else "care",
            steel=p.steel.name,
            field="celsius",
            value=w.heat,
            limit=low,
            unit="C",
        )
    if q.unknown and q.hrc is None and asked:
        return NOT_KNOWN.found(
            f"{q.unknown}.",
            "Ask its maker for heat, soak, quench and hardness, and put them in under Steels; test a coupon.",
            steel=p.steel.name,
            field="celsius",
        )
    if q.carbon is not None and q.retained is not None and q.carbon > PLATE_CARBON:
        return PLATE.found(
            (
                f"{q.carbon:.2f} % carbon in solution; above {PLATE_CARBON:.1f} % martensite comes in plates with fine cracks, and up to "
                f"{100 * q.retained[1]:.0f} % austenite is left."
            ),
            "Lower the heat; normalise first so that the carbides are fine.",
            steel=p.steel.name,
            field="celsius",
            value=q.carbon,
            limit=PLATE_CARBON,
            unit="%",
        )
    if q.carbon is not None and q.retained is not None and q.carbon > TARGET[1] + SOLUTION_SURE and p.edge:
        return MUCH_CARBON.found(
            (
                f"{q.carbon:.2f} % (within {SOLUTION_SURE}); {TARGET[0]} to {TARGET[1]} is wanted. {100 * q.retained[0]:.0f} to "
                f"{100 * q.retained[1]:.0f} % austenite is left."
            ),
            "Keep to the lower end, and do not soak longer.",
            steel=p.steel.name,
            field="celsius",
            value=q.carbon,
            limit=TARGET[1],
            unit="%",
        )
    return None


def _short(w: BladeHardening, p: Part, q: Quenched) -> str:
    """How far this heat leaves it short of its hardness, in words; empty where it comes to it. Judged by what comes out, and by its range
    only where that is not known."""
    low, high = w.ranges[p.steel.key]
    own = f"It is hardened from {low:.0f} to {high:.0f} C; {w.heat:.0f} C is planned."
    lacks = short_of_full(p.steel, (low, high), w.heat, w.soak, p.carbon, w.shop.numbers)
    if lacks is None:
        return own if w.heat < low - BELOW_RANGE else ""
    if lacks <= BY_LAW:
        return ""
    part = f" At that heat {100 * q.austenite:.0f} % of it is austenite." if q.austenite < 0.995 and not q.unknown else ""
    return f"{own}{part} It comes out {lacks:.0f} HRC softer than from its own range: {say_hrc(q.hrc)}."


def _by_magnet(w: BladeHardening, colour: str) -> tuple[str, str]:
    """(what to do, why): how far past the magnet it goes, in words that add up."""
    more = w.heat - MAGNET
    past = "then no more than a shade" if more < 15 else f"then about {5 * round(more / 5):.0f} C° more"
    looks = f"{colour}, " if colour else ""
    do = (
        f"Warm it evenly, edge up or moving, until a magnet lets go (by {MAGNET:.0f} C), {past}: {looks}about {w.heat:.0f} C. "
        f"Hold that colour {max(1.0, min(w.soak, 3.0)):.0f} to {max(2.0, min(w.soak, 5.0)):.0f} min; shaded light."
    )
    return (
        do,
        (
            f"Iron loses its magnetism at {MAGNET:.0f} C, high-carbon steel as it transforms, up to 40 C° before; the eye is good to "
            "20 C° in the shade and to 60 C° in the sun."
        ),
    )


def _no_window(w: BladeHardening) -> Finding:
    ranges = "; ".join(f"{w.shop.steels[k].name} {w.ranges[k][0]:.0f} to {w.ranges[k][1]:.0f} C" for k in w.asked)
    low = max(w.ranges[k][0] for k in w.asked)
    if w.ceiling < low and len({w.ranges[k] for k in w.asked}) >= 1 and w.ceiling < min(w.ranges[k][1] for k in w.asked):
        first = min(w.materials, key=ceiling_of)
        return NO_WINDOW.found(
            f"{ranges}; {first.name} may never be hotter than {w.ceiling:.0f} C.",
            f"Another steel at the edge, hardened under {w.ceiling:.0f} C, or no {first.name}.",
            grade="stop",
            steel=first.name,
            field="celsius",
            value=low,
            limit=w.ceiling,
            unit="C",
        )
    return NO_WINDOW.found(
        f"{ranges}. It is planned for {w.shop.steels[w.lead or ''].name}, which lies at the edge.",
        "Expect the other soft, or coarse; try a coupon.",
        grade="care",
        field="celsius",
    )
