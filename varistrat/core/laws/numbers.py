"""Every number of the fire that a shop can measure for itself and put in place of ours."""

from typing import Literal, get_args

from varistrat.core.errors import InputError
from varistrat.core.figures import USUAL, Figure, Numbers

Atmosphere = Literal["air", "neutral", "rich", "very_rich", "flux", "sealed"]
ATMOSPHERES: tuple[Atmosphere, ...] = get_args(Atmosphere)
_SAY = "published ranges for the ratio to free air"
SCALE: dict[Atmosphere, Figure] = {
    "air": Figure(
        "scale_air",
        "scale",
        "Scale in air, or a lean flame",
        "×",
        1.0,
        0.1,
        3.0,
        "1 is the law itself; another set of data gives 1.5 to 1.7 times as much",
    ),
    "neutral": Figure("scale_neutral", "scale", "Scale in a neutral gas flame", "×", 0.85, 0.05, 3.0, _SAY),
    "rich": Figure("scale_rich", "scale", "Scale in a slightly rich flame", "×", 0.4, 0.02, 3.0, _SAY),
    "very_rich": Figure("scale_very_rich", "scale", "Scale in a very rich flame", "×", 0.15, 0.01, 3.0, _SAY),
    "flux": Figure("scale_flux", "scale", "Scale under borax", "×", 0.3, 0.02, 3.0, _SAY),
    "sealed": Figure("scale_sealed", "scale", "Scale inside a seal", "×", 0.0, 0.0, 1.0, "nothing reaches it"),
}
DECARB = Figure(
    "decarb",
    "scale",
    "Decarburised skin, times the calculated",
    "×",
    1.0,
    0.2,
    3.0,
    "Birks and Jackson, JISI 208 (1970) 81; surface without carbon",
    "polish a coupon and look",
)
EMISSIVITY = Figure(
    "emissivity", "soak", "How well the fire radiates into the bar", "", 0.7, 0.3, 0.95, "0.6 to 0.85 for scaled steel in a small chamber"
)
BLOWN = Figure("convection", "soak", "Heat carried by the gas", "W/m2K", 30.0, 5.0, 150.0, "10 to 20 still, 30 to 60 from a blown burner")
FORGE = Figure(
    "forge_slower",
    "soak",
    "A small forge against an ideal chamber",
    "×",
    1.8,
    1.0,
    4.0,
    "1.5 to 2.5: it cools when loaded, one face lies on the floor",
)
KEPT: dict[str, Figure] = {
    "weld": Figure(
        "kept_weld", "soak", "Kept at welding heat once it is hot through", "min", 5.0, 0.0, 60.0, "3 to 5 min of soak at colour is usual"
    ),
    "forge": Figure(
        "kept_forge", "soak", "Kept at forging heat once it is hot through", "min", 2.0, 0.0, 60.0, "as long as it takes to come back to it"
    ),
    "twist": Figure("kept_twist", "soak", "Kept at heat before a twist", "min", 3.0, 0.0, 60.0, "it must be one colour from end to end"),
}
"""Minutes at heat by what is done then."""
HOT_LENGTH = Figure(
    "hot_length", "draw", "Length the fire heats evenly", "mm", 200.0, 20.0, 2000.0, "a small gas forge", "of the bar, end to end"
)
PRESS_FORCE = Figure("press_force", "draw", "Force of the press", "kN", 250.0, 20.0, 5000.0, "a 25 t press")
PRESS_STROKES = Figure("press_strokes", "draw", "Strokes of the press", "/min", 25.0, 2.0, 120.0, "with the bar moved on between them")
PRESS_DIE = Figure("press_die", "draw", "Width of the press die", "mm", 40.0, 5.0, 300.0, "along the bar")
HAND_FACE = Figure("hand_face", "draw", "Width of the hand hammer's face", "mm", 25.0, 5.0, 80.0, "or of its peen, along the bar")
POWER_DIE = Figure("power_die", "draw", "Width of the power hammer's die", "mm", 45.0, 5.0, 200.0, "along the bar")
ROLL_DIAMETER = Figure("roll_diameter", "draw", "Diameter of the mill's rolls", "mm", 75.0, 20.0, 500.0, "a small mill")
HAND_BLOW = Figure("hand_blow", "draw", "Energy of a hand-hammer blow", "J", 40.0, 5.0, 150.0, "1.5 kg at about 7 m/s")
HAND_RATE = Figure("hand_rate", "draw", "Blows of a hand hammer", "/min", 50.0, 10.0, 120.0, "steady work")
POWER_BLOW = Figure("power_blow", "draw", "Energy of a power-hammer blow", "J", 250.0, 30.0, 20000.0, "a 25 kg tup at 4.5 m/s")
POWER_RATE = Figure(
    "power_rate",
    "draw",
    "Blows of the power hammer",
    "/min",
    100.0,
    20.0,
    400.0,
    "half of what it can: the bar is turned between",
)
BLOW_USED = Figure("blow_used", "draw", "Share of a blow that moves steel", "", 0.6, 0.1, 1.0, "the rest goes into rebound and the anvil")
ROLL_PASS = Figure("roll_pass", "draw", "Taken off in a pass of the mill", "mm", 2.0, 0.1, 12.0, "1.5 to 3 for a small mill")
ROLL_RATE = Figure("roll_rate", "draw", "Passes of the mill", "/min", 8.0, 1.0, 60.0, "in and out")
PASS_SHARE = Figure(
    "pass_share", "draw", "A pass takes off, of what is there", "%", 10.0, 2.0, 16.0, "8 to 12 % under a press", "less below 12 mm"
)
BLOCK_STEP = Figure("block_step", "draw", "Stop blocks go up by", "mm", 1.0, 0.1, 25.0, "a set in whole mm", "the press's own set")
BLOCK_LEAST = Figure("block_least", "draw", "The thinnest stop block", "mm", 3.0, 0.5, 50.0, "the press's own set")
HANDLING = Figure("handling", "draw", "From the fire to the first blow", "s", 6.0, 0.0, 60.0, "a few steps")
RELAX = Figure(
    "relax",
    "harden",
    "Share of a bend that the temper takes out in the clamp",
    "",
    0.5,
    0.1,
    0.95,
    "an hour or two at 200 C; more when hotter",
)
OIL_LITRES = Figure("oil_litres", "harden", "Oil for a kg of steel", "l", 10.0, 3.0, 100.0, "8 to 10 litres and more keep it cool")
OVEN_OFF = Figure(
    "oven_off",
    "harden",
    "Your temper oven is hotter than it says by",
    "C°",
    0.0,
    -60.0,
    60.0,
    "read a thermometer, or run colours on a bright coupon",
)
HARDNESS = Figure(
    "hardness_read", "harden", "Hardness comes out, against what is predicted", "×", 1.0, 0.85, 1.15, "your own tester on your own blades"
)
_SEEN = "middle of a published range, the blade moved about; find your own by how thick a coupon hardens through"
SEVERITY: dict[str, Figure] = {
    "water": Figure("severity_water", "harden", "Severity of your water (brine to 4)", "/inch", 1.5, 0.5, 5.0, _SEEN),
    "fast_oil": Figure("severity_fast_oil", "harden", "Severity of your fast oil", "/inch", 0.8, 0.2, 2.0, _SEEN),
    "medium_oil": Figure("severity_medium_oil", "harden", "Severity of your medium oil", "/inch", 0.45, 0.1, 1.5, _SEEN),
    "slow_oil": Figure("severity_slow_oil", "harden", "Severity of your slow, warm oil", "/inch", 0.3, 0.05, 1.0, _SEEN),
}
"""Grossmann H of each quench."""
KILN_MOST = Figure("kiln_most", "harden", "The hottest your kiln goes", "C", 1200.0, 300.0, 1400.0, "a small electric kiln")
KILN_RATE = Figure("kiln_rate", "harden", "How fast your kiln climbs", "C°/h", 1500.0, 50.0, 6000.0, "a small electric kiln, mean to 800 C")
HOLD = Figure("hold", "stock", "Kept to hold the bar by", "mm", 20.0, 0.0, 200.0, "a stub for tongs or a handle", "cut off at the end")
ENDS = Figure(
    "ends", "stock", "Bad ends of a weld, times its thickness", "", 0.4, 0.0, 3.0, "fish-mouths and unwelded corners", "at each end"
)
ENDS_LEAST = Figure("ends_least", "stock", "Bad ends, at the least", "mm", 5.0, 0.0, 50.0, "at each end")
RESERVE = Figure("reserve", "stock", "Reserve on the length", "", 0.1, 0.0, 1.0, "the usual tenth", "of all that must be there")
KERF = Figure("kerf", "stock", "Kerf of your saw", "mm", 1.5, 0.1, 6.0, "a band saw")
REACH = Figure("reach", "stock", "Longest bar your fire and hands manage", "mm", 600.0, 100.0, 5000.0, "a small shop")
_TIMED = "indicative; time a few of your own"
SAW = Figure("time_saw", "time", "A saw cut, each cm2", "min", 0.8, 0.05, 20.0, _TIMED)
SAW_SET = Figure("time_saw_set", "time", "Measuring and clamping for a cut", "min", 1.5, 0.1, 30.0, _TIMED)
CLEAN = Figure("time_clean", "time", "Mill scale off, each 10 x 10 cm", "min", 2.0, 0.1, 60.0, _TIMED)
PILE = Figure("time_pile", "time", "Piling, tacking, a handle on", "min", 12.0, 1.0, 240.0, _TIMED)
UNCAN = Figure("time_uncan", "time", "A can peeled off", "min", 20.0, 1.0, 240.0, _TIMED)
PILE_LAYER = Figure("time_pile_layer", "time", "And for each layer", "min", 0.8, 0.05, 30.0, _TIMED)
AT_ANVIL = Figure("time_heat", "time", "At anvil, press or rolls, each heat", "min", 2.0, 0.2, 30.0, _TIMED)
FACES = Figure("time_faces", "time", "Ground flat, each cm3", "min", 4.0, 0.2, 60.0, _TIMED)
SHAPE = Figure("time_shape", "time", "Profile and bevels, each cm3 ground", "min", 2.5, 0.2, 60.0, _TIMED)
HEAT_STEP = Figure("time_hardening", "time", "Each step of the hardening, hands on", "min", 6.0, 0.5, 120.0, _TIMED)
SAND = Figure("time_sand", "time", "Finish grind and hand sanding, each cm2", "min", 1.2, 0.05, 30.0, _TIMED)
ETCHING = Figure("time_etch", "time", "A cycle of etch, hands on", "min", 5.0, 0.5, 120.0, _TIMED)
MARKING = Figure("time_mark", "time", "Stencil and mark", "min", 15.0, 1.0, 240.0, _TIMED)
LOOK = Figure("time_look", "time", "The last look", "min", 15.0, 1.0, 240.0, _TIMED)
FIT_UP = Figure("time_fit_up", "time", "Guard and handle", "min", 180.0, 0.0, 6000.0, _TIMED)
GLUE = Figure("time_glue", "time", "Glue sets", "min", 720.0, 0.0, 6000.0, "as its maker says")
PEEN = Figure("time_peen", "time", "Pins peened", "min", 25.0, 1.0, 600.0, _TIMED)
COLOUR = Figure("time_colour", "time", "Fittings coloured by heat", "min", 30.0, 1.0, 600.0, _TIMED)
COAT = Figure("time_coat", "time", "A coat on the handle, hands on", "min", 10.0, 1.0, 240.0, _TIMED)
OIL_DRIES = Figure("time_oil_dries", "time", "A coat of oil dries", "min", 1440.0, 30.0, 20000.0, "as its maker says")
LACQUER_DRIES = Figure("time_lacquer_dries", "time", "A coat of lacquer dries", "min", 240.0, 10.0, 20000.0, "as its maker says")
WAX_DRIES = Figure("time_wax_dries", "time", "A coat of wax sets", "min", 30.0, 5.0, 2000.0, "as its maker says")
SHEATH = Figure("time_sheath", "time", "Sheath cut, sewn and formed", "min", 240.0, 10.0, 6000.0, _TIMED)
SHEATH_DRIES = Figure(
    "time_sheath_dries", "time", "A sheath formed wet dries", "min", 1440.0, 60.0, 20000.0, "in the shade, not by the stove"
)
SHARPEN = Figure("time_sharpen", "time", "Edge, and its test", "min", 30.0, 1.0, 600.0, _TIMED)
ETCH_R0 = Figure(
    "etch_r0",
    "finish",
    "Plain carbon steel loses in ferric chloride of 10 % at 20 C",
    "um/min",
    0.8,
    0.1,
    5.0,
    "published 0.4 to 1.5; etch a coupon and measure the step",
    "all other steels in proportion",
)
GALVANIC_PLAIN = Figure(
    "galvanic_plain", "finish", "Plain steel beside nickel or chromium steel is eaten", "×", 1.2, 1.0, 2.0, "published 1.1 to 1.4"
)
GALVANIC_NOBLE = Figure(
    "galvanic_noble", "finish", "Nickel or chromium steel beside plain steel is eaten", "×", 0.8, 0.2, 1.0, "published 0.6 to 0.9"
)
ETCH_MOVED = Figure("etch_moved", "finish", "A bath kept moving against a still one", "×", 1.5, 1.0, 4.0, "published 1.5 to 3")
MARK_YIELD = Figure("mark_yield", "finish", "Share of a marking current that takes off steel", "", 0.65, 0.2, 1.0, "published 0.5 to 0.8")
DAY = Figure("day_hours", "time", "Hours at work in a day", "h", 6.0, 0.5, 16.0, "what is left of a day after all else")
WEEK = Figure("week_days", "time", "Days at work in a week", "", 5.0, 1.0, 7.0, "from Monday")
WAGE = Figure("wage", "money", "An hour of yours", "", 25.0, 0.0, 1e4, "in your own money")
GAS = Figure("gas_hour", "money", "Gas in an hour at the fire", "kg", 1.2, 0.0, 50.0, "a two-burner forge")
GAS_PRICE = Figure("gas_price", "money", "A kilogram of gas", "", 2.5, 0.0, 1e4, "in your own money")
KILN_POWER = Figure("kiln_power", "money", "The kiln takes", "kW", 2.0, 0.1, 50.0, "mean over a run")
POWER_PRICE = Figure("power_price", "money", "A kilowatt hour", "", 0.3, 0.0, 1e3, "in your own money")
BELTS = Figure("belts_blade", "money", "Belts and paper for a blade", "", 9.0, 0.0, 1e4, "in your own money")
ACID = Figure("acid_blade", "money", "Etchant and neutraliser for a blade", "", 2.0, 0.0, 1e4, "in your own money")
STEEL_PRICE = Figure("steel_price", "money", "A kilogram of steel without a price of its own", "", 8.0, 0.0, 1e4, "in your own money")
KEEP_FROM = Figure("keep_from", "stock", "What is left is kept from", "mm", 60.0, 0.0, 1000.0, "shorter ends are not found again")
TICK = Figure("tick", "stock", "Bars are cut to whole", "mm", 5.0, 0.1, 50.0, "a chalk line", "rounded up")

EDGES: dict[str, tuple[float, float]] = {
    "water": (1.5, 2.0),
    "fast_oil": (0.8, 1.2),
    "medium_oil": (0.7, 1.0),
    "slow_oil": (0.5, 0.8),
    "air": (0.3, 0.5),
}
"""Edge thickness to leave before the quench, mm (least, usual most); indicative."""

FIGURES: dict[str, Figure] = {
    f.key: f
    for f in (
        *SCALE.values(),
        DECARB,
        EMISSIVITY,
        BLOWN,
        FORGE,
        *KEPT.values(),
        HOT_LENGTH,
        PRESS_FORCE,
        PRESS_STROKES,
        PRESS_DIE,
        HAND_FACE,
        POWER_DIE,
        ROLL_DIAMETER,
        HAND_BLOW,
        HAND_RATE,
        POWER_BLOW,
        POWER_RATE,
        BLOW_USED,
        ROLL_PASS,
        ROLL_RATE,
        PASS_SHARE,
        BLOCK_STEP,
        BLOCK_LEAST,
        HANDLING,
        RELAX,
        OIL_LITRES,
        OVEN_OFF,
        HARDNESS,
        *SEVERITY.values(),
        KILN_MOST,
        KILN_RATE,
        HOLD,
        ENDS,
        ENDS_LEAST,
        RESERVE,
        KERF,
        REACH,
        TICK,
        KEEP_FROM,
        SAW,
        SAW_SET,
        CLEAN,
        PILE,
        PILE_LAYER,
        AT_ANVIL,
        FACES,
        SHAPE,
        HEAT_STEP,
        SAND,
        ETCHING,
        MARKING,
        LOOK,
        FIT_UP,
        GLUE,
        PEEN,
        COLOUR,
        COAT,
        OIL_DRIES,
        LACQUER_DRIES,
        WAX_DRIES,
        SHEATH,
        SHEATH_DRIES,
        SHARPEN,
        ETCH_R0,
        GALVANIC_PLAIN,
        GALVANIC_NOBLE,
        ETCH_MOVED,
        MARK_YIELD,
        DAY,
        WEEK,
        WAGE,
        GAS,
        GAS_PRICE,
        KILN_POWER,
        POWER_PRICE,
        BELTS,
        ACID,
        STEEL_PRICE,
    )
}


def kept_at_heat(fire: str, numbers: Numbers = USUAL) -> float:
    """Minutes a bar is kept at heat for a step's `fire`; a joint is kept as a weld is."""
    return numbers.of(KEPT["weld" if fire == "join" else fire]) if fire else 0.0


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
