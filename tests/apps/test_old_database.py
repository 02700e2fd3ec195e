"""A database as the version before shops and jobs left it: brought up to date, nothing of it is lost and all of it stays where it
belongs."""

import json
import os
import sqlite3
import subprocess
import sys
import tempfile
from contextlib import closing
from pathlib import Path
from typing import Any

from django.test import SimpleTestCase

ROOT = Path(__file__).resolve().parents[2]
OLD = ROOT / "tests" / "fixtures" / "databases" / "0.sql"
LOOK = """
import django, json; django.setup()
from django.contrib.auth.models import User
from varistrat.core.design.document import read_document
from varistrat.core.design.worked import Worked
from varistrat.designs import selectors
from varistrat.jobs import selectors as jobs
from varistrat.core.kiln.controller import SimulatedController
from varistrat.kiln import services as kiln
from varistrat.shop.services import in_use, own, people
out = {}
for user in User.objects.order_by("pk"):
    at = people.member_of(user)
    shop = at.shop
    designs = [d for d, _ in selectors.bench(shop)]
    out[user.username] = {
        "shop": shop.name, "role": at.role, "in_use": in_use.steels_in_use(shop),
        "numbers": own.own_numbers(shop), "hands": own.shop_hands(shop)["hammer"],
        "steels": {k: s.name for k, s in own.own_steels(shop).items()}, "retired": sorted(own.retired_steels(shop)),
        "designs": [d.name for d in designs], "bin": [d.name for d, _ in selectors.thrown_away(shop)],
        "saves": [[r.number, r.stale, r.saved_by] for d in designs for r in selectors.history(d)],
        "layers": [Worked.of(read_document(selectors.revision_of(d).document, own.shop_data(shop))).forged.bar.length for d in designs],
        "programs": [p.name for p in kiln.programs_of(shop)],
        "runs": [
            [r.name, r.state, r.lines, len(kiln.rows_of(r)), SimulatedController.taken_up(r.controller).read().centre]
            for r in shop.kiln_runs.all()
        ],
        "jobs": [
            [j.kind, j.lane, j.state, j.wanted, j.design and j.design.name,
             [len(jobs.file_of(j, f.index).content) for f in jobs.files_of(j)]]
            for j in jobs.jobs_of(shop)
        ],
        "units": [user.preferences.length, user.preferences.theme] if hasattr(user, "preferences") else None,
    }
from varistrat.jobs.services.runner import run_next
from varistrat.jobs.services.sweeping import sweep
out["waiting"] = sweep("long")
out["run"] = run_next("long").kind
out["after"] = [[j.state, j.problem] for j in jobs.jobs_of(people.member_of(User.objects.get(username="reed")).shop)]
print(json.dumps(out))
"""


class OldDatabaseTests(SimpleTestCase):
    found: dict[str, Any]

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        with tempfile.TemporaryDirectory() as folder:
            with closing(sqlite3.connect(Path(folder) / "varistrat.sqlite3")) as c:
                c.executescript(OLD.read_text())
            env = os.environ | {"VARISTRAT_MODE": "test", "VARISTRAT_DATA": folder, "DJANGO_SETTINGS_MODULE": "varistrat.site.settings"}
            for command in (["manage.py", "migrate", "-v", "0"], ["-c", LOOK]):
                done = subprocess.run([sys.executable, *command], cwd=ROOT, env=env, capture_output=True, text=True)
                assert done.returncode == 0, done.stderr[-3000:]
            cls.found = json.loads(done.stdout)

    def test_each_has_a_shop_of_their_own(self) -> None:
        for name in ("withy", "reed", "idle"):
            self.assertEqual((self.found[name]["shop"], self.found[name]["role"]), (f"{name}'s shop", "owner"))
        self.assertEqual(self.found["idle"]["designs"], [])

    def test_what_was_theirs_is_their_shops(self) -> None:
        withy, reed = self.found["withy"], self.found["reed"]
        self.assertEqual((withy["designs"], withy["bin"], reed["designs"]), (["Osier peeler"], ["Thrown away"], ["Reed's bar"]))
        self.assertEqual(withy["saves"], [[3, True, "withy"], [2, False, "withy"], [1, False, "withy"]])
        self.assertEqual(reed["saves"], [[1, False, "reed"]])
        self.assertEqual(withy["in_use"], ["1084", "15n20", "sluice-gate"])
        self.assertEqual(withy["numbers"], {"scale_neutral": 1.2})
        self.assertEqual((withy["steels"]["sluice-gate"], reed["steels"]), ("Sluice gate iron", {"sluice-gate": "Another's iron"}))
        self.assertEqual((withy["retired"], reed["retired"]), ([], ["sluice-gate"]))
        self.assertEqual((reed["hands"]["amount"], reed["hands"]["wavelength"]), (0.31, 22.0))
        self.assertNotEqual(withy["hands"]["amount"], 0.31)
        self.assertEqual(withy["units"], ["fraction", "dark"])
        self.assertTrue(all(long > 10 for long in withy["layers"] + reed["layers"]))

    def test_the_kiln(self) -> None:
        self.assertEqual(self.found["withy"]["programs"], ["Temper"])
        ((name, state, lines, rows, centre),) = self.found["withy"]["runs"]
        self.assertEqual((name, state, lines), ("Temper", "stopped", rows))
        self.assertTrue(15 < centre < 60, "as it was put away, by its older name")
        self.assertEqual((self.found["reed"]["programs"], self.found["reed"]["runs"]), ([], []))

    def test_prints_and_sheets_are_jobs(self) -> None:
        sheet, printed = self.found["withy"]["jobs"]
        self.assertEqual(printed[:5], ["print_face", "long", "done", 1, "Osier peeler"])
        self.assertEqual(printed[5], [4740])
        self.assertEqual(sheet[:5], ["what_if", "short", "done", 2, None])
        self.assertEqual(len(sheet[5]), 2)
        # one that waited is made now
        self.assertEqual(self.found["reed"]["jobs"][0][:3], ["print_face", "long", "waiting"])
        self.assertEqual((self.found["waiting"], self.found["run"]), (1, "print_face"))
        self.assertEqual(self.found["after"], [["done", ""]])
