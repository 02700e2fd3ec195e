"""Faces that lie on one another and are not yet one piece: which way they face, and what a step does to them.

Carried from step to step beside the bar. A weld is judged by what crosses the joint: how far the bar is brought down along the
joint's normal, not how thick it is. docs/physics.md#weld.
"""

from dataclasses import dataclass

from varistrat.core.bars.bar import Bar
from varistrat.core.findings import Code, Finding

LIGHT = 0.08
"""Share the bar comes down across a joint under which it hardly closes; a first pass takes 5 to 10 %. Indicative."""
HEALS = 0.30
"""Share in all that heals a weld."""
MUCH = 0.45
"""Share in one weld from which the layers slip or tear before they hold; indicative."""
TALL_CARE, TALL_STOP = 2.0, 3.5
"""Height over width of what is pressed from which it leans, and from which it buckles; indicative (2 for solid bars, 1.5 for laminates)."""
KEPT = 0.005
"""Share a size may change and still count as kept."""


NOT_WELDED = Code("not_welded", "bar", ("stop",), "The pile comes apart: it was never welded.")
BLADE_NOT_WELDED = Code("blade_not_welded", "bar", ("stop",), "This blade would be cut from loose pieces.")
WELD_OPENS = Code(
    "weld_opens",
    "bar",
    ("care", "stop"),
    {"care": "This makes the bar thicker, not thinner.", "stop": "This pulls the joint open instead of pressing it shut."},
)
WELD_LIGHT = Code("weld_light", "bar", ("care",), "That is too little to close the {what}.")
WELD_MUCH = Code("weld_much", "bar", ("care",), "So much at once slips or tears the layers before they hold.")
WELD_SIDEWAYS = Code("weld_sideways", "bar", ("note",), "It is pressed along this joint, not across it.")
WELD_BUCKLES = Code("weld_buckles", "bar", ("care", "stop"), "So tall a pile leans over and buckles under the die.")


@dataclass(frozen=True)
class Joints:
    """axes: the directions that open joints face ("z": lying on one another, "y": side by side; "" none). bare:
    nothing holds them but wire or tacks; can: a can holds them until it is pressed."""

    axes: str = ""
    bare: bool = False
    can: bool = False

    def __bool__(self) -> bool:
        return bool(self.axes)

    def turned(self, degrees: float, about: str) -> "Joints":
        """The bar turned in the hands: by a quarter about its length, z and y change places."""
        if about == "x" and degrees % 180 == 90:
            return Joints("".join(sorted({"z": "y", "y": "z"}[a] for a in self.axes)), self.bare)
        return self


NONE = Joints()


def _sizes(axis: str, before: Bar, after: Bar) -> tuple[float, float]:
    return (before.thickness, after.thickness) if axis == "z" else (before.width, after.width)


def not_welded(title: str) -> Finding:
    """Anything but a weld done to loose faces."""
    return NOT_WELDED.found(
        f"Its faces only lie on one another here; {title.lower()} pulls and shears them.", "Put a weld before this step."
    )


def judge_weld(joints: Joints, before: Bar, after: Bar) -> list[Finding]:
    """What a weld does to the joints that are open, or to the bar's thickness when none is."""
    found = []
    for axis in joints.axes or "z":
        found += _across(axis, joints, before, after)
    return found + _tall(before, after)


def _across(axis: str, joints: Joints, before: Bar, after: Bar) -> list[Finding]:
    was, now = _sizes(axis, before, after)
    other = 1 - _sizes("y" if axis == "z" else "z", before, after)[1] / _sizes("y" if axis == "z" else "z", before, after)[0]
    down = 1 - now / was
    field, size, way = (
        ("thickness", "height", "flat") if axis == "z" else ("width", "width", "on edge, so that the joint lies flat under the die")
    )
    limit = (1 - LIGHT) * was
    if down < -KEPT:
        return [
            WELD_OPENS.found(
                f"Across the joint the {size} grows from {was:.4g} to {now:.4g} mm.",
                f"Press it {way}: {limit:.3g} mm or less.",
                grade="stop" if joints else "care",
                field=field,
                value=now,
                limit=limit,
                unit="mm",
            )
        ]
    if down < LIGHT - 1e-9:
        if joints and down < KEPT and other >= LIGHT:
            return [
                WELD_SIDEWAYS.found(
                    (
                        f"The {size} is kept at {was:.4g} mm: only about half the pressure crosses the joint, and only while something "
                        "holds the "
                        "sides."
                    ),
                    f"Wire and tack it well and hold the sides, or press it {way} first.",
                    field=field,
                    value=now,
                    limit=limit,
                    unit="mm",
                )
            ]
        return [
            WELD_LIGHT.found(
                (
                    f"Across it the {size} falls by {100 * max(0.0, down):.0f} %. A first pass takes 5 to 10 %; the weld is healed only "
                    "once "
                    f"it is down by about {100 * HEALS:.0f} % in all. Indicative."
                ),
                f"Weld to {limit:.3g} mm or less, still at weld heat.",
                what="joint" if joints else "pile",
                field=field,
                value=now,
                limit=limit,
                unit="mm",
            )
        ]
    if joints.bare and down > MUCH + 1e-9:
        limit = (1 - MUCH) * was
        return [
            WELD_MUCH.found(
                f"The {size} falls by {100 * down:.0f} % in one weld; it heals by about {100 * HEALS:.0f} % in all. Indicative.",
                f"Set the weld to {limit:.3g} mm or more, go back to the fire, then draw it out.",
                field=field,
                value=now,
                limit=limit,
                unit="mm",
            )
        ]
    return []


def _tall(before: Bar, after: Bar) -> list[Finding]:
    """A bar pressed along its tall way leans over and buckles."""
    for high, low, size in ((before.thickness, before.width, after.thickness), (before.width, before.thickness, after.width)):
        tall = high / low
        if size < high * (1 - LIGHT) and tall > TALL_CARE:
            return [
                WELD_BUCKLES.found(
                    (
                        f"It stands {high:.4g} mm high on {low:.4g} mm: {tall:.1f} times as high as wide; {TALL_CARE:g} is the most for "
                        "a steady "
                        "press. Indicative."
                    ),
                    "Fewer or wider layers at once, or press it in a trough that holds the sides.",
                    grade="stop" if tall > TALL_STOP else "care",
                    field="thickness",
                    value=tall,
                    limit=TALL_CARE,
                )
            ]
    return []


def unwelded_blade() -> Finding:
    """A blade cut from a bar whose faces are still loose."""
    return BLADE_NOT_WELDED.found("The bar it lies in was never welded.", "Weld the bar first.")
