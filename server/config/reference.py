"""What does not change from cook to cook: styles, the crust's colours and words."""

from django.http import HttpRequest
from mattone_engine import ENGINE_VERSION
from mattone_engine.heat.colour import WORDS, crust_ramp
from mattone_engine.heat.outcome import CRISP_WORDS, CRUMB_WORDS
from mattone_engine.styles import styles
from ninja import Router, Schema

router = Router()


class StyleOut(Schema):
    key: str
    name: str
    about: str
    family: str
    shape: str
    diameter_cm: float
    mass_g: float
    hydration_pct: float
    topping_g_cm2: float
    bottom_l: float
    rim_l: float


class WordOut(Schema):
    word: str
    above_l: float


class BoundOut(Schema):
    word: str
    up_to: float


class ReferenceOut(Schema):
    engine: str
    styles: list[StyleOut]
    words: list[WordOut]
    crumb_words: list[BoundOut]
    crisp_words: list[BoundOut]
    ramp: list[str]


@router.get("", response=ReferenceOut)
def reference(request: HttpRequest) -> ReferenceOut:
    """Styles, colour words (with the L* each begins above) and the crust's hex colours by L*."""
    return ReferenceOut(
        engine=ENGINE_VERSION,
        styles=[
            StyleOut(
                key=s.key,
                name=s.name,
                about=s.about,
                family=s.family,
                shape=s.shape,
                diameter_cm=s.diameter_cm,
                mass_g=s.mass_g,
                hydration_pct=s.hydration_pct,
                topping_g_cm2=s.topping_g_cm2,
                bottom_l=s.target.bottom,
                rim_l=s.target.rim,
            )
            for s in styles().values()
        ],
        words=[WordOut(word=word, above_l=low) for word, low in WORDS],
        crumb_words=[BoundOut(word=word, up_to=bound) for word, bound in CRUMB_WORDS],
        crisp_words=[BoundOut(word=word, up_to=bound) for word, bound in CRISP_WORDS],
        ramp=crust_ramp(),
    )
