"""Where a formula leaves its style's band, and what that does."""

from __future__ import annotations

from mattone_engine.dough.ingredients import ingredients
from mattone_engine.dough.lines import NEED_YEAST, FormulaInput, shares
from mattone_engine.styles import style_of
from mattone_engine.things.base import StrictModel

# Yeast for a night in a preferment, % of its flour.
USUAL_YEAST_PCT = 0.1


class Warning(StrictModel):
    """Where the formula leaves its style's or method's band, and why that matters."""

    about: str
    text: str


def formula_warnings(request: FormulaInput) -> list[Warning]:
    """Where the formula leaves the band of its style, and what that does."""
    known, style = ingredients(), style_of(request)
    band = style.band
    found = []

    def tell(about: str, value: float, low: float, high: float, few: str, many: str) -> None:
        if value < low - 1e-6:
            found.append(Warning(about=about, text=f"{value:.1f} % is less than a {style.name} usually has ({low:g} to {high:g} %): {few}."))
        elif value > high + 1e-6:
            found.append(Warning(about=about, text=f"{value:.1f} % is more than a {style.name} usually has ({low:g} to {high:g} %): {many}."))

    # A scalded paste binds its water: the dough handles as if it had some of it less.
    bound = sum(0.3 * p.flour_pct * p.water_on_flour / 4.0 for p in request.preferments if p.kind == "paste")
    held = shares(request.lines)
    water = held.hydration_pct - bound
    tell("hydration", water, *band.hydration_pct, "it bakes out drier and firmer", "it is sticky to shape and browns later")
    tell("oil", held.oil_pct, *band.oil_pct, "less tender", "tender, but less crisp")
    sweet = sum(line.pct * known[line.ingredient].sugar for line in request.lines if known[line.ingredient].role in ("sugar", "malt"))
    tell("sugar", sweet, *band.sugar_pct, "paler", "it browns before it is baked")
    tell("salt", held.salt_pct, 1.6, 3.2, "bland, and it rises fast", "salty, and it slows the yeast")
    raising = sum(line.pct for line in request.lines if known[line.ingredient].role in ("yeast", "starter"))
    if raising <= 0.0 and not any(p.raises for p in request.preferments):
        found.append(Warning(about="yeast", text="Nothing raises this dough; add yeast or a starter."))
    for part in request.preferments:
        if part.kind in NEED_YEAST and not part.raises:
            text = f"A {part.kind} without yeast does not rise: give it about {USUAL_YEAST_PCT:g} % of its flour."
            found.append(Warning(about="preferments", text=text))
    for i, piece in enumerate(request.pieces):
        loading = piece.loading_g_cm2
        if loading is not None and not band.loading_g_cm2[0] - 0.005 <= loading <= band.loading_g_cm2[1] + 0.005:
            low, high = band.loading_g_cm2
            what = "thinner" if loading < low else "thicker"
            found.append(Warning(about=f"pieces.{i}", text=f"{loading:.2f} g/cm2 is {what} than a {style.name} ({low:g} to {high:g})."))
    return found
