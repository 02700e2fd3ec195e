"""The browser folds entries too, for where there is no network: both folds are held against the same cases.

python -m tests.core.test_fold_twin    writes the cases anew
"""

import json
import random
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any
from uuid import UUID

from django.test import SimpleTestCase

from varistrat.core.build.entry import ENTRY
from varistrat.core.build.state import state_of

CASES = Path(__file__).parents[1] / "fixtures" / "builds" / "folds.json"
START = datetime(2031, 5, 17, 8, 0, tzinfo=UTC)
MANY, SEED = 60, 7


def told(entries: list[dict[str, Any]]) -> dict[str, Any]:
    """The state in plain JSON."""
    state = state_of(ENTRY.validate_python(e) for e in entries)
    operations = {
        name: {
            "standing": op.standing,
            "times": op.times,
            "why": op.why,
            "minutes": op.minutes,
            "measured": sorted([q, place, e.value, e.typed] for (q, place), e in op.measured.items() if place is None),
            "answers": {str(k): v for k, v in sorted(op.answers.items())},
            "running": {str(k): v.timestamp() for k, v in sorted(op.running.items())},
            "notes": [e.id for e in op.notes],
            "photos": [e.id for e in op.photos],
            "faults": [e.id for e in op.faults],
            "tests": [e.id for e in op.tests],
        }
        for name, op in sorted(state.operations.items())
    }
    times = [t.timestamp() if t else None for t in (state.begun, state.ended)]
    said = {"amended": [e.id for e in state.amended], "graded": state.graded.id if state.graded else None}
    return {"operations": operations, "void": sorted(state.void), "times": times} | said


def _entry(rng: random.Random, n: int, known: list[str]) -> dict[str, Any]:
    kinds: dict[str, dict[str, Any]] = {
        "measured": {"quantity": rng.choice(["width", "length"]), "value": round(rng.uniform(5, 90), 2), "typed": rng.choice(["", "5/8"])},
        "done": rng.choice([{}, {"minutes": float(rng.randint(1, 60))}]),
        "skipped": {"why": "welded already"},
        "redone": {"why": rng.choice(["", "a line"])},
        "checked": {"check": rng.randint(0, 2), "good": rng.random() < 0.7},
        "note": {"text": "blue at the tip"},
        "photo": {"photo": str(UUID(int=9000 + n))},
        "fault": {"text": "a crack"},
        "tested": {"tested": {"test": "brass", "seen": rng.choice(["fine", "rolled"])}},
        "timer": {"timer": rng.randint(0, 1), "running": rng.random() < 0.6},
        "amended": {"revision": rng.randint(2, 4), "why": "thinner"},
        "graded": {"grade": rng.choice(["first", "second"]), "why": "a pit at the heel"},
    }
    kind = rng.choice([*kinds, "voided", "measured", "done"])
    data = {"entry": rng.choice(known) if known else str(UUID(int=1))} if kind == "voided" else kinds[kind]
    op = "" if kind in ("amended", "graded") else rng.choice(["bar:weld", "bar:draw-s2", "blade:sand"])
    # clocks with other zones, slow ones, and two entries in one moment
    at = START + timedelta(minutes=rng.randint(0, 12), hours=rng.choice([0, 0, 0, -1]))
    zone = rng.choice(["+00:00", "+02:00", "-05:30"])
    local = at.astimezone(datetime.fromisoformat(f"2031-01-01T00:00:00{zone}").tzinfo)
    return {"id": str(UUID(int=rng.randint(1, 500))), "op": op, "kind": kind, "at": local.isoformat(), **data}


def cases() -> list[dict[str, Any]]:
    rng, out = random.Random(SEED), []
    for _ in range(MANY):
        entries: list[dict[str, Any]] = []
        for n in range(rng.randint(1, 24)):
            one = _entry(rng, n, [e["id"] for e in entries])
            if one["id"] not in {e["id"] for e in entries}:
                entries.append(one)
        rng.shuffle(entries)
        out.append({"entries": entries, "state": told(entries)})
    return out


class TwinTests(SimpleTestCase):
    def test_the_cases_are_what_the_core_says(self) -> None:
        kept = json.loads(CASES.read_text())
        self.assertEqual(len(kept), MANY)
        for n, case in enumerate(kept):
            self.assertEqual(told(case["entries"]), case["state"], n)
        kinds = {e["kind"] for case in kept for e in case["entries"]}
        self.assertEqual(len(kinds), 13, "every kind is among them")


if __name__ == "__main__":
    lines = ",\n".join(json.dumps(c, separators=(",", ":")) for c in cases())
    CASES.write_text(f"[\n{lines}\n]\n")
