"""What does not change from cook to cook: styles, the crust's colours and words."""

from django.http import HttpRequest
from mattone_engine import ENGINE_VERSION
from mattone_engine.days.asked import programmes
from mattone_engine.dough.ingredients import ingredients
from mattone_engine.dough.lines import USUAL_HYDRATION
from mattone_engine.dough.measures import GRAMS, MILLILITRES
from mattone_engine.dough.read_line import PERCENT
from mattone_engine.dough.rise import PLACE_C, RiseStep
from mattone_engine.dough.toppings import topping_kinds
from mattone_engine.heat.colour import CHEESE_WORDS, WORDS, crust_ramp
from mattone_engine.styles import styles
from mattone_engine.things.capabilities import kinds
from mattone_engine.things.release import release_agents
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
    base_l: float
    rim_l: float


class WordOut(Schema):
    word: str
    above_l: float


class KindOut(Schema):
    """A kind of thing a kitchen may hold, in words."""

    key: str
    word: str


class HearthKindOut(KindOut):
    """heat: "dial", "fire" or "burner"; top: what stands over a fire's food, empty for others; racks: things go in on racks."""

    heat: str
    top: str
    racks: bool


class SurfaceKindOut(KindOut):
    """ceiling: it may hang above as a second deck."""

    ceiling: bool


class PanKindOut(KindOut):
    round: bool


class ReleaseOut(Schema):
    """A release agent. on: "peel", "tray"; wheat: it holds gluten."""

    key: str
    name: str
    note: str
    on: list[str]
    wheat: bool


class KindsOut(Schema):
    hearths: list[HearthKindOut]
    surfaces: list[SurfaceKindOut]
    pans: list[PanKindOut]


class ReferenceOut(Schema):
    engine: str
    kinds: KindsOut
    styles: list[StyleOut]
    words: list[WordOut]
    cheese_words: list[WordOut]
    ramp: list[str]
    release: list[ReleaseOut]


@router.get("", response=ReferenceOut)
def reference(request: HttpRequest) -> ReferenceOut:
    """Styles, colour words (with the L* each begins above) and the crust's hex colours by L*."""
    return ReferenceOut(
        engine=ENGINE_VERSION,
        kinds=_kinds(),
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
                base_l=s.target.base,
                rim_l=s.target.rim,
            )
            for s in styles().values()
        ],
        words=[WordOut(word=word, above_l=low) for word, low in WORDS],
        cheese_words=[WordOut(word=word, above_l=low) for word, low in CHEESE_WORDS],
        ramp=crust_ramp(),
        release=[ReleaseOut(key=key, name=row.name, note=row.note, on=list(row.on), wheat=row.wheat) for key, row in release_agents().items()],
    )


def _kinds() -> KindsOut:
    """The kinds of things that may be owned."""
    known = kinds()
    return KindsOut(
        hearths=[
            HearthKindOut(key=key, word=row.word, heat=row.heat, top=row.fire.top if row.fire else "", racks=row.rack_cm is not None)
            for key, row in known.hearths.items()
        ],
        surfaces=[SurfaceKindOut(key=key, word=row.word, ceiling=row.ceiling) for key, row in known.surfaces.items() if row.owned],
        pans=[PanKindOut(key=key, word=row.word, round=row.round) for key, row in known.pans.items()],
    )


class IngredientOut(Schema):
    key: str
    name: str
    role: str


class ProgrammeOut(Schema):
    """steps for balls; steps_in_pan for what is proofed in its pan."""

    key: str
    name: str
    about: str
    steps: list[RiseStep]
    steps_in_pan: list[RiseStep]


class ToppingOut(Schema):
    key: str
    name: str
    kind: str
    g_cm2: float
    treat: str


class DoughReferenceOut(Schema):
    ingredients: list[IngredientOut]
    programmes: list[ProgrammeOut]
    toppings: list[ToppingOut]
    units: list[str]
    preferments: dict[str, float]
    # How warm it usually is in each place.
    place_c: dict[str, float]


@router.get("/dough", response=DoughReferenceOut)
def dough_reference(request: HttpRequest) -> DoughReferenceOut:
    """What doughs and days are made of; preferments with their usual water on their flour, %."""
    return DoughReferenceOut(
        ingredients=[IngredientOut(key=i.key, name=i.name, role=i.role) for i in ingredients().values()],
        programmes=[
            ProgrammeOut(
                key=key,
                name=p.name,
                about=p.about,
                steps=list(p.rise_steps),
                steps_in_pan=list(p.shaped("pan").rise_steps),
            )
            for key, p in programmes().items()
        ],
        toppings=[ToppingOut(key=t.key, name=t.name, kind=t.kind, g_cm2=t.g_cm2, treat=t.treat) for t in topping_kinds().values()],
        units=[*GRAMS, *MILLILITRES, "piece", PERCENT],
        preferments=USUAL_HYDRATION,
        place_c=PLACE_C,
    )
