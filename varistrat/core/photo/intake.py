"""A photo as a shop keeps it: checked by decoding, turned upright, without place or camera, in two sizes.

What is kept is written anew from the decoded pixels: whatever else lay in the file (where it was taken, another file hidden behind
it) is gone. To be read in a process of its own (interchange/apart.py): decoders are large, and photos come from strangers.
"""

import io
import warnings
from dataclasses import dataclass

from PIL import Image, ImageOps, UnidentifiedImageError

from varistrat.core.errors import InputError
from varistrat.core.limits import MAX_PHOTO_BYTES, MAX_PHOTO_PIXELS

LARGE, SMALL = 3600, 480
"""px along the longer side."""
QUALITY = 86
FORMATS = ("JPEG", "PNG", "WEBP", "HEIF")
OTHERS = f"a photo in it is none that was kept here: a JPEG of no more than {LARGE} px a side"
CURE = "use a JPEG, PNG, WebP or HEIC photo"


@dataclass(frozen=True)
class Taken:
    """Both as JPEG; width, height: px of the large one."""

    large: bytes
    small: bytes
    width: int
    height: int


def taken_in(data: bytes) -> Taken:
    """Raises InputError for what is no photo, or one beyond what is kept."""
    if len(data) > MAX_PHOTO_BYTES:
        raise InputError.at("file", f"it has {len(data) / 1e6:.0f} MB, more than {MAX_PHOTO_BYTES / 1e6:.0f}", "take it smaller")
    photo = _decoded(data)
    large = _within(photo, LARGE)
    return Taken(_jpeg(large), _jpeg(_within(large, SMALL)), large.width, large.height)


def taken_again(data: bytes) -> Taken:
    """A photo out of a build's file: one as `taken_in` made it. Raises InputError for anything else."""
    try:
        with Image.open(io.BytesIO(data), formats=("JPEG",)) as found:
            ours = max(found.size) <= LARGE
    except (OSError, SyntaxError, ValueError, Image.DecompressionBombError) as e:
        raise InputError.at("photos", OTHERS, "save the build again as a file") from e
    if not ours:
        raise InputError.at("photos", OTHERS, "save the build again as a file")
    return taken_in(data)


def _decoded(data: bytes) -> Image.Image:
    from pillow_heif import register_heif_opener

    register_heif_opener()
    try:
        with warnings.catch_warnings():
            # its own warning of size is far above ours
            warnings.simplefilter("ignore", Image.DecompressionBombWarning)
            found = Image.open(io.BytesIO(data), formats=FORMATS)
            if found.width * found.height > MAX_PHOTO_PIXELS:
                raise InputError.at(
                    "file",
                    f"it has {found.width * found.height / 1e6:.0f} million pixels, more than {MAX_PHOTO_PIXELS / 1e6:.0f}",
                    "take it smaller",
                )
            # a JPEG is decoded at the nearest size it holds: a quarter of the memory for a large one
            found.draft("RGB", (LARGE, LARGE))
            found.load()
            return ImageOps.exif_transpose(found)
    except UnidentifiedImageError as e:
        raise InputError.at("file", "it is no photo that can be read here", CURE) from e
    except Image.DecompressionBombError as e:
        most = f"{MAX_PHOTO_PIXELS / 1e6:.0f} million pixels"
        raise InputError.at("file", f"it says it has far more than {most}", "take it smaller") from e
    except (OSError, SyntaxError, ValueError) as e:
        if isinstance(e, InputError):
            raise
        raise InputError.at("file", f"it is broken or cut off ({str(e)[:80]})", "take or send it again") from e


def _within(photo: Image.Image, most: int) -> Image.Image:
    """No larger than `most` along its longer side, in plain colours on white."""
    out = photo.copy() if max(photo.size) <= most else ImageOps.contain(photo, (most, most), Image.Resampling.LANCZOS)
    if out.mode in ("RGBA", "LA", "PA", "P"):
        clear = out.convert("RGBA")
        out = Image.new("RGB", clear.size, "white")
        out.paste(clear, mask=clear.getchannel("A"))
    return out.convert("RGB")


def _jpeg(photo: Image.Image) -> bytes:
    out = io.BytesIO()
    # a fresh image: nothing of the file it came from goes along
    plain = Image.frombytes("RGB", photo.size, photo.tobytes())
    plain.save(out, "JPEG", quality=QUALITY, optimize=True)
    return out.getvalue()
