"""Photos taken in: whatever lay in the file beside its pixels is gone; what is no photo, broken or too large is refused."""

import io
import struct
import time
import zipfile
import zlib
from multiprocessing.connection import Connection
from unittest.mock import patch

import numpy as np
from django.test import SimpleTestCase
from PIL import Image

from varistrat.core.errors import InputError
from varistrat.core.interchange import apart
from varistrat.core.interchange.apart import PHOTO, read_apart
from varistrat.core.photo import intake
from varistrat.core.photo.intake import LARGE, SMALL, taken_in

GPS, ORIENTATION, MAKE = 0x8825, 0x0112, 0x010F


def photo(size: tuple[int, int] = (80, 60), kind: str = "JPEG", exif: Image.Exif | None = None, mode: str = "RGB") -> bytes:
    """Left half red, right half blue."""
    pixels = np.zeros((size[1], size[0], 3), np.uint8)
    pixels[:, : size[0] // 2, 0] = pixels[:, size[0] // 2 :, 2] = 220
    out = io.BytesIO()
    Image.fromarray(pixels).convert(mode).save(out, kind, **({"exif": exif} if exif else {}))
    return out.getvalue()


def pixels_of(body: bytes) -> np.ndarray:
    return np.asarray(Image.open(io.BytesIO(body)).convert("RGB"))


def png(width: int, height: int, data: bytes) -> bytes:
    def chunk(name: bytes, body: bytes) -> bytes:
        return struct.pack(">I", len(body)) + name + body + struct.pack(">I", zlib.crc32(name + body))

    head = struct.pack(">IIBBBBB", width, height, 8, 2, 0, 0, 0)
    return b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", head) + chunk(b"IDAT", data) + chunk(b"IEND", b"")


class IntakeTests(SimpleTestCase):
    def test_where_and_with_what_it_was_taken_is_gone(self) -> None:
        exif = Image.Exif()
        exif[MAKE] = "Somebody's camera"
        exif.get_ifd(GPS)[1] = "N"
        exif.get_ifd(GPS)[2] = (52.0, 31.0, 12.0)
        given = photo(exif=exif)
        self.assertIn(b"Somebody's camera", given)
        for body in (taken_in(given).large, taken_in(given).small):
            kept = Image.open(io.BytesIO(body))
            self.assertEqual(len(kept.getexif()), 0)
            self.assertNotIn(b"Exif", body)
            self.assertNotIn(b"Somebody", body)

    def test_turned_upright(self) -> None:
        exif = Image.Exif()
        exif[ORIENTATION] = 6  # a quarter turn to the right shows it upright
        kept = pixels_of(taken_in(photo((80, 60), exif=exif)).large)
        self.assertEqual(kept.shape[:2], (80, 60))
        self.assertGreater(kept[10, 30, 0], 150)
        self.assertGreater(kept[70, 30, 2], 150)

    def test_every_kind_comes_out_as_a_jpeg(self) -> None:
        for kind in ("JPEG", "PNG", "WEBP", "HEIF"):
            if kind == "HEIF":
                from pillow_heif import register_heif_opener

                register_heif_opener()
            taken = taken_in(photo(kind=kind))
            self.assertEqual((taken.width, taken.height), (80, 60), kind)
            found = pixels_of(taken.large)
            self.assertGreater(int(found[30, 10, 0]), 150, kind)
            self.assertGreater(int(found[30, 70, 2]), 150, kind)

    def test_what_is_clear_becomes_white(self) -> None:
        out = io.BytesIO()
        Image.new("RGBA", (20, 20), (0, 0, 0, 0)).save(out, "PNG")
        self.assertGreater(pixels_of(taken_in(out.getvalue()).large).min(), 250)

    def test_large_ones_are_made_smaller(self) -> None:
        taken = taken_in(photo((5000, 2500)))
        self.assertEqual((taken.width, taken.height), (LARGE, LARGE // 2))
        self.assertEqual(max(Image.open(io.BytesIO(taken.small)).size), SMALL)

    def test_another_file_behind_it_is_gone(self) -> None:
        hidden = io.BytesIO()
        with zipfile.ZipFile(hidden, "w") as z:
            z.writestr("evil.txt", "evil" * 50)
        both = photo() + hidden.getvalue()
        self.assertTrue(zipfile.is_zipfile(io.BytesIO(both)))
        self.assertFalse(zipfile.is_zipfile(io.BytesIO(taken_in(both).large)))
        script = photo(kind="PNG") + b"<script>alert(1)</script>"
        self.assertNotIn(b"script", taken_in(script).large)

    def test_what_is_no_photo_is_refused(self) -> None:
        gif = io.BytesIO()
        Image.new("P", (8, 8)).save(gif, "GIF")
        whole = photo((400, 300))
        for wrong in (
            b"",
            b"not a photo",
            b"<svg xmlns='http://www.w3.org/2000/svg'/>",
            b"%PDF-1.7",
            gif.getvalue(),
            whole[:900],
            whole[:30],
        ):
            with self.assertRaises(InputError) as caught:
                taken_in(wrong)
            self.assertTrue(caught.exception.problems[0].cure)

    def test_a_bomb_is_refused_before_it_goes_off(self) -> None:
        bomb = png(50_000, 50_000, zlib.compress(b"\0" * 1000))
        with self.assertRaisesMessage(InputError, "million pixels"):
            taken_in(bomb)
        # it says it is small and unpacks to far more
        liar = png(64, 64, zlib.compress(b"\0" * 40_000_000, 9))
        try:
            taken = taken_in(liar)
            self.assertEqual((taken.width, taken.height), (64, 64))
        except InputError:
            pass
        with patch.object(intake, "MAX_PHOTO_BYTES", 100), self.assertRaisesMessage(InputError, "MB, more than"):
            taken_in(photo())

    def test_in_a_process_of_its_own(self) -> None:
        self.assertEqual(read_apart(taken_in, photo(), what=PHOTO).width, 80)
        with self.assertRaisesMessage(InputError, "no photo"):
            read_apart(taken_in, b"nothing", what=PHOTO)
        with self.assertRaisesMessage(InputError, "the photo takes too long or too much memory"):
            read_apart(taken_in, photo((6000, 6000), "PNG"), what=PHOTO, memory=40_000_000)

    def test_a_file_is_blamed_for_its_work_never_for_a_busy_machine(self) -> None:
        with self.assertRaisesMessage(InputError, "the photo takes too long or too much memory"):
            read_apart(sum, range(10**11), what=PHOTO, seconds=1.0)
        with patch.object(apart, "WAITED", 1), self.assertRaises(apart.ReadersBusy):
            read_apart(time.sleep, 60.0)

    def test_a_machine_that_stood_still_does_not_cost_the_photo(self) -> None:
        polled, missed = Connection.poll, iter((True,))
        with patch.object(Connection, "poll", lambda c, timeout: not next(missed, False) and polled(c, timeout)):
            self.assertEqual(read_apart(taken_in, photo(), what=PHOTO).width, 80)
        self.assertIsNone(next(missed, None))
