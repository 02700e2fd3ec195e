"""The hardening as it went: what was read after the quench and the tempers that were done, as the shop sheet was told of them."""

from varistrat.core.build.state import BuildState, OperationState
from varistrat.core.design.document import Document, read_document
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError
from varistrat.core.heat.hardening.plan import hardening_plan
from varistrat.core.route.operation import Quantity

TEST, TEMPER = "blade:harden-test", "blade:harden-temper"
"""Ids of the operations that tell of it."""
UNSAID = 200.0
"""Heat of a temper that nobody planned nor said, C."""


def as_read(worked: Worked, state: BuildState) -> Document:
    """The design with the build's own readings in place of any that were kept with it; the same where nothing was read or tempered.

    Raises InputError for a reading that cannot be, with the operation in its path.
    """
    quenched, tempered = state.of(TEST).readings("hardness"), _rounds(state.of(TEMPER))
    if not quenched and not tempered:
        return worked.document
    data = worked.document.as_json()
    hardening = data.setdefault("hardening", {})
    # those of another blade say nothing of this one
    hardening["tempered"] = []
    hardening["hardened"] = hardening.get("hardened", {}) | {"hrc": quenched}
    for of in tempered:
        planned = Worked.of(_read(data, worked, TEST)).hardening
        said = of.get("celsius") or [planned.set_oven or UNSAID]
        hardening["tempered"].append({"celsius": said[-1], "hours": planned.hours, "hrc": of.get("hardness", [])})
    return _read(data, worked, TEMPER if tempered else TEST)


def _read(data: dict[str, object], worked: Worked, op: str) -> Document:
    try:
        return read_document(data, worked.shop)
    except InputError as e:
        raise InputError([p.under(op) for p in e.problems]) from None


def _rounds(said: OperationState) -> list[dict[Quantity, list[float]]]:
    """What was measured at each temper that was done, the first first."""
    return [*said.rounds, *([{q: said.readings(q) for q, _ in said.measured}] if said.standing == "done" else [])]


def follows(worked: Worked) -> dict[str, str]:
    """By operation: what is to be done after what was read there, in words; empty where nothing is."""
    hardening = worked.hardening
    if not hardening.said.hardened.hrc and not hardening.said.tempered:
        return {}
    steps = {s.key: s for s in hardening_plan(hardening)}
    out = {}
    if (test := steps.get("test")) and hardening.said.hardened.hrc:
        out[TEST] = " ".join(f"{f.what} {f.why} {f.do}".strip() for f in test.findings if f.grade != "note")
        if (temper := steps.get("temper")) and not hardening.said.tempered:
            out[TEST] = f"{out[TEST]} Temper: {temper.do}".strip()
    if (temper := steps.get("temper")) and hardening.said.tempered:
        found = " ".join(f"{f.what} {f.why} {f.do}".strip() for f in temper.findings)
        out[TEMPER] = " ".join(filter(None, (temper.do, found)))
    return {op: text for op, text in out.items() if text}
