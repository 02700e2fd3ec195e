"""Files from outside: too large, refused by the shop's virus scanner, or not looked at; and that there is no other way in."""

import re
import sys
from pathlib import Path
from typing import Any
from unittest import mock

from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import SimpleTestCase, TestCase, override_settings

from tests.api.test_api import HTTP
from tests.people import member, signed_in
from varistrat.api import uploads

# a stand-in: it finds something where a word stands, and cannot look where another does
SCANNER = [
    sys.executable,
    "-c",
    "import sys; read = sys.stdin.buffer.read(); sys.exit(1 if b'plague' in read else 2 if b'riddle' in read else 0)",
]
SQUARE = '<svg xmlns="http://www.w3.org/2000/svg" width="9mm" height="9mm" viewBox="0 0 9 9"><path d="M1 1H8V8H1Z"/><!--{}--></svg>'


class UploadTests(TestCase):
    def setUp(self) -> None:
        self.client = signed_in(member("smith"), **HTTP)

    def send(self, said: str) -> Any:
        return self.client.post("/api/files/outlines", {"file": SimpleUploadedFile("a.svg", SQUARE.format(said).encode())})

    def test_without_a_scanner_all_are_read(self) -> None:
        self.assertEqual(self.send("plague").status_code, 200)

    @override_settings(SCANNER=SCANNER)
    def test_what_the_scanner_says(self) -> None:
        self.assertEqual(self.send("clean").status_code, 200)
        with self.assertLogs("varistrat.security", "WARNING") as told:
            answer = self.send("plague")
        self.assertEqual((answer.status_code, answer.json()["problems"][0]["path"]), (422, "file"))
        self.assertIn("virus scanner", told.output[0])
        # one that cannot look lets nothing in, and the browser keeps what it has
        answer = self.send("riddle")
        self.assertEqual((answer.status_code, answer.json()["code"]), (503, "no_scanner"))

    def test_one_that_is_not_there_or_hangs_lets_nothing_in(self) -> None:
        hangs = [sys.executable, "-c", "import time; time.sleep(600)"]
        for scanner in (["/nowhere/scanner"], hangs):
            with (
                override_settings(SCANNER=scanner),
                mock.patch.object(uploads, "PATIENCE", 0.2),
                self.assertLogs("varistrat.security", "ERROR"),
            ):
                self.assertEqual(self.send("clean").status_code, 503)

    @override_settings(SCANNER=SCANNER)
    def test_a_photo_is_looked_at_as_well(self) -> None:
        with self.assertLogs("varistrat.security", "WARNING"), self.assertRaises(uploads.InputError):
            uploads.content(SimpleUploadedFile("a.jpg", b"plague"), 100, "")  # type: ignore[arg-type]

    def test_too_large(self) -> None:
        with self.assertRaises(uploads.InputError) as caught:
            uploads.content(SimpleUploadedFile("a.jpg", b"x" * 101), 100, "take it smaller")  # type: ignore[arg-type]
        self.assertEqual(caught.exception.problems[0].cure, "take it smaller")


class OneWayInTests(SimpleTestCase):
    def test_no_route_reads_a_file_by_itself(self) -> None:
        for path in (Path(uploads.__file__).parent / "routers").glob("*.py"):
            self.assertIsNone(re.search(r"\bfile\.(read|chunks|open|file)\b", path.read_text()), path.name)
