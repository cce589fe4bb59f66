"""Photos: crusts of known colour under drawn light, what must not matter, and what is no picture."""

from __future__ import annotations

import io
import os
import subprocess
import sys
import tempfile
from dataclasses import replace
from functools import cache
from typing import Any
from unittest import TestCase

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from mattone_engine.bake.parallel import in_parallel
from mattone_engine.errors import InputError
from mattone_engine.evidence.photo_study import shots, tested, truth, wrong
from mattone_engine.heat.colour import crust_lab, lab_to_srgb_hex
from mattone_engine.photo.colours import coded, lab, light_of, linear, luminance
from mattone_engine.photo.drawing import Shot, drawn
from mattone_engine.photo.kept import KEPT_EDGE, SMALL_EDGE, TakeInput, from_base64, only_pixels, take, to_base64
from mattone_engine.photo.measure import measure
from mattone_engine.photo.seen import PhotoInput, PhotoResult
from PIL import Image, ImageCms
from pydantic import ValidationError
from scipy.ndimage import label

# The most memory that taking in and measuring a photo of 12 megapixels may need in a process of its own, MB.
MOST_MB = 600.0
# Smaller than a phone's photo: `./mattone evidence` measures hundreds at full size.
PLAIN = Shot(base_l=56.0, spots=0.08, width_px=480)
STUDIED_PX = 640
MADE = drawn(PLAIN)


def as_file(pixels: Any, kind: str = "JPEG", mode: str = "RGB", **more: Any) -> bytes:
    out = io.BytesIO()
    image = pixels if isinstance(pixels, Image.Image) else Image.fromarray(pixels)
    image.convert(mode).save(out, kind, **more)
    return out.getvalue()


def measured(data: bytes, shows: str = "underside", **said: Any) -> PhotoResult:
    return measure(PhotoInput.model_validate({"picture": to_base64(data), "shows": shows, "across_mm": 300.0} | said))


@cache
def as_it_was_drawn() -> PhotoResult:
    return measured(MADE.jpeg())


def base_l(result: PhotoResult) -> float:
    return result.parts[0].l_star


class DrawnCrusts(TestCase):
    def test_what_was_drawn_is_found_or_it_says_that_it_cannot_tell(self) -> None:
        found = in_parallel(tested, (replace(shot, width_px=STUDIED_PX) for shot in shots(12, seed=5)))
        self.assertEqual([one.shot for one in found if wrong(one)], [])
        told = [one for one in found if one.result.parts]
        self.assertGreaterEqual(len(told), 5)
        # Whatever it does not tell it gives a reason for.
        self.assertTrue(all(one.result.cannot for one in found if not one.result.parts))

    def test_in_even_light_on_a_plate_everything_is_told(self) -> None:
        for shows in ("top", "underside"):
            for square in (False, True):
                one = tested(Shot(shows=shows, square=square, rim_l=50.0, spots=0.15, darker_l=8.0, side_deg=225.0, seed=3, width_px=STUDIED_PX))
                self.assertFalse(wrong(one), one)
                self.assertEqual(one.result.cannot, ())
                assert one.result.evenness is not None
                self.assertLess(abs(one.result.evenness.side_deg - 225.0), 40.0)

    def test_spots_are_counted_as_wide_as_they_were_drawn(self) -> None:
        shot = Shot(spots=0.06, spot_mm=14.0, base_l=62.0)
        made = drawn(shot)
        marks, _ = label(made.spotted)
        areas = np.sort(np.bincount(marks.ravel())[1:])
        middle = float(np.interp(0.5 * areas.sum(), np.cumsum(areas), areas))
        wide_mm = 2.0 * np.sqrt(middle / np.pi) * 300.0 / (2.0 * np.sqrt(made.crust.sum() / np.pi))
        spots = tested(shot).result.spots
        assert spots is not None and spots.wide_mm is not None
        self.assertAlmostEqual(spots.wide_mm, wide_mm, delta=0.15 * wide_mm)
        none = tested(replace(shot, spots=0.0)).result
        self.assertLess(none.spots.share if none.spots else 1.0, 0.005)
        self.assertIn("no dark spots", none.words)

    def test_words_are_of_the_ramp(self) -> None:
        for l_star, word in ((72.0, "blond"), (57.0, "golden-brown"), (40.0, "dark")):
            result = measured(drawn(replace(PLAIN, base_l=l_star, spots=0.0)).jpeg())
            self.assertEqual((result.parts[0].part, result.parts[0].word), ("base", word))
            self.assertEqual(result.parts[0].colour, lab_to_srgb_hex(*crust_lab(base_l(result))))


class WhatMustNotMatter(TestCase):
    @settings(max_examples=8)
    @given(st.floats(0.4, 1.05), st.floats(0.8, 1.1), st.floats(0.6, 1.1))
    def test_exposure_and_the_colour_of_the_light(self, exposure: float, red: float, blue: float) -> None:
        other = coded(linear(MADE.pixels) * exposure * np.array([red, 1.0, blue]))
        self.assertAlmostEqual(base_l(measured(as_file(other, quality=95, subsampling=0))), base_l(as_it_was_drawn()), delta=0.8)

    def test_how_the_camera_is_held(self) -> None:
        made = drawn(replace(PLAIN, darker_l=10.0, side_deg=90.0, falls=0.3, falls_deg=30.0))
        upright = measured(as_file(made.pixels))
        for quarters in (1, 2, 3):
            turned = measured(as_file(np.rot90(made.pixels, -quarters).copy()))
            self.assertAlmostEqual(base_l(turned), base_l(upright), delta=0.5)
            assert turned.evenness is not None and upright.evenness is not None
            apart = (turned.evenness.side_deg - upright.evenness.side_deg - 90.0 * quarters + 180.0) % 360.0 - 180.0
            self.assertLess(abs(apart), 6.0)

    def test_how_many_pixels_it_has(self) -> None:
        made = Image.fromarray(drawn(replace(PLAIN, width_px=1400)).pixels)
        found = [base_l(measured(as_file(made.resize((width, width * 3 // 4))))) for width in (1400, 900, 500)]
        self.assertLess(max(found) - min(found), 1.0)

    def test_an_outline_drawn_where_it_was_found_changes_nothing(self) -> None:
        data = drawn(PLAIN).jpeg()
        found = measured(data)
        again = measured(data, outline=found.outline, whites=found.whites)
        self.assertAlmostEqual(base_l(again), base_l(found), delta=0.5)
        self.assertEqual((again.outline, again.whites), (found.outline, found.whites))


class WhatCannotBeTold(TestCase):
    def refused(self, data: bytes, word: str, **said: Any) -> None:
        with self.assertRaises(InputError) as caught:
            measured(data, **said)
        self.assertIn(word, caught.exception.message)

    def test_a_tap_that_says_nothing_of_the_light(self) -> None:
        made = drawn(PLAIN)
        on_plate = measured(made.jpeg()).whites
        self.refused(as_file(coded(linear(made.pixels) * 2.0)), "burnt out", whites=on_plate)
        self.refused(as_file(coded(linear(made.pixels) * 0.01)), "dark", whites=on_plate)
        self.refused(made.jpeg(), "crust itself", whites=[[0.5, 0.5]], outline=[[0.02, 0.02], [0.98, 0.02], [0.98, 0.98], [0.5, 0.98], [0.02, 0.98]])

    def test_pictures_of_something_else(self) -> None:
        rng = np.random.default_rng(3)
        noise = rng.integers(0, 255, (300, 400, 3), dtype=np.uint8)
        white, black = np.full((300, 400, 3), 230, dtype=np.uint8), np.zeros((300, 400, 3), dtype=np.uint8)
        blue = np.array(white)
        blue[80:220, 120:280] = (60, 90, 170)
        for pixels in (noise, white, black, blue):
            for shows in ("top", "underside"):
                result = measured(as_file(pixels), shows)
                self.assertEqual((result.parts, result.spots, result.evenness), ((), None, None))
                self.assertEqual(len(result.cannot), 1)

    def test_a_shadows_edge_and_light_from_one_side(self) -> None:
        shade = measured(drawn(replace(PLAIN, lies="paper", shadow=0.35, sheet_l=95.0)).jpeg(), white="paper")
        self.assertEqual((shade.parts, "shadow" in shade.cannot[0]), ((), True))
        board = drawn(replace(PLAIN, lies="board", falls=0.6, sheet_l=95.0))
        one_side = measured(board.jpeg(), white="paper")
        self.assertEqual((one_side.parts, "falls off" in one_side.cannot[0]), ((), True))

    def test_what_is_not_sharp(self) -> None:
        blurred = measured(drawn(replace(PLAIN, blur=0.008)).jpeg())
        self.assertIsNone(blurred.spots)
        self.assertIn("sharp", blurred.cannot[0])
        self.assertAlmostEqual(base_l(blurred), truth(drawn(PLAIN), PLAIN)[0]["base"], delta=3.0)
        self.assertEqual(measured(drawn(replace(PLAIN, shows="top", blur=0.008)).jpeg(), "top").parts, ())


class WhateverIsSaid(TestCase):
    PLACE = st.tuples(st.floats(0.0, 1.0), st.floats(0.0, 1.0))

    @settings(max_examples=60)
    @given(
        st.sampled_from(("top", "underside", "slice")),
        st.lists(PLACE, max_size=4),
        st.none() | st.lists(PLACE, min_size=5, max_size=9),
        st.sampled_from(("plate", "paper", "grey card")),
    )
    def test_it_is_measured_or_refused_in_words(self, shows: str, whites: list[Any], outline: list[Any] | None, white: str) -> None:
        try:
            result = measured(SMALL, shows, whites=whites, outline=outline, white=white)
        except ValueError as error:
            self.assertIn(".", str(error))
            return
        for part in result.parts:
            self.assertTrue(0.0 <= part.l_star <= 130.0)
        if result.spots is not None:
            self.assertTrue(0.0 <= result.spots.share <= 1.0)
        self.assertTrue(result.parts or result.cannot)


class Colours(TestCase):
    def test_closed_cases(self) -> None:
        ends = lab(linear(np.array([[[255, 255, 255], [0, 0, 0]]], dtype=np.uint8)))
        np.testing.assert_allclose(ends[0], [[100.0, 0.0, 0.0], [0.0, 0.0, 0.0]], atol=0.05)
        self.assertAlmostEqual(luminance(49.5), 0.18, delta=0.001)
        ramp = np.array([crust_lab(float(value)) for value in range(15, 90)])
        hexes = ["#" + "".join(f"{part:02x}" for part in row) for row in coded(light_of(ramp))]
        self.assertEqual(hexes, [lab_to_srgb_hex(*row) for row in ramp])
        np.testing.assert_allclose(lab(light_of(ramp)), ramp, atol=0.05)


class Kept(TestCase):
    def test_what_was_kept_is_kept_as_it_is(self) -> None:
        once = take(TakeInput(picture=to_base64(drawn(replace(PLAIN, width_px=2000)).jpeg())))
        self.assertEqual((once.width, once.height), (KEPT_EDGE, KEPT_EDGE * 3 // 4))
        self.assertEqual(max(Image.open(io.BytesIO(from_base64(once.small, ""))).size), SMALL_EDGE)
        self.assertEqual(take(TakeInput(picture=once.picture)), once)
        # With a word beside its pixels, or bytes behind its end, it is made anew.
        data = from_base64(once.picture, "")
        for more in (data[:2] + b"\xff\xfe\x00\x0fthe lamp room" + data[2:], data + b"the lamp room", data + data):
            again = from_base64(take(TakeInput(picture=to_base64(more))).picture, "")
            self.assertNotIn(b"the lamp room", again)
            self.assertLess(len(again), 1.5 * len(data))

    @settings(max_examples=25)
    @given(st.data())
    def test_whatever_is_put_beside_the_pixels_is_gone(self, data: st.DataObject) -> None:
        """A second APP0, a comment, any other segment, a thumbnail, text after the end: none of it is kept, wherever it stands."""
        plain = drawn(Shot(width_px=320)).jpeg()
        secret = data.draw(st.binary(min_size=4, max_size=60)) + b"the lamp room"
        marker = data.draw(st.sampled_from([0xE0, 0xE0, 0xE1, 0xE2, 0xEB, 0xED, 0xEE, 0xEF, 0xFE]))
        segment = bytes([0xFF, marker]) + (len(secret) + 2).to_bytes(2, "big") + secret
        places = [2, 20, plain.index(b"\xff\xc0"), plain.index(b"\xff\xda"), len(plain) - 2, len(plain)]
        at = data.draw(st.sampled_from(places))
        told = plain[:at] + (secret if at == len(plain) else segment) + plain[at:]
        try:
            kept = from_base64(take(TakeInput(picture=to_base64(told))).picture, "")
        except InputError:
            return
        self.assertNotIn(b"lamp room", kept)
        self.assertTrue(only_pixels(kept))
        self.assertFalse(only_pixels(told))

    def test_what_is_cut_off_is_not_taken_for_plain(self) -> None:
        plain = drawn(Shot(width_px=320)).jpeg()
        self.assertTrue(only_pixels(plain))
        self.assertEqual([at for at in range(0, len(plain), 7) if only_pixels(plain[:at])], [])

    def test_a_file_is_read_where_it_lies(self) -> None:
        plain = drawn(Shot(width_px=320)).jpeg()
        with tempfile.NamedTemporaryFile() as file:
            file.write(plain)
            file.flush()
            self.assertEqual(take(TakeInput(path=file.name)), take(TakeInput(picture=to_base64(plain))))
        with self.assertRaises(InputError):
            take(TakeInput(path=file.name))
        for neither in ({}, {"picture": "aGk=", "path": "/x"}):
            with self.assertRaises(ValidationError):
                TakeInput.model_validate(neither)

    def test_every_kind_of_picture_that_is_read(self) -> None:
        made = Image.fromarray(drawn(PLAIN).pixels)
        kinds = (("PNG", "RGB"), ("PNG", "RGBA"), ("PNG", "P"), ("PNG", "L"), ("PNG", "1"), ("JPEG", "CMYK"), ("JPEG", "L"), ("WEBP", "RGB"))
        for kind, mode in kinds:
            told = take(TakeInput(picture=to_base64(as_file(made, kind, mode))))
            self.assertEqual((told.width, told.height), made.size)

    def test_a_wider_colour_space_is_told_by_its_profile(self) -> None:
        # The same light, written with red and green further out, as phones do; read as sRGB it would be duller.
        wide = ImageCms.createProfile("LAB")
        made = Image.fromarray(drawn(PLAIN).pixels)
        plain = np.asarray(made, dtype=float)
        as_lab = ImageCms.profileToProfile(made, ImageCms.createProfile("sRGB"), wide, outputMode="LAB")
        back = ImageCms.profileToProfile(as_lab, wide, ImageCms.createProfile("sRGB"), outputMode="RGB")
        self.assertLess(float(np.abs(np.asarray(back, dtype=float) - plain).mean()), 2.0)
        same = as_file(made, icc_profile=ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes(), quality=95)
        kept = np.asarray(Image.open(io.BytesIO(from_base64(take(TakeInput(picture=to_base64(same))).picture, ""))), dtype=float)
        self.assertLess(float(np.abs(kept - plain).mean()), 3.0)
        broken = as_file(made, icc_profile=b"not a profile", quality=95)
        self.assertTrue(take(TakeInput(picture=to_base64(broken))).picture)

    @settings(max_examples=60)
    @given(st.data())
    def test_broken_files_are_refused_and_nothing_else_happens(self, data: st.DataObject) -> None:
        kind = data.draw(st.sampled_from(("JPEG", "PNG", "WEBP")))
        whole = bytearray(FILES[kind])
        for _ in range(data.draw(st.integers(1, 8))):
            whole[data.draw(st.integers(0, min(len(whole) - 1, 900)))] = data.draw(st.integers(0, 255))
        cut = bytes(whole[: data.draw(st.integers(1, len(whole)))])
        try:
            told = take(TakeInput(picture=to_base64(cut)))
        except InputError as error:
            self.assertTrue(error.message.endswith("."))
        else:
            self.assertLessEqual(max(told.width, told.height), KEPT_EDGE)

    def test_a_large_photo_needs_little_memory(self) -> None:
        # As it is served: memory that is not needed is given back.
        env = {name: value for name, value in os.environ.items() if not name.startswith("MALLOC_")} | {"MALLOC_TRIM_THRESHOLD_": str(1 << 17)}
        done = subprocess.run([sys.executable, "-c", LARGE], capture_output=True, text=True, check=True, env=env)
        self.assertLess(float(done.stdout.split()[-1]), MOST_MB)


SMALL = drawn(replace(PLAIN, width_px=300)).jpeg()
FILES = {kind: as_file(Image.fromarray(drawn(replace(PLAIN, width_px=300)).pixels), kind) for kind in ("JPEG", "PNG", "WEBP")}
LARGE = """
import io
from PIL import Image
from mattone_engine.photo.drawing import Shot, drawn
from mattone_engine.photo.kept import TakeInput, take, to_base64
from mattone_engine.photo.measure import measure
from mattone_engine.photo.seen import PhotoInput
for kind in ("JPEG", "PNG"):
    out = io.BytesIO()
    Image.fromarray(drawn(Shot(width_px=800)).pixels).resize((4000, 3000)).save(out, kind)
    kept = take(TakeInput(picture=to_base64(out.getvalue())))
    assert measure(PhotoInput(picture=kept.picture, shows="underside")).parts
# Of this program alone: what its parent was large by is not counted.
print(next(int(line.split()[1]) for line in open("/proc/self/status") if line.startswith("VmHWM")) / 1024.0)
"""
