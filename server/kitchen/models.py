"""What a cook owns."""

from __future__ import annotations

from django.conf import settings
from django.db import models
from mattone_engine.things.fit import Extent, mass_kg

from accounts.ownership import Owned


class Kitchen(models.Model):
    """One kitchen a cook: its name and where it stands."""

    owner = models.OneToOneField(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="kitchen")
    name = models.CharField(max_length=60, default="My kitchen")
    altitude_m = models.FloatField(default=0.0)


class Hearth(Owned):
    """A heat source and what it can be set to; see engine `HearthLimits`."""

    name = models.CharField(max_length=60)
    kind = models.CharField(max_length=24)
    max_setpoint_c = models.FloatField()
    levels = models.PositiveSmallIntegerField()
    has_fan = models.BooleanField()
    fan_can_be_off = models.BooleanField()
    top_element_kw = models.FloatField()
    top_element_usable = models.BooleanField()
    power_kw = models.FloatField()
    dial_error_k = models.FloatField(default=0.0)
    loss_factor = models.FloatField(default=1.0)
    deck_factor = models.FloatField(default=1.0)

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

    class Meta:
        verbose_name = "calibration"
        ordering = ["-id"]


class Support(Owned):
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

    class Meta(Support.Meta):
        abstract = False
        verbose_name = "surface"


class Pan(Support):
    """A pan or tray; the size is inside."""

    @property
    def area_cm2(self) -> float:
        """What the dough fills."""
        return self.extent.area_cm2

    class Meta(Support.Meta):
        abstract = False
        verbose_name = "pan"
