"""Whether they move alike under the hammer."""

from varistrat.core.pairing.pairing import Pairing, Reason
from varistrat.core.steels.flow import CONTAIN, WARN


def flow(p: Pairing) -> Reason:
    """By how much stiffer one is than the other at forging heat."""
    ratio, soft, stiff = p.stiffness
    if p.forge_window is None:
        return Reason(
            "flow",
            "stop",
            "No forging heat suits all of them.",
            f"{p.names(soft, stiff)} are forged at different heats.",
            "Choose steels forged alike.",
            ratio,
            "x",
        )
    low, high = p.forge_window
    why = f"{stiff.name} is {ratio:.2f} times as stiff as {soft.name} at forging heat; they are forged between {low:.0f} and {high:.0f} C."
    if ratio > CONTAIN:
        return Reason(
            "flow",
            "care",
            f"{soft.name} squeezes out at the sides; {stiff.name} breaks up when it is thin.",
            why,
            "Weld the edges shut or use a can; hold it hot; few thick layers.",
            ratio,
            "x",
        )
    if ratio > WARN:
        return Reason(
            "flow",
            "care",
            f"{soft.name} bulges at the edges and its layers come out thinner.",
            why,
            "Work it hot, in light even passes; trim the edges early.",
            ratio,
            "x",
        )
    return Reason("flow", "note", "They flow together.", why, "", ratio, "x")
