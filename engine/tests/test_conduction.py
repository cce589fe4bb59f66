"""The conduction solver against closed forms."""

from unittest import TestCase

import numpy as np
from mattone_engine.heat.column import conduct_slab
from mattone_engine.things.materials import materials
from scipy.optimize import brentq


class HalfSpaces(TestCase):
    def test_contact_temperature_is_the_effusivity_mean(self) -> None:
        """T_i = (e1 T1 + e2 T2) / (e1 + e2) (Carslaw & Jaeger 1959) within 0.3 K, for every deck."""
        dough_k, dough_c = 0.45, 1.25e6
        for kind in ("stone", "steel", "firebrick"):
            with self.subTest(kind):
                deck = materials()[kind]
                count, dx_deck, dx_dough = 4000, 4e-5, 1e-5
                c = np.concatenate([np.full(count, deck.density * deck.heat * dx_deck), np.full(count, dough_c * dx_dough)])
                half = np.concatenate([np.full(count, 0.5 * dx_deck / deck.conductivity), np.full(count, 0.5 * dx_dough / dough_k)])
                t = np.concatenate([np.full(count, 330.0), np.full(count, 20.0)])
                times = np.linspace(0.0, 8.0, 401)
                out = np.zeros((times.size, 2 * count))
                conduct_slab(times, t, c, half, 0.0, 0.0, 0.0, 0.0, out)
                left, right = out[-1, count - 1], out[-1, count]
                face = (left / half[count - 1] + right / half[count]) / (1 / half[count - 1] + 1 / half[count])
                e1, e2 = deck.effusivity, float(np.sqrt(dough_k * dough_c))
                self.assertAlmostEqual(face, (e1 * 330 + e2 * 20) / (e1 + e2), delta=0.3)


class Slab(TestCase):
    def test_cooling_slab_follows_its_series(self) -> None:
        """Both faces convective: sum of C_n exp(-z_n^2 Fo) cos(z_n x) (Incropera 2007, 5.5)."""
        k, rho_c, length, h = 1.2, 2.0e6, 0.015, 40.0
        count = 200
        dx = length / count
        half = np.full(count, 0.5 * dx / k)
        times = np.linspace(0.0, 900.0, 9001)
        out = np.zeros((times.size, count))
        conduct_slab(times, np.full(count, 250.0), np.full(count, rho_c * dx), half, h, 20.0, h, 20.0, out)
        biot = h * (length / 2) / k
        z = np.array([brentq(lambda v: v * np.tan(v) - biot, n * np.pi + 1e-9, n * np.pi + np.pi / 2 - 1e-9) for n in range(40)])
        c_n = 4 * np.sin(z) / (2 * z + np.sin(2 * z))
        place = np.abs((np.arange(count) + 0.5) * dx - length / 2) / (length / 2)
        for index in (600, 3000, 9000):
            fourier = k / rho_c * times[index] / (length / 2) ** 2
            exact = 20 + 230 * (c_n[:, None] * np.exp(-(z[:, None] ** 2) * fourier) * np.cos(z[:, None] * place)).sum(axis=0)
            self.assertLess(float(np.abs(out[index] - exact).max()), 0.003 * 230)
