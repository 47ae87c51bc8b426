"""Display P3: its matrix, and pictures that carry its profile."""

from __future__ import annotations

import warnings

import numpy as np
from PySide6.QtCore import QByteArray
from PySide6.QtGui import QColorSpace, QImage

from conftest import small_plan
from zesty_veil.exchange.icc import profile
from zesty_veil.exchange.png import ribbons, write_png
from zesty_veil.light.cielab import lab
from zesty_veil.light.srgb import decode, srgb
from zesty_veil.light.wide import WHITE, display_p3, to_xyz, xyz_of_xy


def test_the_matrix_is_that_of_the_reference_library() -> None:
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        import colour  # noqa: PLC0415
    there = colour.RGB_COLOURSPACES["Display P3"].matrix_RGB_to_XYZ
    np.testing.assert_allclose(to_xyz(), there, atol=2e-4)


def test_colours_come_back_and_more_of_them_are_inside() -> None:
    rng = np.random.default_rng(4)
    linear = rng.uniform(0, 1, (2000, 3))
    colours = lab(linear @ to_xyz().T, xyz_of_xy(WHITE))
    rgb, inside = display_p3(colours)
    assert inside.all()
    np.testing.assert_allclose(decode(rgb), linear, atol=1e-6)
    assert 0.3 < srgb(colours)[1].mean() < 0.9


def test_the_profile_is_read_by_the_toolkit_as_display_p3() -> None:
    raw = profile("Display P3", to_xyz(), xyz_of_xy(WHITE))
    assert int.from_bytes(raw[:4], "big") == len(raw)
    space = QColorSpace.fromIccProfile(QByteArray(raw))
    assert space.isValid()
    assert space.primaries() == QColorSpace.Primaries.DciP3D65
    assert space.transferFunction() == QColorSpace.TransferFunction.SRgb


def test_a_picture_says_that_it_is_wide() -> None:
    plan = small_plan()
    raw = write_png(ribbons(plan, wide=True), wide=True)
    image = QImage.fromData(QByteArray(raw))
    assert image.colorSpace().primaries() == QColorSpace.Primaries.DciP3D65
    # Shown in sRGB it is the picture that is written in sRGB, where that has the colours.
    there = image.convertedToColorSpace(QColorSpace(QColorSpace.NamedColorSpace.SRgb))
    plain = QImage.fromData(QByteArray(write_png(ribbons(plan))))
    same = 0
    for x in range(0, plain.width(), 40):
        one, other = plain.pixelColor(x, 30), there.pixelColor(x, 30)
        off = max(abs(one.red() - other.red()), abs(one.green() - other.green()))
        same += max(off, abs(one.blue() - other.blue())) <= 3
    assert same > 0.5 * plain.width() / 40
    assert plain.colorSpace().primaries() == QColorSpace.Primaries.SRgb
