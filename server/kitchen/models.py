"""What a cook owns."""

from __future__ import annotations

from django.conf import settings
from django.db import models
from mattone_engine.knowledge.better import after_calibration
from mattone_engine.things.capabilities import PanTraits, SurfaceTraits, kinds
from mattone_engine.things.fit import Extent, Room, mass_kg
from mattone_engine.things.hearth import HearthLimits
from mattone_engine.things.knowledge import GENERAL, Knowledge

from accounts.ownership import Owned, Versioned


class Kitchen(Versioned):
    """One kitchen a cook: its name and where it stands."""

    owner = models.OneToOneField(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="kitchen")
    name = models.CharField(max_length=60, default="My kitchen")
    altitude_m = models.FloatField(default=0.0)

    class Meta:
        verbose_name = "kitchen"


class Hearth(Versioned):
    """A heat source and what it can be set to; see engine `HearthLimits`. A hob has a power only."""

    name = models.CharField(max_length=60)
    kind = models.CharField(max_length=24)
    max_setpoint_c = models.FloatField(default=250.0)
    levels = models.PositiveSmallIntegerField(default=1)
    has_fan = models.BooleanField(default=False)
    fan_can_be_off = models.BooleanField(default=True)
    top_element_kw = models.FloatField(default=0.0)
    top_stop_over_k = models.FloatField(default=25.0)
    top_element_usable = models.BooleanField(default=False)
    power_kw = models.FloatField(default=3.0)
    dial_error_k = models.FloatField(default=0.0)
    loss_factor = models.FloatField(default=1.0)
    deck_factor = models.FloatField(default=1.0)

    # Inside width and depth of its racks, and what one is rated for; null: as usual for its kind.
    rack_width_cm = models.FloatField(null=True, blank=True)
    rack_depth_cm = models.FloatField(null=True, blank=True)
    rack_kg = models.FloatField(null=True, blank=True)

    @property
    def room(self) -> Room:
        """As far as fitting goes."""
        return Room(self.kind, self.name, self.rack_width_cm, self.rack_depth_cm, self.rack_kg)

    @property
    def limits(self) -> HearthLimits:
        """As the engine plans with it."""
        return HearthLimits.model_validate({name: getattr(self, name) for name in HearthLimits.model_fields})

    @property
    def calibrated(self) -> bool:
        """Whether a log's figures are in use."""
        return self.calibration is not None

    @property
    def calibration(self) -> Calibration | None:
        """The newest one in use."""
        return next((one for one in self.calibrations.all() if one.deleted_at is None), None)

    @property
    def knowledge(self) -> Knowledge:
        """How well it is known: a calibration narrows what its dial and power may be."""
        made = self.calibration
        return GENERAL if made is None else after_calibration(made.spread.get("dial_error_k"), made.spread.get("power"))

    class Meta:
        verbose_name = "hearth"
        ordering = ["id"]


class Calibration(Owned):
    """What a log said of a hearth and was put to use: the figures before and after."""

    hearth = models.ForeignKey(Hearth, on_delete=models.CASCADE, related_name="calibrations")
    made_at = models.DateTimeField(auto_now_add=True)
    say = models.CharField(max_length=400)
    trust = models.CharField(max_length=16)
    before = models.JSONField()
    after = models.JSONField()
    # Half-widths of the 80 % intervals of dial (K) and power (a share); empty in those made before they were kept.
    spread = models.JSONField(default=dict)

    class Meta:
        verbose_name = "calibration"
        ordering = ["-id"]


class Support(Versioned):
    """What dough stands on: material or metal, thickness, size."""

    name = models.CharField(max_length=60)
    kind = models.CharField(max_length=24)
    thickness_mm = models.FloatField()
    width_cm = models.FloatField()
    depth_cm = models.FloatField()

    class Meta:
        abstract = True
        ordering = ["id"]

    @property
    def extent(self) -> Extent:
        """As the engine weighs and fits it."""
        return Extent(self.kind, self.thickness_mm, self.width_cm, self.depth_cm)

    @property
    def mass_kg(self) -> float:
        return round(mass_kg(self.extent), 1)


class Surface(Support):
    """A deck."""

    @property
    def traits(self) -> SurfaceTraits:
        return kinds().surfaces[self.kind]

    class Meta(Support.Meta):
        abstract = False
        verbose_name = "surface"


class Pan(Support):
    """A pan or tray; the size is inside. coating_limit_c: what its coating stands, null for bare metal."""

    coating_limit_c = models.FloatField(null=True, blank=True)
    wall_cm = models.FloatField(default=3.0)
    quantity = models.PositiveSmallIntegerField(default=1)
    # None: as usual for its kind.
    is_round = models.BooleanField(null=True, blank=True)

    @property
    def extent(self) -> Extent:
        return Extent(self.kind, self.thickness_mm, self.width_cm, self.depth_cm, self.is_round)

    @property
    def area_cm2(self) -> float:
        """What the dough fills."""
        return self.extent.area_cm2

    @property
    def traits(self) -> PanTraits:
        return kinds().pans[self.kind]

    class Meta(Support.Meta):
        abstract = False
        verbose_name = "pan"


class Tool(Versioned):
    """What dough is made in and slid on; see engine `things.tools`. Of its measures it has the one of its kind."""

    name = models.CharField(max_length=60)
    kind = models.CharField(max_length=24)
    volume_l = models.FloatField(null=True, blank=True)
    holds_g = models.FloatField(null=True, blank=True)
    limit_c = models.FloatField(null=True, blank=True)

    class Meta:
        verbose_name = "tool"
        ordering = ["id"]


class Instrument(Versioned):
    """What the cook measures with. A wireless one writes to Mattone by itself; see the app `live`."""

    name = models.CharField(max_length=60)
    kind = models.CharField(max_length=24)

    class Meta:
        verbose_name = "instrument"
        ordering = ["id"]
