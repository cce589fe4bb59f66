"""A picture as it came, made into one to keep: sRGB, no larger than is of use, and without anything but its pixels."""

from __future__ import annotations

import base64
import binascii
import contextlib
import io
import warnings
from typing import Annotated

from PIL import Image, ImageCms, ImageOps
from pydantic import Field, model_validator

from mattone_engine.errors import InputError
from mattone_engine.things.base import StrictModel

# What a picture may be: bytes, pixels, and the least edge on which colours are told.
MOST_BYTES, MOST_PIXELS, LEAST_EDGE = 12 * 2**20, 50_000_000, 200
KEPT_EDGE, SMALL_EDGE = 1600, 320
QUALITY = 88
READ = ("JPEG", "PNG", "WEBP")

Base64 = Annotated[str, Field(min_length=1, max_length=17_500_000)]


class TakeInput(StrictModel):
    """A picture's file: in base64, or where it lies on the engine's own machine."""

    picture: Base64 | None = None
    path: Annotated[str, Field(min_length=1, max_length=4096)] | None = None

    @model_validator(mode="after")
    def is_one(self) -> TakeInput:
        if (self.picture is None) == (self.path is None):
            raise ValueError("picture: give the picture in base64, or the path of its file.")
        return self

    def data(self) -> bytes:
        """The file's bytes, no more of them than a picture may have; raises InputError."""
        if self.path is None:
            return from_base64(self.picture or "", "picture")
        try:
            with open(self.path, "rb") as file:
                return file.read(MOST_BYTES + 1)
        except OSError as error:
            raise InputError("path", f"This file cannot be read: {error.strerror}.") from error


class TakenPhoto(StrictModel):
    """The same as it is kept, and small, as JPEG in base64; its size, px."""

    picture: str
    small: str
    width: int
    height: int


def take(request: TakeInput) -> TakenPhoto:
    """Make a picture into one to keep; raises InputError for what is no picture, or too large a one."""
    data = request.data()
    image = opened(data)
    kept = data if _is_plain(data) else _jpeg(image)
    # Of what is kept, so that the same comes of it again.
    small = image.copy() if kept is data else opened(kept)
    small.thumbnail((SMALL_EDGE, SMALL_EDGE))
    return TakenPhoto(picture=to_base64(kept), small=to_base64(_jpeg(small)), width=image.width, height=image.height)


def opened(data: bytes) -> Image.Image:
    """A file's picture, upright, in sRGB, no edge longer than KEPT_EDGE. Its size is looked at before its pixels are. Raises InputError."""
    if len(data) > MOST_BYTES:
        raise InputError("picture", f"This picture is larger than {MOST_BYTES // 2**20} MB; send a smaller size of it.")
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            image = Image.open(io.BytesIO(data), formats=READ)
            _refuse_size(*image.size)
            # A JPEG is read at a half or a quarter of its size where that is enough.
            image.draft("RGB", (KEPT_EDGE, KEPT_EDGE))
            return _upright_srgb(image)
    except Image.DecompressionBombError as error:
        raise InputError("picture", _too_many()) from error
    except InputError:
        raise
    except (OSError, ValueError, SyntaxError, EOFError, IndexError, TypeError, MemoryError) as error:
        # Whatever a broken file makes of the reader.
        raise InputError("picture", "This is no picture Mattone can read; send a JPEG, PNG or WebP.") from error


def _refuse_size(width: int, height: int) -> None:
    if width * height > MOST_PIXELS:
        raise InputError("picture", _too_many())
    if min(width, height) < LEAST_EDGE:
        raise InputError("picture", f"This picture is only {width} by {height}; colours are told from {LEAST_EDGE} on each side.")


def _too_many() -> str:
    return f"This picture has more than {MOST_PIXELS // 10**6} megapixels; send a smaller size of it."


def _upright_srgb(image: Image.Image) -> Image.Image:
    profile = image.info.get("icc_profile")
    # Orientation is told beside the pixels, and told no more once they stand upright.
    turn = image.getexif().get(0x0112, 1)
    image.thumbnail((KEPT_EDGE, KEPT_EDGE), reducing_gap=2.0)
    plain = image.convert("RGB")
    if profile:
        plain = _in_srgb(plain, profile)
    if turn != 1:
        plain.getexif()[0x0112] = turn
        plain = ImageOps.exif_transpose(plain)
    fresh = Image.new("RGB", plain.size)
    fresh.paste(plain)
    return fresh


def _in_srgb(image: Image.Image, profile: bytes) -> Image.Image:
    """Phones write wider colours than sRGB and say so in a profile; one that cannot be read is left out."""
    with contextlib.suppress(ImageCms.PyCMSError, OSError, ValueError, TypeError):
        changed = ImageCms.profileToProfile(image, ImageCms.ImageCmsProfile(io.BytesIO(profile)), ImageCms.createProfile("sRGB"), outputMode="RGB")
        return changed if changed is not None else image
    return image


def _is_plain(data: bytes) -> bool:
    """Whether a file is as it would be kept: a JPEG of its size with nothing but pixels. It is not made anew, so that a book goes round unchanged."""
    image = Image.open(io.BytesIO(data), formats=READ)
    return image.format == "JPEG" and image.mode == "RGB" and max(image.size) <= KEPT_EDGE and only_pixels(data)


# The parts of a baseline JPEG that its pixels need (ITU T.81, table B.1): tables, frame, restart interval, scan.
_NEEDED = {0xDB, 0xC0, 0xC4, 0xDD, 0xDA}
_SCAN, _END, _RESTARTS = 0xDA, 0xD9, range(0xD0, 0xD8)
# The one APP0 that Pillow writes: "JFIF", version, density, and no thumbnail.
_JFIF_BYTES = 16


def only_pixels(data: bytes) -> bool:
    """Whether a JPEG holds nothing beside one plain JFIF header and what its pixels need: no comment, no second APP0, nothing after its end."""
    if data[:2] != b"\xff\xd8" or data[2:4] != b"\xff\xe0" or data[4:6] != _JFIF_BYTES.to_bytes(2, "big") or data[6:11] != b"JFIF\0":
        return False
    at = 4 + _JFIF_BYTES
    while at + 4 <= len(data):
        if data[at] != 0xFF or data[at + 1] not in _NEEDED:
            return False
        marker, at = data[at + 1], at + 2 + int.from_bytes(data[at + 2 : at + 4], "big")
        if marker == _SCAN:
            return _scan_ends_file(data, at)
    return False


def _scan_ends_file(data: bytes, at: int) -> bool:
    """Whether from here to the file's last two bytes there is one scan's coded data alone."""
    while (at := data.find(b"\xff", at)) >= 0 and at + 1 < len(data):
        follows = data[at + 1]
        if follows == _END:
            return at + 2 == len(data)
        if follows != 0 and follows not in _RESTARTS:
            return False
        at += 2
    return False


def _jpeg(image: Image.Image) -> bytes:
    out = io.BytesIO()
    image.save(out, "JPEG", quality=QUALITY, subsampling=0)
    return out.getvalue()


def to_base64(data: bytes) -> str:
    """Bytes as text."""
    return base64.b64encode(data).decode("ascii")


def from_base64(text: str, path: str) -> bytes:
    """Text as bytes; raises InputError, naming path, where it is none."""
    try:
        return base64.b64decode(text, validate=True)
    except (binascii.Error, ValueError) as error:
        raise InputError(path, "is not base64; send the file's bytes in base64.") from error
