"""Everything that reads the code without running it: types, linters, import contracts, snapshots.

`./run check`. Each check is a name and a command; a failing one prints its output.
"""

import hashlib
import os
import subprocess
import sys
import tempfile
from collections.abc import Mapping
from concurrent.futures import ThreadPoolExecutor, as_completed
from pathlib import Path
from types import MappingProxyType

ROOT = Path(__file__).resolve().parents[1]
BIN = ROOT / ".venv" / "bin"
PY = str(BIN / "python")
OPENAPI = ROOT / "docs" / "openapi.json"
TYPES = ROOT / "web" / "src" / "api" / "schema.gen.ts"
OF_THE_FRONT = ("src", "vite.config.ts", "vitest.config.ts")
SCHEMAS = ROOT / "docs"
EXPORT = ["export_openapi_schema", "--api", "varistrat.api.api", "--indent", "1", "--output"]
SITE = f"""
import django, os, sys
from django.core.management import call_command as call
os.environ["DJANGO_SETTINGS_MODULE"] = "varistrat.site.settings"
django.setup()
call("makemigrations", "--check", "--dry-run")
call(*{EXPORT}, sys.argv[1])
"""


def _run(command: list[str], cwd: Path = ROOT, env: Mapping[str, str] = MappingProxyType({})) -> tuple[bool, str]:
    usual = {"PYTHONPATH": str(ROOT), "VARISTRAT_MODE": "test", "npm_config_loglevel": "error"}
    done = subprocess.run(command, cwd=cwd, capture_output=True, text=True, env=os.environ | usual | env, check=False)
    return done.returncode == 0, done.stdout + done.stderr


def _stamp(types: str) -> str:
    """Stands at the head of the browser's types: of the description they were made from and of themselves."""
    return f"// {hashlib.sha256(OPENAPI.read_bytes() + types.encode()).hexdigest()}\n"


def _types() -> tuple[bool, str]:
    """They are those of the description in docs/: by their stamp, for to make them again takes seconds."""
    stamp, _, types = TYPES.read_text().partition("\n")
    return stamp + "\n" == _stamp(types), "web/src/api/schema.gen.ts is out of date: python -m tests.check --write"


def _formats() -> tuple[bool, str]:
    ok, text = _run([PY, "-m", "varistrat.core.interchange.published", "--check", str(SCHEMAS)])
    return ok, text


def _site() -> tuple[bool, str]:
    """In one process: no migration is lacking, and docs/openapi.json is what the API says of itself."""
    with tempfile.TemporaryDirectory() as folder:
        made = Path(folder) / "openapi.json"
        ok, text = _run([PY, "-c", SITE, str(made)])
        if ok and made.read_text().strip() != OPENAPI.read_text().strip():
            return False, "docs/openapi.json is out of date: python -m tests.check --write"
        return ok, text


def _serve() -> tuple[bool, str]:
    with tempfile.TemporaryDirectory() as folder:
        serving = {"VARISTRAT_MODE": "serve", "VARISTRAT_DATA": folder, "VARISTRAT_HOSTS": "shop.example"}
        return _run([PY, "manage.py", "check", "--deploy", "--fail-level", "WARNING"], env=serving)


CHECKS = {
    "ruff": lambda: _run([str(BIN / "ruff"), "check", "."]),
    "ruff format": lambda: _run([str(BIN / "ruff"), "format", "--check", "."]),
    # the compiler of the next generation, a sixth of the work; the other one stays for openapi-typescript
    "typescript": lambda: _run(["node", "node_modules/typescript-native/bin/tsc", "--noEmit"], ROOT / "web"),
    "biome": lambda: _run(["npx", "--no-install", "biome", "check", "--error-on-warnings", *OF_THE_FRONT], ROOT / "web"),
    "vitest": lambda: _run(["npx", "--no-install", "vitest", "run"], ROOT / "web"),
    "mypy": lambda: _run([str(BIN / "mypy"), "varistrat"]),
    "import contracts": lambda: _run([str(BIN / "lint-imports")]),
    "types of the API": _types,
    "deploy settings": _serve,
    "migrations and API": _site,
    "formats and findings": _formats,
}
"""The quickest first."""


def write() -> None:
    """Bring the snapshots up to date."""
    types = ["npx", "--no-install", "openapi-typescript", str(OPENAPI), "-o", str(TYPES), "--default-non-nullable=false"]
    for command, cwd in (
        ([PY, "manage.py", *EXPORT, str(OPENAPI)], ROOT),
        (types, ROOT / "web"),
        ([PY, "-m", "varistrat.core.interchange.published", "--write", str(SCHEMAS)], ROOT),
        ([str(BIN / "ruff"), "format", "-q", "."], ROOT),
    ):
        ok, text = _run(command, cwd)
        if not ok:
            raise SystemExit(text)
    TYPES.write_text(_stamp(TYPES.read_text()) + TYPES.read_text())


def main(names: list[str], beside: bool = False) -> int:
    """Those that are named, or all; each is told as it ends. beside the tests one at a time, for they share the machine, and no more of
    them after one that failed. Gives how many failed."""
    failed = 0
    with ThreadPoolExecutor(2) as pool:
        # one after the other: asked for only when the last is told
        one_by_one = ((name, CHECKS[name]()) for name in names or CHECKS)
        running = {} if beside else {pool.submit(CHECKS[name]): name for name in names or CHECKS}
        for name, (ok, text) in one_by_one if beside else ((running[done], done.result()) for done in as_completed(running)):
            print(f"{'ok  ' if ok else 'FAIL'} {name}", flush=True)
            if not ok:
                failed += 1
                print(text, flush=True)
                if beside:
                    break
    return failed


if __name__ == "__main__":
    said = sys.argv[1:]
    if "--write" in said:
        write()
    asked = [name for name in said if not name.startswith("--")]
    if odd := [name for name in asked if name not in CHECKS]:
        raise SystemExit(f"there is no check {odd[0]!r}: {', '.join(CHECKS)}")
    sys.exit(1 if main(asked, "--beside" in said) else 0)
