"""`./run test --changed`: of what was changed, the tests and checks that are nearest to it by the imports; what that leaves out is said.

A test that imports a changed file itself comes first, then those that reach it over one file, and so on; of many the more particular ones,
which reach the fewest files in all. The browser's tests reach everything and are run only when they are changed themselves.
"""

import ast
import subprocess
from collections import deque
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
PACKAGES = ("varistrat", "tests", "benchmarks")
MOST = 8
"""Test modules for one changed file."""
PYTHON, WEB = ("ruff", "ruff format", "mypy", "import contracts"), ("typescript", "biome", "vitest")


def changed_since(ref: str) -> list[str]:
    """Paths that differ from `ref`, those not yet known to git included. Raises SystemExit where git does not know it."""
    said: list[str] = []
    for command in (["diff", "--name-only", ref], ["ls-files", "--others", "--exclude-standard"]):
        done = subprocess.run(["git", *command], cwd=ROOT, capture_output=True, text=True, check=False)
        if done.returncode:
            raise SystemExit(f"git does not know {ref!r}: {done.stderr.strip()}")
        said += done.stdout.split()
    return said


def module_of(path: Path) -> str:
    parts = path.with_suffix("").parts
    return ".".join(parts[:-1] if parts[-1] == "__init__" else parts)


def imports(root: Path = ROOT) -> dict[str, set[str]]:
    """Of each module of ours, those of ours that it imports, wherever in it."""
    files = {module_of(p.relative_to(root)): p for package in PACKAGES for p in (root / package).rglob("*.py")}
    found: dict[str, set[str]] = {}
    for name, path in files.items():
        said: set[str] = set()
        for node in ast.walk(ast.parse(path.read_text())):
            if isinstance(node, ast.Import):
                said |= {a.name for a in node.names}
            elif isinstance(node, ast.ImportFrom) and node.module and not node.level:
                said |= {node.module} | {f"{node.module}.{a.name}" for a in node.names}
        found[name] = {s for s in said if s in files} - {name}
    return found


def nearest(changed: str, graph: dict[str, set[str]]) -> list[str]:
    """Test modules that reach this module, the nearest and most particular first; itself alone where it is one."""
    if _is_test(changed):
        return [changed]
    importers: dict[str, set[str]] = {}
    for name, said in graph.items():
        for other in said:
            importers.setdefault(other, set()).add(name)
    far, waiting = {changed: 0}, deque([changed])
    while waiting:
        at = waiting.popleft()
        for name in sorted(importers.get(at, ())):
            if name not in far:
                far[name] = far[at] + 1
                waiting.append(name)
    tests = [name for name in far if _is_test(name) and not name.startswith("tests.e2e.")]
    own = f"test_{changed.rpartition('.')[2]}"
    return sorted(tests, key=lambda name: (name.rpartition(".")[2] != own, far[name], len(graph[name]), name))


def _is_test(module: str) -> bool:
    return module.startswith("tests.") and module.rpartition(".")[2].startswith("test_")


def chosen(ref: str) -> tuple[list[str], list[str]]:
    """Labels of the tests to run and names of the checks; says what is left out."""
    paths = changed_since(ref)
    python = [module_of(Path(p)) for p in paths if p.endswith(".py") and (ROOT / p).exists()]
    graph = imports()
    labels: dict[str, None] = {}
    left: set[str] = set()
    for module in python:
        near = nearest(module, graph) if module in graph else []
        labels |= dict.fromkeys(near[:MOST])
        left |= set(near[MOST:])
    web = any(p.startswith("web/") for p in paths)
    names = [*(PYTHON if python else ()), *(WEB if web else ())]
    everything = {name for name in graph if _is_test(name)}
    browsers = sum(name.startswith("tests.e2e.") and name not in labels for name in everything)
    print(f"changed since {ref}: {len(paths)} files; run: {len(labels)} test modules, checks: {', '.join(names) or 'none'}")
    print(f"left out: {len(left - set(labels))} that reach a changed file from further away, {browsers} of the browser's")
    return list(labels), names
