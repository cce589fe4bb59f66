"""What a photo tells of a crust: the colour of its parts, dark spots, and which side is darker, or why it cannot tell."""

from __future__ import annotations

import math

import numpy as np
from PIL import Image
from scipy.ndimage import binary_erosion, distance_transform_edt, gaussian_filter, map_coordinates, maximum_filter, minimum_filter
from skimage.measure import label, regionprops

from mattone_engine.errors import InputError
from mattone_engine.heat.colour import cheese_word, colour_word, crust_lab, lab_to_srgb_hex
from mattone_engine.photo.colours import Array, lab, linear
from mattone_engine.photo.kept import from_base64, opened
from mattone_engine.photo.light import LEAST_SHEET, Light, find_white, light_on, sheet_of
from mattone_engine.photo.outline import edge_share, find_crust, mask_of, outline_of, stands_free
from mattone_engine.photo.seen import Evenness, PartColour, PhotoInput, PhotoPart, PhotoResult, Place, Spots

# Measured at this many pixels of the longer edge.
EDGE_PX = 800
# Of a crust's half width from its edge: where the rim is, and from where on the top or the base is.
RIM, INSIDE = (0.035, 0.115), {"top": 0.24, "underside": 0.10}
# A spot is so much darker than what is about it, L*, and at least so wide, px. Blurred over so much of the crust's width a rim cannot be told from
# what is beside it, or a spot from what is about it.
SPOT_L, LEAST_SPOT_PX, MOST_BLUR, MOST_BLUR_SPOTS = 11.0, 2.0, 0.007, 0.004
# Sides that differ by less are even; more makes a side's own light the likelier reason, L*.
EVEN_L, MOST_UNEVEN_L = 3.0, 30.0
# Of a crust's pixels so many have a colour that crust can have.
LEAST_CRUSTY = 0.55
# Redder by so much than crust, and what was taken for the rim has sauce in it, a*.
SAUCY_A = 4.5
# On so much of an outline that was found an edge must be.
LEAST_EDGE = 0.85
SIDES = ("top", "top right", "right", "bottom right", "bottom", "bottom left", "left", "top left")

SLICE = "A slice is kept to look at; nothing is measured on it."
NO_WHITE = "Nothing white or grey is found in it: tap a plate, paper or card; without one a camera's colours say little."
NO_CRUST = "I see no crust in this picture; draw its outline, or take another photo."
NO_EDGE = "Where the crust ends is not plain: put its outline right, then it is measured."
SHADOW = "A shadow's edge lies across it: which of it is browning and which is shade cannot be told. Take it in even light."
ONE_SIDE = "The light falls off, and the white tells it on one side only: tap white on the other side, too, or lay the crust on paper."
UNEVEN_NOT = "Whether one side is darker cannot be told: the white does not go round the crust."
BLURRED_TOP = "It is not sharp enough: rim and cheese run into one another. Hold still, or go a little farther away."
BLURRED = "It is not sharp enough to tell spots."


def measure(request: PhotoInput) -> PhotoResult:
    """Measure a photo; raises InputError for what is no picture, or a tap or an outline that cannot be worked with."""
    image = opened(from_base64(request.picture, "picture"))
    image.thumbnail((EDGE_PX, EDGE_PX), Image.Resampling.BOX)
    light = linear(np.asarray(image))
    if request.shows == "slice":
        return _nothing(request, SLICE)
    tapped = request.whites or tuple(one for one in (find_white(light),) if one is not None)
    if not tapped:
        return _nothing(request, NO_WHITE)
    try:
        sheet = sheet_of(light, tapped)
    except InputError:
        if request.whites:
            raise
        return _nothing(request, NO_WHITE)
    crust, outline = _crust(request, light, sheet)
    if crust is None:
        return _nothing(request, NO_CRUST, whites=tapped)
    beside = sheet & ~crust
    if beside.mean() < LEAST_SHEET:
        if request.whites:
            raise InputError("whites", "The white you tapped is on the crust itself; tap what lies beside it.")
        return _nothing(request, NO_WHITE)
    around = light_on(light, beside, crust, request.white)
    l_a_b = lab(light / around.field)
    asked = request.outline is not None
    if not _is_crusty(l_a_b, crust, top=request.shows == "top", asked=asked):
        return _nothing(request, NO_CRUST, whites=tapped)
    found = PhotoResult(outline=outline, whites=tapped)
    why = _why_not(request, l_a_b, crust, around)
    if why is not None:
        return found.model_copy(update={"cannot": (why,)})
    return _told(found, request, l_a_b, crust, around)


def _why_not(request: PhotoInput, l_a_b: Array, crust: Array, around: Light) -> str | None:
    """What stands against telling a colour."""
    if around.shaded:
        return SHADOW
    if around.uneven:
        return ONE_SIDE
    if request.outline is None and (edge_share(l_a_b, crust) < LEAST_EDGE or not (around.known_around or stands_free(l_a_b, crust))):
        return NO_EDGE
    return None


def _nothing(request: PhotoInput, why: str, whites: tuple[Place, ...] = ()) -> PhotoResult:
    return PhotoResult(outline=request.outline or (), whites=request.whites or whites, cannot=(why,))


def _crust(request: PhotoInput, light: Array, sheet: Array) -> tuple[Array | None, tuple[Place, ...]]:
    """The crust's mask and its outline, as it was drawn or as it is found."""
    if request.outline is not None:
        return mask_of(request.outline, sheet.shape), request.outline
    # Even enough to tell crust from sheet; the light is found out once it is known where the crust is.
    flat = light_on(light, sheet, np.zeros_like(sheet), request.white)
    crust = find_crust(lab(light / flat.field), sheet)
    return (crust, outline_of(crust)) if crust is not None else (None, ())


def _is_crusty(l_a_b: Array, crust: Array, *, top: bool, asked: bool) -> bool:
    """Whether enough of it has colours that a baked crust can have; of a top its rim. An outline drawn by hand is believed sooner."""
    depth = depth_of(crust)
    where = crust & (depth < RIM[1]) & (depth > 0.02) if top else crust
    if not where.any():
        return False
    l_star, a, b = (l_a_b[where][:, i] for i in range(3))
    on_path = np.interp(l_star, range(101), [crust_lab(float(value))[2] for value in range(101)])
    baked = (np.abs(b - on_path) < 0.45 * on_path + 6.0) & (b > 4.0) & (a > -6.0) & (a < 28.0)
    charred = (l_star < 26.0) & (np.hypot(a, b) < 14.0)
    return float((baked | charred).mean()) >= (0.5 if asked else 1.0) * LEAST_CRUSTY


def depth_of(crust: Array) -> Array:
    """How far inside the edge, as a share of the crust's half width."""
    inside = distance_transform_edt(crust)
    return np.asarray(inside / max(1.0, float(inside.max())))


def _told(found: PhotoResult, request: PhotoInput, l_a_b: Array, crust: Array, around: Light) -> PhotoResult:
    depth, blur = depth_of(crust), _blur(l_a_b, crust)
    if request.shows == "top" and blur > MOST_BLUR:
        # A rim is narrow: what lies beside it has run into it.
        return found.model_copy(update={"cannot": (BLURRED_TOP,)})
    if request.shows == "underside":
        browned = crust & (depth > INSIDE["underside"])
        parts = [_colour("base", l_a_b[browned])]
    else:
        browned = crust & (depth > RIM[0]) & (depth < RIM[1])
        parts = [_colour("rim", l_a_b[browned]), *_cheese(l_a_b[crust & (depth > INSIDE["top"])])]
    sharp = blur < MOST_BLUR_SPOTS
    spots = _spots(l_a_b[..., 0], browned, crust, request.across_mm) if sharp else None
    evenness = _evenness(l_a_b[..., 0], browned, crust) if around.known_around else None
    cannot = [*([] if sharp else [BLURRED]), *([] if around.known_around else [UNEVEN_NOT])]
    if request.outline is None and not around.known_around and parts[0].a_star > crust_lab(parts[0].l_star)[1] + SAUCY_A:
        return found.model_copy(update={"cannot": (NO_EDGE,)})
    told = found.model_copy(update={"parts": tuple(parts), "spots": spots, "evenness": evenness, "cannot": tuple(cannot)})
    return told.model_copy(update={"words": _words(told)})


def _colour(part: PhotoPart, pixels: Array) -> PartColour:
    # A glint is the light's colour, not the crust's.
    kept = pixels[pixels[:, 0] <= np.quantile(pixels[:, 0], 0.995)]
    l_star, a, b = (round(float(value), 1) for value in kept.mean(axis=0))
    word = cheese_word(l_star) if part == "cheese" else colour_word(l_star)
    return PartColour(
        part=part, l_star=l_star, a_star=a, b_star=b, word=word, colour=lab_to_srgb_hex(*crust_lab(l_star))
    )  # fmt: skip


def is_cheese(l_a_b: Array) -> Array:
    """Which pixels are cheese among what lies on it: neither red as sauce nor green as leaves."""
    return np.asarray((l_a_b[..., 1] < 20.0) & (l_a_b[..., 1] > -4.0))


def _cheese(pixels: Array) -> list[PartColour]:
    cheese = pixels[is_cheese(pixels)]
    return [_colour("cheese", cheese)] if len(cheese) > 0.1 * len(pixels) else []


def _blur(l_a_b: Array, crust: Array) -> float:
    """How blurred the crust's edge is, as a share of its width: of a blurred step the height is 2.5 standard deviations times its steepest slope."""
    half = math.sqrt(float(crust.sum()) / math.pi)
    away = gaussian_filter(np.linalg.norm(l_a_b - np.median(l_a_b[~crust], axis=0), axis=-1), 0.6)
    rows, columns = np.gradient(away)
    wide = 2 * int(0.06 * half) + 3
    edge = crust & ~binary_erosion(crust)
    steep = maximum_filter(np.hypot(rows, columns), wide)[edge]
    height = (maximum_filter(away, wide) - minimum_filter(away, wide))[edge]
    plain = height > 8.0
    return float(np.median(height[plain] / (2.5 * steep[plain]))) / (2.0 * half) if plain.any() else 1.0


def _spots(l_star: Array, where: Array, crust: Array, across_mm: float | None) -> Spots:
    """Dark spots against what is about them; their edge is half way down."""
    about = _without(l_star, where, 0.10 * math.sqrt(float(crust.sum())))
    under = np.where(where, about - l_star, 0.0)
    marks = label(under > 0.5 * SPOT_L)
    spots = []
    for one in regionprops(marks, intensity_image=under):
        depth = float(np.quantile(one.image_intensity[one.image], 0.8))
        if depth >= SPOT_L and one.equivalent_diameter_area >= LEAST_SPOT_PX:
            spots.append(float((one.image_intensity >= 0.5 * depth).sum()))
    areas = sorted(spots)
    middle = float(np.interp(0.5 * sum(areas), np.cumsum(areas), areas)) if areas else 0.0
    px_mm = across_mm / (2.0 * math.sqrt(float(crust.sum()) / math.pi)) if across_mm is not None else None
    wide_mm = round(2.0 * math.sqrt(middle / math.pi) * px_mm, 1) if px_mm is not None and areas else None
    return Spots(share=round(sum(areas) / float(where.sum()), 3), count=len(areas), wide_mm=wide_mm)


def _without(l_star: Array, where: Array, wide_px: float) -> Array:
    """The crust's L* as it would be without its spots: smoothed over what is not darker than the rest about it; on a coarser grid, being smooth."""
    step = max(1, int(wide_px / 6.0))
    coarse, inside = l_star[::step, ::step], where[::step, ::step]
    level = np.full(coarse.shape, float(np.quantile(l_star[where], 0.6)))
    for _ in range(4):
        light = inside & (coarse > level - 0.5 * SPOT_L)
        weight = gaussian_filter(light.astype(float), wide_px / step) + 1e-4
        level = gaussian_filter(np.where(light, coarse, 0.0), wide_px / step) / weight
    rows = np.minimum(np.arange(l_star.shape[0]) / step, coarse.shape[0] - 1.0)
    columns = np.minimum(np.arange(l_star.shape[1]) / step, coarse.shape[1] - 1.0)
    return np.asarray(map_coordinates(level, np.meshgrid(rows, columns, indexing="ij"), order=1))


def _evenness(l_star: Array, where: Array, crust: Array) -> Evenness:
    """The plane that lies best in the crust's L*: how much darker one side is than the one across."""
    y, x = np.nonzero(where)
    half = math.sqrt(float(crust.sum()) / math.pi)
    basis = np.stack([np.ones(len(x)), (x - x.mean()) / half, (y - y.mean()) / half], axis=-1)
    _, right, down = np.linalg.lstsq(basis, l_star[where], rcond=None)[0]
    darker = 2.0 * math.hypot(right, down)
    # Towards less L*; the picture's top is 0, its right 90.
    side = math.degrees(math.atan2(-right, down)) % 360.0
    return Evenness(darker_l=round(darker, 1), side_deg=round(side, 0), side=SIDES[round(side / 45.0) % 8])


def _words(told: PhotoResult) -> tuple[str, ...]:
    said = [f"{one.part}: {one.word}, L* {one.l_star:.0f}" for one in told.parts]
    if told.spots is not None:
        wide = f", most of them {told.spots.wide_mm:.0f} mm wide" if told.spots.wide_mm is not None and told.spots.share >= 0.01 else ""
        said.append("no dark spots" if told.spots.share < 0.005 else f"{100 * told.spots.share:.0f} % dark spots{wide}")
    if told.evenness is not None:
        even = told.evenness.darker_l < EVEN_L
        said.append("evenly baked" if even else f"darker towards the {told.evenness.side} of the picture, by L* {told.evenness.darker_l:.0f} across")
    return tuple(said)
