"""Everything that reads the code without running it: types, linters, import contracts, snapshots.

`./run check`. Each check is a name and a command; a failing one prints its output.
"""

import os
import subprocess
import sys
import tempfile
from concurrent.futures import ThreadPoolExecutor, as_completed
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
BIN = ROOT / ".venv" / "bin"
PY = str(BIN / "python")
OPENAPI = ROOT / "docs" / "openapi.json"
SCHEMAS = ROOT / "docs"


def _run(command: list[str], cwd: Path = ROOT) -> tuple[bool, str]:
    env = os.environ | {"PYTHONPATH": str(ROOT), "VARISTRAT_MODE": "test", "npm_config_loglevel": "error"}
    done = subprocess.run(command, cwd=cwd, capture_output=True, text=True, env=env, check=False)
    return done.returncode == 0, done.stdout + done.stderr


def _openapi() -> tuple[bool, str]:
    """The API's description in docs/ is what the API says of itself; so are the browser's types."""
    with tempfile.TemporaryDirectory() as folder:
        made = Path(folder) / "openapi.json"
        ok, text = _run([PY, "manage.py", "export_openapi_schema", "--api", "varistrat.api.api", "--indent", "1", "--output", str(made)])
        if not ok:
            return ok, text
        if made.read_text().strip() != OPENAPI.read_text().strip():
            return False, "docs/openapi.json is out of date: python -m tests.check --write"
        types = Path(folder) / "schema.gen.ts"
        ok, text = _run(
            ["npx", "--no-install", "openapi-typescript", str(OPENAPI), "-o", str(types), "--default-non-nullable=false"], ROOT / "web"
        )
        if ok and types.read_text() != (ROOT / "web/src/api/schema.gen.ts").read_text():
            return False, "web/src/api/schema.gen.ts is out of date: python -m tests.check --write"
        return ok, text


def _formats() -> tuple[bool, str]:
    ok, text = _run([PY, "-m", "varistrat.core.interchange.published", "--check", str(SCHEMAS)])
    return ok, text


def _serve() -> tuple[bool, str]:
    with tempfile.TemporaryDirectory() as folder:
        env = os.environ | {"VARISTRAT_MODE": "serve", "VARISTRAT_DATA": folder, "VARISTRAT_HOSTS": "shop.example"}
        done = subprocess.run(
            [PY, "manage.py", "check", "--deploy", "--fail-level", "WARNING"],
            cwd=ROOT,
            capture_output=True,
            text=True,
            env=env,
            check=False,
        )
        return done.returncode == 0, done.stdout + done.stderr


CHECKS = {
    "ruff": lambda: _run([str(BIN / "ruff"), "check", "."]),
    "ruff format": lambda: _run([str(BIN / "ruff"), "format", "--check", "."]),
    # the compiler of the next generation, a sixth of the work; the other one stays for openapi-typescript
    "typescript": lambda: _run(["node", "node_modules/typescript-native/bin/tsc", "--noEmit"], ROOT / "web"),
    "biome": lambda: _run(["npx", "--no-install", "biome", "lint", "--error-on-warnings", "src"], ROOT / "web"),
    "vitest": lambda: _run(["npx", "--no-install", "vitest", "run"], ROOT / "web"),
    "mypy": lambda: _run([str(BIN / "mypy"), "varistrat"]),
    "import contracts": lambda: _run([str(BIN / "lint-imports")]),
    "migrations": lambda: _run([PY, "manage.py", "makemigrations", "--check", "--dry-run"]),
    "deploy settings": _serve,
    "openapi snapshot and types": _openapi,
    "formats and findings": _formats,
}
"""The quickest first."""


def write() -> None:
    """Bring the snapshots up to date."""
    for command, cwd in (
        ([PY, "manage.py", "export_openapi_schema", "--api", "varistrat.api.api", "--indent", "1", "--output", str(OPENAPI)], ROOT),
        (
            ["npx", "--no-install", "openapi-typescript", str(OPENAPI), "-o", "src/api/schema.gen.ts", "--default-non-nullable=false"],
            ROOT / "web",
        ),
        ([PY, "-m", "varistrat.core.interchange.published", "--write", str(SCHEMAS)], ROOT),
        ([str(BIN / "ruff"), "format", "-q", "."], ROOT),
    ):
        ok, text = _run(command, cwd)
        if not ok:
            raise SystemExit(text)


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
