"""Temperatures in words: the glow of hot steel, and the run colours of tempering. C; colours for the screen."""

Colour = tuple[float, str, str]
GLOW: tuple[Colour, ...] = (
    (525, "first glow in the dark", "#3a1512"), (600, "dull red", "#5a1712"), (650, "dark red", "#741b12"), (700, "dull cherry", "#8f2013"),
    (750, "cherry", "#a82a14"), (800, "full cherry", "#c03616"), (850, "bright cherry", "#d24519"), (900, "light red", "#e0561d"),
    (950, "orange-red", "#ea6a22"), (1000, "orange", "#f1822b"), (1050, "light orange", "#f69a38"), (1100, "yellow-orange", "#f9b048"),
    (1150, "yellow", "#fbc55e"), (1200, "light yellow", "#fcd77b"), (1250, "lemon", "#fde59b"), (1300, "yellow-white", "#fef1c2"),
        (1350, "white, sparks", "#fffbe9"),
)  # fmt: skip
RUN: tuple[Colour, ...] = (
    (205, "faint straw", "#efe3bd"), (215, "light straw", "#ecd89c"), (225, "straw", "#e6c873"), (235, "dark straw", "#d9ad4f"),
    (245, "yellow-brown", "#c4893a"), (255, "brown", "#a5653a"), (265, "red-brown", "#8d4a48"), (275, "purple", "#6f3f66"),
    (285, "violet", "#563f80"), (295, "dark blue", "#37468c"), (310, "mid blue", "#3f6bab"), (320, "light blue", "#7199c0"),
    (335, "grey-blue", "#8ea3ad"), (350, "grey", "#9a9a94"),
)  # fmt: skip
GLOW_SURE, RUN_SURE = 20.0, 8.0


def glow(celsius: float) -> Colour | None:
    """What it looks like in shaded light, within 20 C; None while it is black."""
    return None if celsius < 510 else min(GLOW, key=lambda c: abs(c[0] - celsius))


def run_colour(celsius: float) -> Colour | None:
    """Oxide colour after 30 to 60 min on clean plain steel, within 8 C; chromium steels 20 to 80 C later; None below straw."""
    return None if celsius < 198 else min(RUN, key=lambda c: abs(c[0] - celsius))
