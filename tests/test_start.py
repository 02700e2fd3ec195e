"""The one way in, as a newcomer uses it; and that what the README promises is there."""

import http.client
import json
import os
import re
import signal
import socket
import subprocess
import tempfile
import urllib.request
from contextlib import suppress
from http.cookiejar import CookieJar
from pathlib import Path
from typing import Any

from django.test import SimpleTestCase

from tests.waiting import PATIENCE, until

ROOT = Path(__file__).resolve().parents[1]


def free_port() -> int:
    with socket.socket() as s:
        s.bind(("127.0.0.1", 0))
        return int(s.getsockname()[1])


class DemoTests(SimpleTestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.data = Path(folder.name)
        self.env = {k: v for k, v in os.environ.items() if not k.startswith(("VARISTRAT_", "DJANGO_"))}

    def start(self, mode: str, *more: str, **env: str) -> str:
        port = free_port()
        command = [str(ROOT / "run"), mode, *more, "--port", str(port), "--data", str(self.data)]
        self.process = subprocess.Popen(command, cwd="/", env=self.env | env, stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True)
        self.addCleanup(self.stop)
        assert self.process.stdout
        for line in self.process.stdout:
            if "Varistrat is at" in line:
                return f"http://localhost:{port}"
        self.fail("it ended before it served")

    def stop(self) -> None:
        if self.process.poll() is None:
            self.process.send_signal(signal.SIGTERM)
            self.process.wait(PATIENCE)
        if self.process.stdout:
            self.process.stdout.close()

    def opener(self) -> urllib.request.OpenerDirector:
        return urllib.request.build_opener(urllib.request.HTTPCookieProcessor(CookieJar()))

    def test_the_demo_starts_with_its_shop_and_the_worker_prints(self) -> None:
        address = self.start("demo")
        browser = self.opener()
        page = browser.open(address).read().decode()
        script = re.search(r'src="(/static/assets/[^"]+\.js)"', page)
        assert script
        self.assertIn("immutable", browser.open(address + script[1]).headers["Cache-Control"])
        # what the first page wants is named in it, not found one script after another; another place wants its own
        first, heat = (
            re.findall(r'rel="modulepreload" href="([^"]+)"', browser.open(address + p).read().decode()) for p in ("", "/design/1")
        )
        self.assertTrue(any("/bench-" in path for path in first), first)
        self.assertTrue(any("/design-" in path for path in heat), heat)
        for path in {*first, *heat}:
            self.assertEqual(browser.open(address + path).status, 200)
        token = next(c.value for h in browser.handlers if hasattr(h, "cookiejar") for c in h.cookiejar if c.name == "csrftoken")

        def ask(path: str, body: Any = None) -> Any:
            headers = {"Content-Type": "application/json", "X-CSRFToken": token or ""}
            data = None if body is None else json.dumps(body).encode()
            return json.load(browser.open(urllib.request.Request(address + path, data, headers)))

        self.assertEqual(ask("/api/session/demo", {})["user"], "quillet-dyke")
        token = next(c.value for h in browser.handlers if hasattr(h, "cookiejar") for c in h.cookiejar if c.name == "csrftoken")
        designs = ask("/api/designs")
        self.assertGreaterEqual(len(designs), 5)
        job = ask("/api/jobs", {"kind": "print_face", "design": designs[0]["id"], "side": "right", "width_px": 400})
        until(lambda: ask(f"/api/jobs/{job['id']}")["state"] == "done", "the face is not printed")
        # a hundred megabytes are refused on the word of the header, before they are sent
        upload = http.client.HTTPConnection(address.removeprefix("http://"), timeout=PATIENCE)
        self.addCleanup(upload.close)
        upload.putrequest("POST", "/api/predict/ledger")
        upload.putheader("Content-Length", str(100_000_000))
        upload.endheaders()
        self.assertEqual(upload.getresponse().status, 413)

    def test_a_shop_is_served_behind_https_only_and_backed_up(self) -> None:
        address = self.start("serve", VARISTRAT_HOSTS="localhost")
        secure = urllib.request.Request(f"{address}/api/session", headers={"X-Forwarded-Proto": "https"})
        with self.opener().open(secure) as answer:
            self.assertEqual(json.load(answer)["demo"], False)
            self.assertIn("max-age", answer.headers["Strict-Transport-Security"])
        secure = urllib.request.Request(address, headers={"X-Forwarded-Proto": "https"})
        with self.opener().open(secure) as answer:
            for cookie in answer.headers.get_all("Set-Cookie") or []:
                # taken only from this very host, whatever stands beside it in its domain
                self.assertRegex(cookie, r"^__Host-")
                self.assertIn("Secure", cookie)
                self.assertIn("Path=/", cookie)
                self.assertNotIn("Domain", cookie)
            self.assertIn("__Host-csrftoken", str(answer.headers.get_all("Set-Cookie")))
        plain = subprocess.run(
            ["curl", "-s", "-o", "/dev/null", "-w", "%{http_code} %{redirect_url}", f"{address}/"],
            capture_output=True,
            text=True,
            check=False,
        )
        if plain.returncode == 0:
            self.assertTrue(plain.stdout.startswith("301 https://"), plain.stdout)
        copy = self.data / "copy.sqlite3"
        subprocess.run([str(ROOT / "run"), "backup", str(copy), "--data", str(self.data)], env=self.env, check=True, capture_output=True)
        self.assertGreater(copy.stat().st_size, 50_000)
        self.assertEqual((self.data / "secret-key").stat().st_mode & 0o077, 0)

    def test_a_shop_in_its_own_network_keeps_to_plain_http(self) -> None:
        address = self.start("serve", "--lan")
        said = self.process.stdout.readline() if self.process.stdout else ""
        self.assertIn("never open it to the internet", said)
        with self.opener().open(f"{address}/api/session") as answer:
            self.assertEqual(answer.url, f"{address}/api/session", "not sent to https")
            self.assertEqual(json.load(answer)["demo"], False)
            self.assertNotIn("Strict-Transport-Security", answer.headers)
        with self.opener().open(address) as answer:
            cookies = answer.headers.get_all("Set-Cookie") or []
        self.assertTrue(cookies)
        for cookie in cookies:
            # a browser keeps no secure cookie from plain http: nobody would stay signed in
            self.assertNotIn("secure", cookie.lower())
        # by any name or address the shop's machines know it under, and what it says of itself to a proxy counts for nothing
        asked = urllib.request.Request(f"{address}/api/session", headers={"Host": "forge.lan", "X-Forwarded-Proto": "https"})
        with self.opener().open(asked) as answer:
            self.assertEqual(answer.status, 200)
            self.assertNotIn("Strict-Transport-Security", answer.headers)

    def test_two_serve_one_shop_and_neither_outlives_the_first(self) -> None:
        address = self.start("serve", "--lan", VARISTRAT_SERVERS="2")
        first = self.process.pid

        def others() -> list[int]:
            """Servers beside the first one: who was made by it and holds on to its socket."""
            found = []
            for status in Path("/proc").glob("[0-9]*/status"):
                with suppress(OSError):
                    if f"PPid:\t{first}\n" in status.read_text() and b"--beside" in (status.parent / "cmdline").read_bytes():
                        found.append(int(status.parent.name))
            return found

        def answered(patience: float = PATIENCE) -> bool:
            try:
                with self.opener().open(f"{address}/api/session", timeout=patience) as answer:
                    return bool(json.load(answer)["demo"] is False)
            except OSError:
                return False

        def by_the_second() -> bool:
            """Whether it answers while the first one stands still."""
            os.kill(first, signal.SIGSTOP)
            try:
                return answered(1.0)
            finally:
                os.kill(first, signal.SIGCONT)

        until(others, "the second one never came")
        until(by_the_second, "the second one does not answer")
        # the second is killed: the first goes on, and another one takes its place
        second = others()[0]
        os.kill(second, signal.SIGKILL)
        self.assertTrue(all(answered() for _ in range(20)))
        until(lambda: others() not in ([], [second]), "nobody took its place")
        until(by_the_second, "the one in its place does not answer")
        # the first is killed: nobody holds on to its port
        self.process.kill()
        self.process.wait()
        until(lambda: not answered(), "a second one lives on")
        with socket.socket() as s:
            s.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
            s.bind(("127.0.0.1", int(address.rpartition(":")[2])))

    def test_calls_that_are_off_are_refused_in_a_line(self) -> None:
        for args, word in (
            (["demo", "--port", "eighty"], "not a number"),
            (["demo", "--colour", "blue"], "unknown option"),
            (["demo", "--lan"], "--lan goes with serve"),
            (["dance"], "usage"),
        ):
            done = subprocess.run([str(ROOT / "run"), *args], env=self.env, capture_output=True, text=True, check=False)
            self.assertEqual(done.returncode, 2, args)
            self.assertIn(word, done.stderr)


class StampTests(SimpleTestCase):
    """The front end is built when it has changed and not otherwise, whether or not its packages had to be fetched."""

    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.there = Path(folder.name)
        for made in ("web/src", "web/public", "web/dist", "web/node_modules", "bin"):
            (self.there / made).mkdir(parents=True)
        for file in ("src/main.tsx", "public/icon.svg", "index.html", "vite.config.ts", "package-lock.json"):
            (self.there / "web" / file).write_text(file)
        for tool in ("npm", "npx"):
            (self.there / "bin" / tool).write_text(f'#!/bin/sh\necho {tool} "$@" >> "$LOG"\n')
            (self.there / "bin" / tool).chmod(0o755)
        # everything but what it does with its first argument
        functions = (ROOT / "run").read_text().split('case "${1:-}" in\n  setup)')[0]
        self.assertIn("web_ready()", functions)
        (self.there / "run").write_text(functions + '"$@"\n')

    def made(self, what: str = "web_ready") -> list[str]:
        log = self.there / "log"
        log.write_text("")
        env = {"PATH": f"{self.there / 'bin'}:{os.environ['PATH']}", "LOG": str(log)}
        subprocess.run(["sh", str(self.there / "run"), what], env=env, check=True, capture_output=True)
        return [line.split()[0] for line in log.read_text().splitlines()]

    def test_built_once_and_again_after_a_change(self) -> None:
        self.assertEqual(self.made(), ["npm", "npx"])
        self.assertEqual(self.made(), [])
        (self.there / "web" / "src" / "main.tsx").write_text("another")
        self.assertEqual(self.made(), ["npx"])
        self.assertEqual(self.made(), [])
        (self.there / "web" / "package-lock.json").write_text("another")
        self.assertEqual(self.made("node_ready"), ["npm"])
        self.assertEqual(self.made(), ["npx"])
        self.assertEqual(self.made(), [])


class DocumentationTests(SimpleTestCase):
    def test_every_link_leads_somewhere(self) -> None:
        for page in (ROOT / "README.md", *(ROOT / "docs").glob("*.md")):
            for link in re.findall(r"\]\(([^)#]+)", page.read_text()):
                if "://" not in link:
                    self.assertTrue((page.parent / link).exists(), f"{page.name}: {link}")

    def test_every_screenshot_is_shown_and_there_are_not_too_many(self) -> None:
        shots = list((ROOT / "docs" / "screenshots").iterdir())
        self.assertLess(len(shots), 20)
        readme = (ROOT / "README.md").read_text()
        for shot in shots:
            self.assertIn(shot.name, readme)

    def test_physics_anchors_named_in_code_exist(self) -> None:
        physics = (ROOT / "docs" / "physics.md").read_text().lower()
        headings = {h.strip().replace(" ", "-").replace(",", "") for h in re.findall(r"^###? (.+)$", physics, re.M)}
        for source in (ROOT / "varistrat").rglob("*.py"):
            for anchor in re.findall(r"physics\.md#([\w-]+)", source.read_text()):
                self.assertIn(anchor, headings, source.name)
