"""The conduction solver against closed forms."""

from unittest import TestCase

import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from mattone_engine.evidence.verification import contact_of_half_spaces, slab_error
from mattone_engine.heat.column import conduct_slab


class HalfSpaces(TestCase):
    def test_contact_temperature_is_the_effusivity_mean(self) -> None:
        """T_i = (e1 T1 + e2 T2) / (e1 + e2) (Carslaw & Jaeger 1959) within 0.3 K, for every deck."""
        for kind in ("stone", "steel", "firebrick"):
            with self.subTest(kind):
                face, exact = contact_of_half_spaces(kind)
                self.assertAlmostEqual(face, exact, delta=0.3)


class Slab(TestCase):
    def test_cooling_slab_follows_its_series(self) -> None:
        """Both faces convective, within 0.3 % of the span (Incropera 2007, 5.5)."""
        self.assertLess(slab_error(), 0.003)

    @given(
        count=st.integers(min_value=1, max_value=9),
        h_left=st.sampled_from([0.0, 5.0, 80.0]),
        h_right=st.sampled_from([0.0, 12.0]),
        hot=st.floats(min_value=-10, max_value=400),
    )
    def test_a_stack_of_any_size_is_solved_exactly(self, count: int, h_left: float, h_right: float, hot: float) -> None:
        """One implicit step against a dense solve: short stacks are where an elimination from both ends could slip."""
        rng = np.random.default_rng(count)
        c, half, t = rng.uniform(1e3, 1e5, count), rng.uniform(1e-4, 1e-2, count), rng.uniform(20, 250, count)
        out = np.zeros((2, count))
        conduct_slab(np.array([0.0, 7.0]), t.copy(), c, half, h_left, hot, h_right, 20.0, out)
        matrix, rhs = np.diag(c / 7.0), c / 7.0 * t
        for i in range(count - 1):
            g = 1.0 / (half[i] + half[i + 1])
            matrix[i : i + 2, i : i + 2] += g * np.array([[1.0, -1.0], [-1.0, 1.0]])
        for i, h, ambient in ((0, h_left, hot), (count - 1, h_right, 20.0)):
            g = 1.0 / (1.0 / h + half[i]) if h > 0.0 else 0.0
            matrix[i, i] += g
            rhs[i] += g * ambient
        np.testing.assert_allclose(out[1], np.linalg.solve(matrix, rhs), rtol=1e-9)
