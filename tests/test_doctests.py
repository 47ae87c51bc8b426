"""Every public function of light/ and optics/ shows by a line or two what it does."""

from __future__ import annotations

import ast
import doctest
import importlib
from pathlib import Path

import numpy as np
import pytest

import zesty_veil
from zesty_veil.light.ciede2000 import ciede2000
from zesty_veil.light.cielab import lab, xyz
from zesty_veil.light.illuminant import weights
from zesty_veil.paint.paint import Paint
from zesty_veil.plan.model import Passage
from zesty_veil.predict.field import predict

_ROOT = Path(zesty_veil.__file__).parent
_MODULES = sorted(
    f"zesty_veil.{path.parent.name}.{path.stem}"
    for room in ("light", "optics")
    for path in (_ROOT / room).glob("*.py")
    if path.stem != "__init__"
)


@pytest.mark.parametrize("name", _MODULES)
def test_what_is_shown_is_so(name: str) -> None:
    module = importlib.import_module(name)
    found = doctest.testmod(module)
    assert found.failed == 0
    tree = ast.parse(Path(str(module.__file__)).read_text(encoding="utf-8"))
    for node in tree.body:
        if isinstance(node, ast.FunctionDef) and not node.name.startswith("_"):
            assert ">>> " in (ast.get_docstring(node) or ""), f"{name}.{node.name} shows nothing"


def test_wrong_shapes_are_refused_at_the_door(rack: dict[str, Paint]) -> None:
    """Broadcasting would take most of them, and give colours of nothing."""
    with pytest.raises(ValueError, match=r"reflectance must be of shape \(\.\.\., 36\)"):
        xyz(np.ones((36, 1)), weights())
    with pytest.raises(ValueError, match="XYZ must be"):
        lab(np.ones((3, 1)), np.ones(3))
    with pytest.raises(ValueError, match="CIELAB must be"):
        ciede2000(np.ones(3), np.ones(1))
    with pytest.raises(ValueError, match=r"relief must be of shape \(n,\)"):
        predict(Passage("p"), rack, np.zeros(3), np.array(0.0))
