"""Whether the tests bite: a threshold, a sign, a limit, a ranking, a retention or a permission is changed by hand, and a test must fail.

    ./run bench mutants [TREE] [NUMBER ...]

Each mutant is tried in a copy of the tree (TREE: another checkout, set up; default: this one) with the tests that read what it changes
(those nearest to it by the imports, and those named beside it), ended at the first that fails; that one must pass without the change.
What kills each is docs/mutants.md.
"""

import os
import re
import shutil
import subprocess
import sys
import tempfile
from dataclasses import dataclass
from pathlib import Path

from tests.nearest import imports, nearest

ROOT = Path(__file__).resolve().parents[1]
MOST = 5
"""Test modules tried, the nearest first."""
NOT_TRIED = ("tests.test_start", "tests.test_keeping", "tests.test_everything", "tests.test_bench")
"""They set the tree up and start it: what was installed is shared with the tree that is copied."""


@dataclass(frozen=True)
class Mutant:
    file: str
    old: str
    new: str
    by: tuple[str, ...] = ()
    """Test modules that ask it by another way than its name."""


CORE = [
    Mutant("bars/joints.py", "HEALS = 0.30", "HEALS = 0.60", ("core.test_joints",)),
    Mutant("bars/joints.py", "other >= LIGHT", "other < LIGHT"),
    Mutant("blade/grits.py", "CLEARS = 1.3", "CLEARS = 1.8"),
    Mutant("blade/geometry.py", "< -1e-9:", "< -1e9:"),
    Mutant("blade/place.py", "if most > limit:", "if most > 2 * limit:", ("core.test_forging_map",)),
    Mutant("build/as_made.py", "MOST_SCALE = 0.3", "MOST_SCALE = 3.0"),
    Mutant("build/entry.py", "if not EARLIEST <= entry.at <= now + AHEAD", "if not EARLIEST <= entry.at"),
    Mutant("cutting/edge.py", "> SOFT_MOST:", "< SOFT_MOST:"),
    Mutant("design/worked.py", "SLIVER = 0.04", "SLIVER = 0.4", ("core.test_hardening",)),
    Mutant("etch/bath.py", "if not e.weakest <= self.strength <= e.strongest:", "if not e.weakest <= self.strength:"),
    Mutant("etch/mixing.py", "if not 0 < litres <= MOST_LITRES:", "if not 0 < litres:", ("core.test_bath",)),
    Mutant("etch/tones.py", "FADE = 0.045", "FADE = 0.09", ("core.test_etch",)),
    Mutant("faults/inference.py", 'else "unlikely" if odds < UNLIKELY', 'else "unlikely" if odds > UNLIKELY'),
    Mutant("finish/edge_test.py", "if edge.behind >= least:", "if edge.behind < least:"),
    Mutant("finish/sanding.py", "AWKWARD = 2.0", "AWKWARD = 1.0", ("core.test_sanding",)),
    Mutant("finish/tone_apart.py", "116 * y", "106 * y", ("core.test_fit_up",)),
    Mutant("finish/depth.py", "2e-3 * etched.deepest > thin", "2e-2 * etched.deepest > thin"),
    Mutant("heat/colours.py", "celsius < 510", "celsius < 610", ("core.test_fire",)),
    Mutant("interchange/blade_outline.py", "if count >= MOST_CURVES:", "if count >= 50 * MOST_CURVES:", ("core.test_blade_drawings",)),
    Mutant("interchange/steels_csv.py", "> MAX_SHOP_STEELS +", "> 10 * MAX_SHOP_STEELS +", ("core.test_steels",)),
    Mutant("kiln/controller.py", "power >= 1.0 and", "power >= 2.0 and"),
    Mutant("kiln/program.py", "if top > hottest:", "if top > hottest + 500:"),
    Mutant("laminate/aim.py", "elif at > band.high + 1e-6:", "elif at > band.high + 1.0:"),
    Mutant("laws/hardenability.py", "if c <= 0.75:", "if c <= 0.55:", ("core.test_heat_published",)),
    Mutant("laws/grain.py", "celsius < 730", "celsius < 930", ("core.test_heat_published",)),
    Mutant("laws/temper.py", "if hrc > self.top + 1e-9:", "if hrc > self.top + 99:", ("core.test_heat_published",)),
    Mutant("learning/factor.py", "ODD = 4.0", "ODD = 40.0"),
    Mutant("learning/sizes.py", "STRENGTH = 4.0", "STRENGTH = 1.0"),
    Mutant("looks/taste.py", "SHRUNK = 0.5", "SHRUNK = 0.95", ("core.test_looks_search",)),
    Mutant("looks/search.py", "if all(f != family or", "if any(f != family or"),
    Mutant("pairing/pairing.py", "if p.apart < 10 or", "if p.apart < 1 or", ("core.test_pairing",)),
    Mutant("pattern/cuts.py", "(high[i] > 0) != (high[j] > 0)", "(high[i] > 0) == (high[j] > 0)"),
    Mutant("photo/fit.py", "if face.contrast < LEAST_CONTRAST:", "if face.contrast < 0:", ("core.test_photo_fit",)),
    Mutant("practice/find_fault.py", "WRONG_COSTS = 30.0", "WRONG_COSTS = 10.0", ("core.test_practice",)),
    Mutant(
        "rack/csv_file.py",
        "if len(rows) > MOST_ROWS:",
        "if len(rows) > 10 * MOST_ROWS:",
        ("core.test_rack", "apps.test_rack"),
    ),
    Mutant("rack/item.py", "self.thickness > self.width", "self.thickness < self.width"),
    Mutant("route/schedule.py", "one = max(", "one = min("),
    Mutant("route/calendar.py", "WATCHED = 20.0", "WATCHED = 60.0", ("core.test_calendar",)),
    Mutant(
        "steels/ceiling.py",
        "SOLIDUS_CLEAR = 60.0",
        "SOLIDUS_CLEAR = 20.0",
        ("core.test_steels", "core.test_pairing", "core.test_fire"),
    ),
    Mutant("steels/hardening.py", "CARBON_KNOWN = 0.05", "CARBON_KNOWN = 0.5"),
    Mutant("stock/sheet.py", "if spare < -FINE:", "if spare > -FINE:"),
    Mutant("stock/ways.py", "w.mass < now - LIGHT", "w.mass < now + LIGHT"),
    Mutant("stock/cuts.py", "SLACK = 0.3", "SLACK = 3.0"),
    Mutant("study/inference.py", "ENOUGH = 60.0", "ENOUGH = 6.0", ("core.test_core_inference",)),
    Mutant("sums/counting.py", "MOST_WELDS = 6", "MOST_WELDS = 4", ("core.test_sums",)),
]
APPS = [
    Mutant("accounts/services/second.py", "if counter > found.counter and", "if counter >= found.counter and", ("api.test_second",)),
    Mutant("accounts/services/browsers.py", "changed > last", "changed < last", ("api.test_password", "api.test_second", "api.test_first")),
    Mutant("api/auth.py", "self.role == Role.OWNER and code_needed", "self.role == Role.HELPER and code_needed", ("api.test_second",)),
    Mutant("api/errors.py", "MOST_PROBLEMS = 50", "MOST_PROBLEMS = 5000", ("api.test_hostile",)),
    Mutant("api/gate.py", ">= self._places:", "> self._places:"),
    Mutant("builds/services/log.py", "> MOST_RECORDS:", "> 2 * MOST_RECORDS:"),
    Mutant("designs/services/keep.py", ">= MOST_DESIGNS:", "> MOST_DESIGNS:"),
    Mutant("designs/selectors.py", "BIN_DAYS = 30", "BIN_DAYS = 3", ("apps.test_keep", "api.test_api")),
    Mutant("jobs/services/sweeping.py", "TRIES = 2", "TRIES = 3", ("apps.test_jobs",)),
    Mutant("kiln/services.py", "if now < run.looked:", "if now > run.looked:", ("api.test_kiln_api", "apps.test_disk")),
    Mutant("practice/services.py", "MOST_KEPT = 500", "MOST_KEPT = 50", ("apps.test_practice",)),
    Mutant("rack/services.py", "+ NEAR < one.amount", "+ NEAR > one.amount", ("apps.test_rack", "api.test_rack_api")),
    Mutant("shop/services/people.py", "person.role == Role.OWNER and not", "person.role == Role.HELPER and not", ("apps.test_people",)),
    Mutant("site/doctor.py", "OLD_BACKUP = 7.0", "OLD_BACKUP = 70.0", ("test_doctor",)),
    Mutant("finishing/services.py", "MOST_BATHS = 200", "MOST_BATHS = 2000", ("apps.test_finishing", "api.test_finish")),
]  # fmt: skip
WEB = [
    Mutant("features/account/strength.ts", "LEAST = 12", "LEAST = 8"),
    Mutant("features/build/timers.ts", "passed < t.minutes", "passed > t.minutes"),
    Mutant("features/build/fold.ts", "a.id < b.id ? -1 : 1", "a.id < b.id ? 1 : -1"),
    Mutant("features/build/keeper.ts", "(r) => r.row > 0", "(r) => r.row >= 0"),
    Mutant("features/compare/suits.ts", "<= 2 * Math.hypot", "<= 20 * Math.hypot"),
    Mutant("features/design/draft.ts", "const KEEP = 100", "const KEEP = 10"),
    Mutant("features/design/draft.ts", "const TOGETHER_MS = 900", "const TOGETHER_MS = 9"),
    Mutant("features/design/drafts.ts", "MOST_KEPT = 40", "MOST_KEPT = 41"),
    Mutant("lib/instrument.ts", "if (line.length > MOST)", "if (line.length > 99 * MOST)"),
    Mutant("lib/units.ts", "size < 10 ? 2 :", "size < 10 ? 1 :"),
]
KINDS = (("varistrat/core", CORE), ("varistrat", APPS), ("web/src", WEB))
COPIED = ("varistrat", "tests", "docs", "benchmarks", "manage.py", "pyproject.toml", "requirements.txt", "run", "README.md", ".ci")
FIRST = re.compile(r"^(?:FAIL|ERROR): (\w+) \(([\w.]+)", re.MULTILINE)
FIRST_WEB = re.compile(r"FAIL\s+(?:\|\w+\|\s*)?(.+)$", re.MULTILINE)


def every() -> list[tuple[str, Mutant]]:
    """Each with the folder that its file is told from."""
    return [(where, mutant) for where, mutants in KINDS for mutant in mutants]


def _copy(tree: Path, to: Path) -> None:
    """What the tests read; what was installed and built stays where it is."""
    for name in COPIED:
        if (tree / name).is_dir():
            shutil.copytree(tree / name, to / name, ignore=shutil.ignore_patterns("__pycache__", "screenshots"))
        elif (tree / name).exists():
            shutil.copy(tree / name, to / name)
    (to / ".venv").symlink_to(tree / ".venv")
    (to / "web").mkdir()
    for part in (tree / "web").iterdir():
        if part.name == "src":
            shutil.copytree(part, to / "web" / "src")
        else:
            (to / "web" / part.name).symlink_to(part)


def _labels(tree: Path, mutant: Mutant) -> list[str]:
    """Those named beside it, and the test modules that are nearest to what it changes."""
    module = "varistrat." + ("core." if mutant in CORE else "") + mutant.file.removesuffix(".py").replace("/", ".")
    found = [name for name in nearest(module, imports(tree)) if name not in NOT_TRIED][:MOST]
    return [*(f"tests.{name}" for name in mutant.by), *found]


def _failing(copy: Path, where: str, labels: list[str]) -> str:
    """The first of them that fails; empty: all pass."""
    env = os.environ | {"PYTHONPATH": str(copy), "VARISTRAT_MODE": "test", "PYTHONDONTWRITEBYTECODE": "1"}
    if where == "web/src":
        command, cwd = ["npx", "--no-install", "vitest", *labels], copy / "web"
    else:
        command, cwd = [str(copy / ".venv/bin/python"), "manage.py", "test", "--failfast", *labels], copy
    done = subprocess.run(command, cwd=cwd, env=env, capture_output=True, text=True, check=False, stdin=subprocess.DEVNULL)
    if done.returncode == 0:
        return ""
    text = done.stdout + done.stderr
    found = FIRST_WEB.search(text) if where == "web/src" else FIRST.search(text)
    if not found:
        raise SystemExit(f"the tests could not be run: {' '.join(labels)}\n{text[-3000:]}")
    return found[1].strip() if where == "web/src" else found[2] if found[2].endswith(found[1]) else f"{found[2]}.{found[1]}"


def _tried(tree: Path, copy: Path, where: str, mutant: Mutant) -> str:
    """What fails first with the change made, and passes without; empty: it lives."""
    path = copy / where / mutant.file
    text = path.read_text()
    if text.count(mutant.old) != 1:
        raise SystemExit(f"{mutant.file} has no {mutant.old!r} of its own any more")
    in_browser = where == "web/src"
    labels = ["related", "--run", "--bail", "1", f"src/{mutant.file}"] if in_browser else _labels(tree, mutant)
    if not labels:
        return ""
    path.write_text(text.replace(mutant.old, mutant.new))
    by = _failing(copy, where, labels)
    path.write_text(text)
    if by and _failing(copy, where, labels if in_browser else [by]):
        raise SystemExit(f"{by} fails without the change too")
    return by


def main(said: list[str]) -> int:
    tree = next((Path(s).resolve() for s in said if not s.isdigit()), ROOT)
    wanted = {int(s) for s in said if s.isdigit()}
    lived = 0
    for number, (where, mutant) in enumerate(every(), 1):
        if wanted and number not in wanted:
            continue
        with tempfile.TemporaryDirectory() as folder:
            copy = Path(folder)
            _copy(tree, copy)
            by = _tried(tree, copy, where, mutant)
        lived += not by
        print(f"| {number} | `{mutant.file}` | `{mutant.old.strip()}` → `{mutant.new.strip()}` | {by or '**lives**'} |", flush=True)
    print(f"{lived} live")
    return 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
