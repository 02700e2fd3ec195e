"""What a steel asks of the fire it is welded and forged in, told alike by pairing, fire and a new step."""

from varistrat.core.steels.model import Steel

SEALED_FROM = 4.0
"""% chromium from which borax no longer takes up the oxide (Cr2O3) of a face; indicative, handbook practice."""
SULPHUR_MOST = 0.08
"""% sulphur over which a steel is free-machining and tears at welding heat; plain steels have 0.05 at the most."""
SULPHUR_SPOILS = 50.0
"""% nickel from which sulphur of the fire makes a face brittle: nickel and its sulphide melt together at 645 C."""
SEAMS = (988.0, 1048.0)
"""C at which sulphide and phosphide seams of meteoritic iron run: the eutectics Fe-FeS and Fe-Fe3P."""
FLUORIDES = "A flux with fluorides takes up chromium oxide, and its fumes are poisonous: outdoors or under an extractor, respirator on."


def wants_seal(steel: Steel) -> bool:
    """Whether its faces weld only where no air gets at them."""
    return steel.share("Cr") > SEALED_FROM


def tears(steel: Steel) -> bool:
    """Whether it has so much sulphur that it is hot short."""
    return steel.share("S") > SULPHUR_MOST


def fears_sulphur(steel: Steel) -> bool:
    """Whether a sulphurous fire spoils it."""
    return steel.share("Ni") > SULPHUR_SPOILS


def has_seams(steel: Steel) -> bool:
    """Whether it holds seams that melt long before it does."""
    return steel.family == "meteoritic"
