#!/usr/bin/python3
"""Prints the values that monotone_spline_test.cpp compares with: SciPy's PchipInterpolator (package python3-scipy)."""
import numpy as np
from scipy.interpolate import PchipInterpolator

CURVES = [
    [(0, 0), (25, 15), (50, 62), (75, 70), (100, 100)],
    [(0, 0), (30, 55), (60, 40), (100, 90)],
    [(10, 20), (90, 80)],
    [(0, 100), (50, 30), (100, 0)],
    [(0, 5), (8, 40), (92, 41), (100, 99)],
]
for points in CURVES:
    x, y = (np.array(v) / 100 for v in zip(*points))
    curve = PchipInterpolator(x, y)
    values = ", ".join(f"{curve(t):.8f}" for t in np.linspace(x[0], x[-1], 9))
    print("{{" + ", ".join(f"{{{a}, {b}}}" for a, b in points) + "}, {" + values + "}},")
