"""The look: neutral greys only, so that nothing next to a prediction tints it."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache

from PySide6.QtGui import QColor, QFont, QFontDatabase, QPalette
from PySide6.QtWidgets import QApplication

from zesty_veil import data

POINT_SIZE = 11


@dataclass(frozen=True)
class Surround:
    """The field round predicted colours: its grey, and the greys that read on it."""

    name: str
    field: int
    ink: int
    faint: int

    @property
    def luminance(self) -> float:
        """Its luminous reflectance, as far as the eye takes the screen for paper (sRGB)."""
        return ((self.field / 255 + 0.055) / 1.055) ** 2.4

    @property
    def colour(self) -> QColor:
        """The grey of the field."""
        return grey(self.field)

    @property
    def text(self) -> QColor:
        """For words and marks; contrast at least 4.5:1."""
        return grey(self.ink)

    @property
    def line(self) -> QColor:
        """For hairlines that must not shout."""
        return grey(self.faint)


_MIDDLE = Surround("middle", 0x80, 0x00, 0x4A)
SURROUNDS: dict[str, Surround] = {
    "light": replace(_MIDDLE, name="light", field=0xD2, ink=0x10, faint=0x78),
    "middle": _MIDDLE,
    "dark": replace(_MIDDLE, name="dark", field=0x1E, ink=0xE6, faint=0x8A),
}

WINDOW = 0xC9
RAISED = 0xDA
WELL = 0xE8
PRESSED = 0xA9
TEXT = 0x12
QUIET = 0x3C
EDGE = 0x78
STRONG = 0x26
ON_STRONG = 0xF2


def grey(level: int) -> QColor:
    """Return a neutral grey of 0-255."""
    return QColor(level, level, level)


def _css(level: int) -> str:
    return f"#{level:02x}{level:02x}{level:02x}"


def font(points: float = POINT_SIZE, bold: bool = False) -> QFont:
    """Return the shipped font, drawn in grey without coloured fringes.

    A copy, so that whoever has it may change it; of a face that is kept, because finding one takes
    longer than drawing with it.
    """
    return QFont(_face(points, bold))


@lru_cache
def _face(points: float, bold: bool) -> QFont:
    face = QFont("Inter")
    face.setPointSizeF(points)
    face.setWeight(QFont.Weight.DemiBold if bold else QFont.Weight.Normal)
    face.setStyleStrategy(QFont.StyleStrategy.NoSubpixelAntialias)
    # Figures of one width, so that numbers do not dance while a coat is dragged.
    face.setFeature(QFont.Tag("tnum"), 1)
    return face


def palette() -> QPalette:
    """Return a palette of greys for every role of Qt's own style."""
    roles = QPalette.ColorRole
    levels = {
        roles.Window: WINDOW,
        roles.WindowText: TEXT,
        roles.Base: WELL,
        roles.AlternateBase: RAISED,
        roles.Text: TEXT,
        roles.PlaceholderText: QUIET,
        roles.Button: RAISED,
        roles.ButtonText: TEXT,
        roles.BrightText: ON_STRONG,
        roles.Light: 0xF0,
        roles.Midlight: 0xE0,
        roles.Mid: EDGE,
        roles.Dark: 0x6A,
        roles.Shadow: 0x40,
        roles.Highlight: STRONG,
        roles.HighlightedText: ON_STRONG,
        roles.Accent: STRONG,
        roles.Link: TEXT,
        roles.LinkVisited: QUIET,
        roles.ToolTipBase: WELL,
        roles.ToolTipText: TEXT,
    }
    out = QPalette()
    for role, level in levels.items():
        out.setColor(role, grey(level))
    for role in (roles.WindowText, roles.Text, roles.ButtonText):
        out.setColor(QPalette.ColorGroup.Disabled, role, grey(0x70))
    return out


def stylesheet() -> str:
    """Return the style of the controls: flat, large, marked by tone and weight."""
    return f"""
    QMenuBar {{ background: {_css(WINDOW)}; padding: 2px; }}
    QMenuBar::item {{ padding: 4px 10px; }}
    QMenuBar::item:selected, QMenu::item:selected {{
        background: {_css(STRONG)}; color: {_css(ON_STRONG)}; }}
    QMenu {{ background: {_css(WELL)}; border: 1px solid {_css(EDGE)}; padding: 4px; }}
    QMenu::item {{ padding: 5px 26px 5px 12px; }}
    QMenu::item:disabled {{ color: {_css(0x70)}; background: transparent; }}
    QMenu::separator {{ height: 1px; background: {_css(EDGE)}; margin: 4px 8px; }}
    QPushButton, QToolButton {{ background: {_css(RAISED)}; border: 1px solid {_css(EDGE)};
        border-radius: 3px; padding: 4px 9px; min-height: 20px; }}
    QPushButton:hover, QToolButton:hover {{ background: {_css(WELL)}; }}
    QPushButton:pressed, QToolButton:pressed {{ background: {_css(PRESSED)}; }}
    QPushButton:checked, QToolButton:checked {{
        background: {_css(STRONG)}; color: {_css(ON_STRONG)}; border-color: {_css(STRONG)}; }}
    QPushButton:disabled, QToolButton:disabled {{
        color: {_css(0x70)}; border-color: {_css(0xA0)}; }}
    QPushButton:focus, QToolButton:focus, QListView:focus {{ border: 2px solid {_css(TEXT)}; }}
    QToolButton::menu-indicator {{ image: none; }}
    QLineEdit#title {{ background: transparent; border: 1px solid transparent; }}
    QLineEdit#title:hover, QLineEdit#title:focus {{ background: {_css(WELL)};
        border: 1px solid {_css(EDGE)}; }}
    QWidget#rail {{ background: {_css(0xBA)}; }}
    QToolButton#station {{ background: transparent; border: 1px solid transparent;
        border-radius: 5px; padding: 4px 0px; }}
    QToolButton#station:hover {{ background: {_css(RAISED)}; }}
    QToolButton#station:checked {{ background: {_css(STRONG)}; color: {_css(ON_STRONG)}; }}
    QToolButton#station:focus {{ border: 2px solid {_css(TEXT)}; }}
    QPushButton#narrow {{ padding: 4px 2px; }}
    QListView {{ background: {_css(RAISED)}; border: 1px solid {_css(EDGE)}; }}
    QToolTip {{ background: {_css(WELL)}; color: {_css(TEXT)}; border: 1px solid {_css(EDGE)}; }}
    QScrollArea {{ border: none; }}
    """


def dress(app: QApplication) -> None:
    """Give an application the shipped font and the greys."""
    for name in ("Inter-Regular.otf", "Inter-SemiBold.otf"):
        QFontDatabase.addApplicationFontFromData(data.read(f"fonts/{name}"))
    app.setStyle("Fusion")
    app.setPalette(palette())
    app.setFont(font())
    app.setStyleSheet(stylesheet())
