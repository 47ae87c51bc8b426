"""The look: neutral greys only, so that nothing next to a prediction tints it."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Literal

from PySide6.QtCore import QDir
from PySide6.QtGui import QColor, QFont, QFontDatabase, QPalette
from PySide6.QtWidgets import QApplication

from zesty_veil import data

# Sizes of type, in pixels: captions, body, titles of cards, title of the page, numbers from afar.
CAPTION, BODY, CARD, TITLE, NUMBER = 11, 13, 15, 18, 26
THEMES = ("day", "night")
ThemeName = Literal["day", "night"]


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


class Shade(int):
    """A grey of the chrome: of day, as which it counts, and of night."""

    night: int

    def __new__(cls, day: int, night: int) -> Shade:
        """Return a tone of two greys of 0-255."""
        one = super().__new__(cls, day)
        one.night = night
        return one


# By day no lighter than leaves predicted colours fair: ISO 3664 asks for a neutral surround of at
# most 60 % luminance. By night nothing shines brighter than they do.
WINDOW = Shade(0xCC, 0x26)
RAIL = Shade(0xBD, 0x1D)
PANEL = Shade(0xD6, 0x30)
RAISED = Shade(0xE2, 0x3C)
WELL = Shade(0xEC, 0x48)
PRESSED = Shade(0xAC, 0x58)
TEXT = Shade(0x14, 0xE8)
QUIET = Shade(0x40, 0xB6)
EDGE = Shade(0x80, 0x70)
RULE = Shade(0xB0, 0x46)
STRONG = Shade(0x20, 0xE2)
ON_STRONG = Shade(0xF2, 0x18)
DISABLED = Shade(0x72, 0x88)

_night = False


def theme() -> ThemeName:
    """Return which theme is in use."""
    return "night" if _night else "day"


def level_of(tone: int) -> int:
    """Return the grey of 0-255 that a tone has in the theme in use; a plain grey stays."""
    return tone.night if _night and isinstance(tone, Shade) else int(tone)


def grey(tone: int) -> QColor:
    """Return a neutral grey: a tone of the theme in use, or one of 0-255."""
    level = level_of(tone)
    return QColor(level, level, level)


def _css(tone: int) -> str:
    level = level_of(tone)
    return f"#{level:02x}{level:02x}{level:02x}"


def font(pixels: float = BODY, bold: bool = False) -> QFont:
    """Return the shipped font, drawn in grey without coloured fringes.

    A copy, so that whoever has it may change it; of a face that is kept, because finding one takes
    longer than drawing with it.
    """
    return QFont(_face(round(pixels), bold))


@lru_cache
def _face(pixels: int, bold: bool) -> QFont:
    face = QFont("Inter")
    face.setPixelSize(pixels)
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
        roles.Base: RAISED,
        roles.AlternateBase: PANEL,
        roles.Text: TEXT,
        roles.PlaceholderText: QUIET,
        roles.Button: RAISED,
        roles.ButtonText: TEXT,
        roles.BrightText: ON_STRONG,
        roles.Light: Shade(0xF0, 0x50),
        roles.Midlight: Shade(0xE0, 0x48),
        roles.Mid: EDGE,
        roles.Dark: Shade(0x6A, 0x18),
        roles.Shadow: Shade(0x40, 0x0C),
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
        out.setColor(QPalette.ColorGroup.Disabled, role, grey(DISABLED))
    return out


def _arrow(way: str) -> str:
    return f"icons:arrow-{way}-{theme()}.svg"


def stylesheet() -> str:
    """Return the style of the controls: flat, 32 px high, marked by tone and weight."""
    return f"""
    QMenuBar {{ background: {_css(RAIL)}; padding: 1px 4px; }}
    QMenuBar::item {{ padding: 4px 10px; background: transparent; }}
    QMenuBar::item:selected, QMenu::item:selected {{
        background: {_css(STRONG)}; color: {_css(ON_STRONG)}; }}
    QMenu {{ background: {_css(WELL)}; border: 1px solid {_css(EDGE)}; padding: 4px; }}
    QMenu::item {{ padding: 6px 26px 6px 12px; }}
    QMenu::item:disabled {{ color: {_css(DISABLED)}; background: transparent; }}
    QMenu::separator {{ height: 1px; background: {_css(RULE)}; margin: 4px 8px; }}
    QPushButton, QToolButton {{ background: {_css(RAISED)}; border: 1px solid {_css(EDGE)};
        border-radius: 4px; padding: 0px 12px; min-height: 30px; }}
    QPushButton:hover, QToolButton:hover {{ background: {_css(WELL)}; }}
    QPushButton:pressed, QToolButton:pressed {{ background: {_css(PRESSED)}; }}
    QPushButton:checked, QToolButton:checked, QPushButton#main {{
        background: {_css(STRONG)}; color: {_css(ON_STRONG)}; border-color: {_css(STRONG)}; }}
    QPushButton:disabled, QToolButton:disabled {{ background: {_css(PANEL)};
        color: {_css(DISABLED)}; border-color: {_css(RULE)}; }}
    QPushButton#main:disabled {{ background: {_css(PANEL)};
        color: {_css(DISABLED)}; border-color: {_css(RULE)}; }}
    QListWidget#clear {{ background: transparent; border: none; }}
    QPushButton:focus, QToolButton:focus, QListView:focus, QComboBox:focus,
    QLineEdit#field:focus {{ border: 2px solid {_css(TEXT)}; }}
    QPushButton#main:focus, QPushButton:checked:focus {{ border: 2px solid {_css(EDGE)}; }}
    QPushButton[wet="true"] {{ min-height: 42px; }}
    QToolButton::menu-indicator {{ image: none; }}
    QComboBox, QLineEdit#field, QLineEdit#title {{ background: {_css(RAISED)};
        border: 1px solid {_css(EDGE)}; border-radius: 4px; min-height: 30px;
        padding: 0px 8px; selection-background-color: {_css(STRONG)};
        selection-color: {_css(ON_STRONG)}; }}
    QComboBox:hover {{ background: {_css(WELL)}; }}
    QComboBox:disabled, QLineEdit#field:disabled {{
        background: {_css(PANEL)}; color: {_css(DISABLED)}; border-color: {_css(RULE)}; }}
    QComboBox::drop-down {{ border: none; width: 22px; }}
    QComboBox::down-arrow {{ image: url({_arrow("down")}); width: 10px; height: 10px; }}
    QComboBox QAbstractItemView {{ background: {_css(WELL)}; border: 1px solid {_css(EDGE)};
        selection-background-color: {_css(STRONG)}; selection-color: {_css(ON_STRONG)}; }}
    QLineEdit#title {{ background: transparent; border: 1px solid transparent; padding: 0px 4px; }}
    QLineEdit#title:hover, QLineEdit#title:focus {{ background: {_css(WELL)};
        border: 1px solid {_css(EDGE)}; }}
    QWidget#rail {{ background: {_css(RAIL)}; }}
    QFrame#panel {{ background: {_css(PANEL)}; border: none; border-radius: 6px; }}
    QWidget#line[stressed="true"] {{ background: {_css(WELL)};
        border-bottom: 2px solid {_css(STRONG)}; }}
    QFrame#popover {{ background: {_css(WELL)}; border: 1px solid {_css(EDGE)};
        border-radius: 6px; }}
    QFrame#rule {{ background: {_css(RULE)}; border: none; }}
    QLabel#quiet {{ color: {_css(QUIET)}; }}
    QToolButton#station {{ background: transparent; border: 1px solid transparent;
        border-radius: 6px; padding: 4px 0px; }}
    QToolButton#station:hover {{ background: {_css(RAISED)}; }}
    QToolButton#station:checked {{ background: {_css(STRONG)}; color: {_css(ON_STRONG)}; }}
    QToolButton#station:focus {{ border: 2px solid {_css(TEXT)}; }}
    QPushButton#narrow, QToolButton#narrow {{ padding: 0px 2px; }}
    QToolButton#fold {{ background: transparent; border: 1px solid transparent; padding: 0px 2px;
        min-height: 18px; }}
    QToolButton#fold:hover {{ border-color: {_css(EDGE)}; }}
    QToolButton#fold:focus {{ border: 1px solid {_css(TEXT)}; }}
    QPushButton#link, QToolButton#link {{ background: transparent; padding: 0px 4px;
        border: 1px solid transparent;
        text-align: left; }}
    QPushButton#link:hover, QToolButton#link:hover {{ border-color: {_css(EDGE)}; }}
    QPushButton#link:focus, QToolButton#link:focus {{ border: 2px solid {_css(TEXT)}; }}
    QListView {{ background: {_css(RAISED)}; border: 1px solid {_css(EDGE)}; border-radius: 4px; }}
    QListView#rows::item {{ padding: 6px 8px; }}
    QTextBrowser {{ background: {_css(PANEL)}; border: none; border-radius: 6px; }}
    QListView#cards {{ background: transparent; border: none; }}
    QListView#cards:focus {{ border: none; }}
    QToolTip {{ background: {_css(WELL)}; color: {_css(TEXT)}; border: 1px solid {_css(EDGE)};
        padding: 4px; }}
    QScrollArea#clear > QWidget > QWidget {{ background: transparent; }}
    QScrollArea {{ border: none; background: transparent; }}
    QScrollBar:vertical {{ background: transparent; width: 10px; margin: 0px; }}
    QScrollBar:horizontal {{ background: transparent; height: 10px; margin: 0px; }}
    QScrollBar::handle {{ background: {_css(PRESSED)}; border-radius: 3px; margin: 2px; }}
    QScrollBar::handle:vertical {{ min-height: 28px; }}
    QScrollBar::handle:horizontal {{ min-width: 28px; }}
    QScrollBar::handle:hover {{ background: {_css(EDGE)}; }}
    QScrollBar::add-line, QScrollBar::sub-line {{ width: 0px; height: 0px; }}
    QScrollBar::add-page, QScrollBar::sub-page {{ background: transparent; }}
    QProgressBar {{ background: {_css(PRESSED)}; border: none; border-radius: 3px; }}
    QProgressBar::chunk {{ background: {_css(TEXT)}; border-radius: 3px; }}
    """


def dress(app: QApplication) -> None:
    """Give an application the shipped font and the greys."""
    for name in ("Inter-Regular.otf", "Inter-SemiBold.otf"):
        QFontDatabase.addApplicationFontFromData(data.read(f"fonts/{name}"))
    QDir.addSearchPath("icons", str(data.folder() / "icons"))
    app.setStyle("Fusion")
    app.setFont(font())
    wear(app, theme())


def wear(app: QApplication, name: ThemeName) -> None:
    """Put an application into one of the themes; what is on screen follows at once."""
    global _night  # noqa: PLW0603 - one theme for all that is drawn
    _night = name == "night"
    # By way of none: one sheet put in place of another takes three times as long.
    app.setStyleSheet("")
    app.setPalette(palette())
    app.setStyleSheet(stylesheet())
    for widget in app.allWidgets():
        widget.update()
