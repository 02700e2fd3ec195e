"""`./run fuzz [REQUESTS]`: hostile requests against the API in this process, from a fixed seed; never a 5xx, never slow.

Three kinds. A tenth by schemathesis from the shipped description (docs/openapi.json). By a generator of our own, which also breaks the
rules the description makes. And valid documents with one thing wrong: types, not finite, 1e308, denormals, 10^18, deep, long, NUL, turned
letters, empty. A short run of both is in `./run test` (tests/api/test_fuzz.py).
"""

import json
import os
import random
import sys
import time
from collections.abc import Iterator
from copy import deepcopy
from pathlib import Path
from typing import Any

from tests.described import FILE, described

SEED = 20261128
SLOW = 10.0
"""Processor seconds; a request may take long, but not hang."""
BY_DESCRIPTION = 0.1
"""Share of the requests that schemathesis makes: one of its takes as long to think out as ten of ours to answer."""
LOOK_EVERY = 2000
"""Requests between looks at how much memory is held."""
ODD: tuple[Any, ...] = (
    None,
    True,
    False,
    0,
    -1,
    1,
    2**31,
    2**63,
    -(2**63),
    10**18,
    0.1,
    -0.0,
    1e308,
    -1e308,
    5e-324,
    1e-12,
    "",
    " ",
    "x" * 5000,
    "\x00",
    "a\x00b",
    "\u202egnp",
    "=1+1",
    "../../etc/passwd",
    "<svg onload=1>",
    [],
    [[]],
    {},
    {"": ""},
    [None] * 50,
    {"a": {"a": {"a": {}}}},
    "NaN",
    "1e999",
    "ß" * 300,
    "1084",
    "twist",
)


def mutated(document: Any, rng: random.Random) -> Any:
    """A copy with one thing wrong: a value replaced, left out, doubled, nested, or a key that is not known."""
    out = deepcopy(document)
    places: list[tuple[Any, Any]] = []

    def walk(here: Any) -> None:
        for key in list(here) if isinstance(here, dict) else range(len(here)) if isinstance(here, list) else ():
            places.append((here, key))
            walk(here[key])

    walk(out)
    if not places:
        return rng.choice(ODD)
    here, key = rng.choice(places)
    way = rng.randrange(7)
    if way == 0:
        del here[key]
    elif way == 1 and isinstance(here, dict):
        here[rng.choice(("colour", "", "__proto__", "kind", "x" * 200))] = rng.choice(ODD)
    elif way == 2 and isinstance(here, list):
        here.extend(deepcopy(here) * rng.choice((1, 3)))
    elif way == 3 and isinstance(here[key], int | float) and not isinstance(here[key], bool):
        here[key] = here[key] * rng.choice((-1, 1e-9, 1e9, 1e300, 0)) + rng.choice((0, 1e-7))
    elif way == 4:
        here[key] = [here[key]]
    else:
        here[key] = rng.choice(ODD)
    return out


def made(schema: Any, parts: dict[str, Any], rng: random.Random, depth: int = 0) -> Any:
    """A value after a JSON schema; now and then a wrong one."""
    if rng.random() < 0.04 or depth > 12:
        return rng.choice(ODD)
    if "$ref" in schema:
        return made(parts[schema["$ref"].rsplit("/", 1)[1]], parts, rng, depth + 1)
    for many in ("anyOf", "oneOf", "allOf"):
        if many in schema:
            return made(rng.choice(schema[many]), parts, rng, depth + 1)
    if "const" in schema:
        return schema["const"]
    if "enum" in schema:
        return rng.choice(schema["enum"])
    kind = schema.get("type")
    if kind == "object":
        needed = set(schema.get("required", ()))
        return {k: made(v, parts, rng, depth + 1) for k, v in schema.get("properties", {}).items() if k in needed or rng.random() < 0.5}
    if kind == "array":
        low, high = schema.get("minItems", 0), min(schema.get("maxItems", 4), 6)
        return [made(schema.get("items", {}), parts, rng, depth + 1) for _ in range(rng.randint(low, max(low, high)))]
    if kind in ("number", "integer"):
        low, high = schema.get("minimum", schema.get("exclusiveMinimum", -10)), schema.get("maximum", schema.get("exclusiveMaximum", 100))
        value = rng.choice((low, high, rng.uniform(low, min(high, low + 200))))
        return int(value) if kind == "integer" else value
    if kind == "boolean":
        return rng.random() < 0.5
    if kind == "string":
        return rng.choice(("1084", "15n20", "copper")) if schema.get("format") == "steel" else rng.choice(("a", "1084", "weld", "x" * 20))
    return rng.choice(ODD)


def requests(n: int, design: int, documents: list[Any], rng: random.Random) -> Iterator[tuple[str, str, Any]]:
    """(method, path, body)."""
    from tests.api.test_api import ROUTES

    schema = described()
    parts = schema["components"]["schemas"]
    routes = [(m, p, about) for p, methods in schema["paths"].items() for m, about in methods.items() if "session" not in p]
    known = [(m, p, b) for m, p, b in ROUTES if b is not None]
    for _ in range(n):
        if rng.random() < 0.5:
            method, path, about = rng.choice(routes)
            for parameter in about.get("parameters", ()):
                value = rng.choice((str(design), "1", "0", "-1", str(2**63), "x", "1084", "%00")) if rng.random() < 0.9 else "9" * 40
                path = path.replace("{" + parameter["name"] + "}", value)
            content = about.get("requestBody", {}).get("content", {}).get("application/json")
            yield method, path, made(content["schema"], parts, rng) if content else None
        else:
            method, path, body = rng.choice(known)
            if isinstance(body, dict) and "document" in body and rng.random() < 0.7:
                body = {**body, "document": rng.choice(documents)}
            body = json.loads(json.dumps(body).replace('"{id}"', str(design)))
            yield method, path.replace("{id}", str(design)), mutated(body, rng)


def _held() -> int:
    """Memory of this process, MB."""
    line = next(row for row in Path("/proc/self/status").read_text().splitlines() if row.startswith("VmRSS"))
    return int(line.split()[1]) // 1000


class Tally:
    """What came back: how many by status, the slowest, and what failed or was slower than `slow` seconds."""

    def __init__(self, slow: float):
        self.slow = slow
        self.told: dict[str, Any] = {"sent": 0, "statuses": {}, "slowest": (0.0, "", ""), "failed": [], "held": []}

    def note(self, answer: Any, began: float, method: str, path: str, body: str) -> None:
        if answer.streaming:
            b"".join(answer.streaming_content)
        took, status = time.process_time() - began, answer.status_code
        self.told["sent"] += 1
        if self.told["sent"] % LOOK_EVERY == 0:
            self.told["held"].append(_held())
        self.told["statuses"][status] = self.told["statuses"].get(status, 0) + 1
        if took > self.told["slowest"][0]:
            self.told["slowest"] = (took, f"{method} {path}", body[:2000])
        if (status >= 500 and status != 503) or took > self.slow:
            self.told["failed"].append((status, round(took, 1), method, path, body[:4000]))
            # at once: a long run must not keep it to itself
            print("FAILED", status, f"{took:.1f} s", method, path, body[:4000], file=sys.stderr, flush=True)


def run(n: int, seed: int = SEED, slow: float = SLOW) -> dict[str, Any]:
    """Send them; what came back by status, the slowest, and what failed. Wants a test database."""
    from django.contrib.auth.models import User
    from django.test import Client

    from varistrat.core.starters import STARTERS

    rng = random.Random(seed)
    user = User.objects.create_user(f"fuzz-{seed}")
    client = Client(HTTP_HOST="localhost", raise_request_exception=False)
    client.force_login(user, backend="varistrat.shop.backend.AtWork")
    documents = [s.document() for s in STARTERS.values()]
    made_one = client.post("/api/designs", {"document": documents[0], "name": "fuzz"}, content_type="application/json").json()["id"]
    found = Tally(slow)
    for method, path, body in requests(n, made_one, documents, rng):
        try:
            raw = json.dumps(body)
        except (ValueError, RecursionError):
            continue
        began = time.process_time()
        answer = getattr(client, method)(path, **({} if method == "get" else {"data": raw, "content_type": "application/json"}))
        found.note(answer, began, method, path, raw)
    return found.told


def by_description(n: int, seed: int = SEED) -> dict[str, Any]:
    """What schemathesis makes of the shipped description, `n` requests in all, sent to the routes in turn."""
    import hypothesis
    import schemathesis
    from django.test import Client

    schema = schemathesis.openapi.from_dict(json.loads(FILE.read_text()))
    client = Client(HTTP_HOST="localhost", raise_request_exception=False)
    from django.contrib.auth.models import User

    client.force_login(User.objects.create_user(f"described-{seed}"))
    # the first of all loads the whole application
    client.get("/api/session")
    found = Tally(SLOW)
    operations = [r.ok() for r in schema.get_all_operations()]
    operations = [o for o in operations if "session" not in o.path]
    each = max(1, n // len(operations))

    def send(case: Any) -> None:
        kind = case.headers.get("Content-Type", "application/json") if case.headers else "application/json"
        body = (
            case.body
            if isinstance(case.body, bytes)
            else b""
            if type(case.body).__name__ == "NotSet"
            else json.dumps(case.body, default=str).encode()
        )
        query = "&".join(f"{k}={v}" for k, v in (case.query or {}).items())
        began = time.process_time()
        try:
            path = case.formatted_path + (f"?{query}" if query else "")
            answer = client.generic(case.method, path, body, kind if "multipart" not in kind else "application/octet-stream")
        except (UnicodeError, ValueError):
            return
        found.note(answer, began, case.method, path, body[:4000].decode("utf-8", "replace"))

    for operation in operations:
        once = hypothesis.settings(
            max_examples=each,
            deadline=None,
            database=None,
            phases=[hypothesis.Phase.generate],
            suppress_health_check=list(hypothesis.HealthCheck),
        )
        hypothesis.seed(seed)(once(hypothesis.given(case=operation.as_strategy())(send)))()
    return found.told


def main(arguments: list[str]) -> int:
    os.environ["DJANGO_SETTINGS_MODULE"] = "varistrat.site.settings"
    import warnings

    import django

    django.setup()
    warnings.simplefilter("error", RuntimeWarning)
    from django.test.utils import setup_test_environment, teardown_test_environment

    from tests.runner import CountingRunner

    runner = CountingRunner(verbosity=0, interactive=False)
    setup_test_environment()
    old = runner.setup_databases()
    try:
        n, seed = int(arguments[0]) if arguments else 10_000, int(arguments[1]) if len(arguments) > 1 else SEED
        first = round(BY_DESCRIPTION * n)
        told = [("one thing wrong", run(n - first, seed)), ("by the description", by_description(first, seed))]
    finally:
        runner.teardown_databases(old)
        teardown_test_environment()
    for what, found in told:
        print(f"{what}, {found['sent']} requests: " + ", ".join(f"{n} x {s}" for s, n in sorted(found["statuses"].items())))
        print(f"slowest {found['slowest'][0]:.1f} s: {found['slowest'][1]}")
        print(f"memory after every {LOOK_EVERY}, MB: {', '.join(map(str, found['held']))}")
    return 1 if any(found["failed"] for _, found in told) else 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
