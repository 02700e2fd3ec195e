"""The test before the temper: file and hardness tester against what is expected."""

from math import hypot

from varistrat.core.findings import Code, Finding
from varistrat.core.heat.hardening.hardening import BY_READING, BladeHardening
from varistrat.core.heat.hardening.plan.step import PlanStep, say_hrc

SKATES = 60.0
"""Hardness from which a good file (64 HRC) skates, HRC; under 58 it bites."""
SOFT_QUENCHED = Code("soft_quenched", "heat", ("care", "stop"), "It did not come to full hardness.")
UNEVEN = Code("uneven", "heat", ("care",), "Hard and soft spots.")
HARD_READING = Code("hard_reading", "heat", ("note",), "Harder than it can be: check the tester.")
FILE_BITES = Code("file_bites", "heat", ("care",), "A file bites: under about 58 HRC, or a soft skin.")


def as_quenched(w: BladeHardening) -> PlanStep:
    """File and tester before the temper, and what the readings say."""
    read = w.said.hardened
    if w.expected is None:
        why = w.unknown or "It does not harden from this heat"
        return PlanStep(
            "test",
            "Test before the temper",
            "Try a file along the whole edge and read its hardness on three spots or more: what it should be is not known here.",
            f"{why}.",
            "As quenched it may be brittle as glass: do not drop, bend or clamp it; eye protection.",
            (),
            (),
            bool(read.hrc or read.file),
        )
    hrc, sure = w.expected
    return PlanStep(
        "test",
        "Test before the temper",
        f"{_file(hrc, sure)} Expected at the edge: {say_hrc(hrc).removeprefix('about ')}, within {sure:.1f}.{_back(w, hrc)}"
        + (" Read on three spots or more." if not read.hrc else f" Read: {', '.join(f'{h:g}' for h in read.hrc)}."),
        "Layers thinner than the tester's dent are read as their mean.",
        "As quenched it is brittle as glass: do not drop, bend or clamp it; eye protection.",
        (),
        tuple(_findings(w, hrc, sure)),
        bool(read.hrc or read.file),
    )


def _findings(w: BladeHardening, hrc: float, sure: float) -> list[Finding]:
    """What was read, beside the hardness expected at the edge."""
    read = w.said.hardened
    found: list[Finding] = []
    if read.hrc:
        mean = sum(read.hrc) / len(read.hrc)
        spread = max(read.hrc) - min(read.hrc)
        # as surely as the hardness is expected and the spots are read, twice over
        beyond = hypot(sure, 2 * BY_READING / len(read.hrc) ** 0.5)
        if mean < hrc - beyond:
            found.append(
                SOFT_QUENCHED.found(
                    (
                        f"Read {mean:.1f}, expected {hrc:.0f} HRC within {sure:.1f}. In the order to check: a skin without carbon (grind "
                        "0.2 mm "
                        "and read again), not hot or soaked enough, too slow a quench, the wrong steel at the spot."
                    ),
                    "Read again below the skin; if it is still soft, normalise once and harden again.",
                    grade="stop" if mean < 50 else "care",
                    field="hardened",
                    value=mean,
                    limit=hrc,
                    unit="HRC",
                )
            )
        elif mean > hrc + beyond:
            found.append(
                HARD_READING.found(
                    f"Read {mean:.1f}, expected {hrc:.0f} HRC at most within {sure:.1f}.",
                    "Try the tester on its block.",
                    field="hardened",
                    value=mean,
                    limit=hrc,
                    unit="HRC",
                )
            )
        if spread > 4:
            found.append(
                UNEVEN.found(
                    f"Readings differ by {spread:.1f} HRC: scale, steam pockets, uneven heat, or different steels under the point.",
                    "Read again on clean steel; harden again if the edge itself is soft.",
                    field="hardened",
                    value=spread,
                    unit="HRC",
                )
            )
    if read.file == "bites" and hrc >= 58:
        found.append(
            FILE_BITES.found(
                "A good file is about 64 HRC; it skates over a hard edge.",
                "File through the skin and try again before you do anything else.",
                field="hardened",
            )
        )
    return found


def _file(hrc: float, sure: float) -> str:
    if hrc - min(sure, 2.0) >= SKATES - 2:
        return "A file should skate along the whole edge."
    return (
        "A file bites or just slips: it does not come to full hardness here." if hrc >= 50 else "A file bites: this is not a hardened edge."
    )


def _back(w: BladeHardening, hrc: float) -> str:
    """The spine, where it comes out another hardness than the edge."""
    lead = next((p for p in w.parts if p.steel.key == w.lead), None)
    back = lead.middle if lead else None
    if not back or back.hrc is None or abs(back.hrc - hrc) < 2:
        return ""
    return f" At the spine, {w.blade.spine:.1f} mm: {say_hrc(back.hrc)}, within {back.sure:.0f}."
