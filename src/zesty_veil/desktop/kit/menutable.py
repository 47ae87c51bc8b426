"""The commands of the menus, each with what it does to the window."""

from __future__ import annotations

from zesty_veil.desktop.kit.command import EVERYWHERE, SEPARATOR, Command
from zesty_veil.desktop.kit.looktable import LOOK

MENUS: dict[str, tuple[Command, ...]] = {
    "&Plan": (
        Command("new", "New plan", ("Ctrl+N",), where=EVERYWHERE, act=lambda w: w.new_plan()),
        Command(
            "open", "Open …", ("Ctrl+O",), where=EVERYWHERE, act=lambda w: w.files.choose_and_open()
        ),
        Command("recent", "Open again", submenu=True),
        SEPARATOR,
        Command("save", "Save", ("Ctrl+S",), where=EVERYWHERE, act=lambda w: w.files.save()),
        Command(
            "save as",
            "Save as …",
            ("Ctrl+Shift+S",),
            where=EVERYWHERE,
            act=lambda w: w.files.save_as(),
        ),
        Command(
            "steps", "Export …", ("Ctrl+E",), where=EVERYWHERE, act=lambda w: w.choose_and_export()
        ),
        SEPARATOR,
        Command("undo", "Undo", ("Ctrl+Z", "U"), act=lambda w: w.document.undo()),
        Command(
            "redo", "Redo", ("Ctrl+Shift+Z", "Ctrl+Y", "Shift+U"), act=lambda w: w.document.redo()
        ),
        Command("steps back", "Back to …", submenu=True),
        SEPARATOR,
        Command("leave", "Quit", ("Ctrl+Q",), where=EVERYWHERE, act=lambda w: w.close()),
    ),
    "&Coat": (
        Command(
            "add coat",
            "Add a coat …",
            ("N",),
            hint="Add a coat above the one in hand",
            act=lambda w: w.section.open_rack(),
        ),
        Command(
            "remove coat", "Take the coat away", ("Del",), act=lambda w: w.section.remove_coat()
        ),
        Command("later", "Lay it later", ("Ctrl+Up",), act=lambda w: w.section.move_coat(1)),
        Command("sooner", "Lay it sooner", ("Ctrl+Down",), act=lambda w: w.section.move_coat(-1)),
        SEPARATOR,
        Command("pass more", "One pass more", ("+", "="), act=lambda w: w.section.more_passes(1)),
        Command("pass less", "One pass less", ("-",), act=lambda w: w.section.more_passes(-1)),
        Command("thin", "Thin it", ("T",), act=lambda w: w.section.thin(0.5)),
        Command("strengthen", "Strengthen it", ("Shift+T",), act=lambda w: w.section.thin(-0.5)),
        SEPARATOR,
        Command(
            "feather longer",
            "Feather the far end longer",
            ("F",),
            act=lambda w: w.section.nudge("feather end", 0.5),
        ),
        Command(
            "feather shorter",
            "Feather the far end shorter",
            ("Shift+F",),
            act=lambda w: w.section.nudge("feather end", -0.5),
        ),
        Command(
            "light feather longer",
            "Feather the light end longer",
            ("D",),
            act=lambda w: w.section.nudge("feather start", -0.5),
        ),
        Command(
            "light feather shorter",
            "Feather the light end shorter",
            ("Shift+D",),
            act=lambda w: w.section.nudge("feather start", 0.5),
        ),
        Command(
            "even feather",
            "Space its passes evenly",
            ("E",),
            act=lambda w: w.section.moves.even_feather(),
        ),
        Command(
            "smooth here",
            "Smooth its border with the mid mix",
            ("S",),
            act=lambda w: w.section.moves.smooth_here(),
        ),
        Command("meant", "Meant as", submenu=True),
        SEPARATOR,
        Command(
            "copy coat", "Copy the coat", ("Ctrl+C",), act=lambda w: w.section.moves.copy_coat()
        ),
        Command(
            "paste coat",
            "Paste a coat above it",
            ("Ctrl+V",),
            act=lambda w: w.section.moves.paste_coat(),
        ),
    ),
    "P&assage": (
        Command(
            "add passage",
            "Add a passage",
            ("Ctrl+Shift+N",),
            act=lambda w: w.section.passages.add_passage(),
        ),
        Command(
            "remove passage",
            "Take the passage away",
            act=lambda w: w.section.passages.remove_passage(),
        ),
        Command(
            "next passage", "Next passage", ("PgDown",), act=lambda w: w.section.step_passage(1)
        ),
        Command(
            "previous passage",
            "Previous passage",
            ("PgUp",),
            act=lambda w: w.section.step_passage(-1),
        ),
        Command("primer", "Next primer", ("P",), act=lambda w: w.section.passages.next_primer()),
        Command(
            "ground",
            "Prepare the ground …",
            ("Shift+P",),
            act=lambda w: w.section.head.ground.showMenu(),
        ),
        Command(
            "ground in hand",
            "Show the ground's coats, or fold them in",
            act=lambda w: w.section.ground.toggle(),
        ),
        Command(
            "as ground",
            "Count this coat and all below it as ground",
            act=lambda w: w.section.ground.count_coats(),
        ),
        Command(
            "copy passage",
            "Copy the passage",
            ("Ctrl+D",),
            act=lambda w: w.section.moves.copy_passage(),
        ),
        Command(
            "went wrong",
            "It went wrong …",
            hint="Too dark, too bright, too strong: find the way back",
            act=lambda w: w.router.went_wrong(),
        ),
        Command("push ends", "Push both ends", ("X",), act=lambda w: w.section.moves.push_ends()),
        SEPARATOR,
        Command(
            "sculpt",
            "See it on a sculpt of your own …",
            ("Ctrl+I",),
            act=lambda w: w.router.forms.choose_sculpt(),
        ),
        Command(
            "rings",
            "Axis on the sculpt in rings, or straight",
            ("R",),
            act=lambda w: w.router.forms.ring_axis(),
        ),
        Command(
            "nozzle left",
            "Lead the ground's nozzle to the left",
            ("[",),
            act=lambda w: w.router.forms.turn_nozzle(-5.0),
        ),
        Command(
            "nozzle right",
            "Lead the ground's nozzle to the right",
            ("]",),
            act=lambda w: w.router.forms.turn_nozzle(5.0),
        ),
        SEPARATOR,
        Command("lit by", "Lit by", submenu=True),
        Command("glow", "Plan a painted light …", ("Z",), act=lambda w: w.router.go("light")),
        SEPARATOR,
        Command(
            "aim", "Keep the colour read as a target", ("K",), act=lambda w: w.section.moves.aim()
        ),
        Command(
            "match",
            "Find coats for the targets …",
            ("C",),
            act=lambda w: w.router.go("match"),
        ),
        Command(
            "drop target",
            "Forget the nearest target",
            ("Shift+K",),
            act=lambda w: w.section.moves.drop_target(),
        ),
    ),
    "&Look": LOOK,
    "&Help": (
        Command(
            "find",
            "Find …",
            ("Ctrl+F",),
            "Find a command, a paint, a passage, a plan or help",
            where=EVERYWHERE,
            act=lambda w: w.find_anything(),
        ),
        Command("keys", "Keys of this page", ("?",), where=EVERYWHERE, act=lambda w: w.show_keys()),
        Command("round", "Show me round", where=EVERYWHERE, act=lambda w: w.show_round()),
        SEPARATOR,
        Command(
            "preferences",
            "Preferences …",
            ("Ctrl+,",),
            where=EVERYWHERE,
            act=lambda w: w.show_preferences(),
        ),
    ),
}
