"""A kitchen with as much in it as can be kept: its rigs are told and its board is drawn, as far as they are of use."""

from __future__ import annotations

from django.contrib.auth.models import User
from django.test import TestCase

from accounts.limits import HEARTHS, PANS, SURFACES
from kitchen.models import Hearth, Pan, Surface
from kitchen.rigs import MOST_RIGS_TOLD


class Full(TestCase):
    def test_its_rigs_and_its_board_are_answered(self) -> None:
        """What was learned takes the square of the rigs: for all of these it would take a hundred gigabytes."""
        cook = User.objects.create_user("keeper", "keeper@skerry-light.example", "a-long-way-out")
        self.client.force_login(cook)
        for i in range(HEARTHS):
            Hearth.objects.create(owner=cook, name=f"oven {i}", kind="electric_oven", levels=5)
        for i in range(SURFACES):
            Surface.objects.create(owner=cook, name=f"deck {i}", kind="steel", thickness_mm=8.0, width_cm=36.0, depth_cm=36.0)
        for i in range(PANS):
            Pan.objects.create(owner=cook, name=f"pan {i}", kind="cast_iron", thickness_mm=4.0, width_cm=26.0, depth_cm=26.0, wall_cm=4.0)
        answer = self.client.get("/api/kitchen/rigs")
        self.assertEqual(answer.status_code, 200, answer.content[:200])
        rigs = answer.json()
        self.assertEqual((len(rigs["rigs"]), rigs["not_standing"]), (MOST_RIGS_TOLD, []))
        self.assertGreater(rigs["left_out"], 10_000)
        board = self.client.get("/api/match")
        self.assertEqual(board.status_code, 200, board.content[:200])
        self.assertGreater(board.json()["left_out"], rigs["left_out"])
