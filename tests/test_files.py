"""Files read to a limit and written whole: links, devices, pipes, leftovers, and who may read."""

from __future__ import annotations

import os
import stat
import threading
import time
import tracemalloc
from pathlib import Path

import pytest

from zesty_veil import files
from zesty_veil.errors import FileError, fit_to_read
from zesty_veil.faultlog import write_down
from zesty_veil.files import make_private, put_aside, read_limited, write_atomically
from zesty_veil.paths import fault_path


def modes(path: Path) -> int:
    return stat.S_IMODE(path.stat().st_mode)


def test_a_device_is_written_to_and_stays_a_device(tmp_path: Path) -> None:
    write_atomically(Path("/dev/null"), b"words")
    assert stat.S_ISCHR(os.stat("/dev/null").st_mode)
    link = tmp_path / "nothing"
    link.symlink_to("/dev/null")
    write_atomically(link, b"words")
    assert link.is_symlink()
    with pytest.raises(FileError, match="cannot be written: no space left"):
        write_atomically(Path("/dev/full"), b"words")


def test_a_pipe_is_written_to_while_somebody_reads_and_refused_otherwise(tmp_path: Path) -> None:
    pipe = tmp_path / "pipe"
    os.mkfifo(pipe)
    with pytest.raises(FileError, match="cannot be written"):
        write_atomically(pipe, b"words")
    with pytest.raises(FileError, match="isn't a file that can be read; choose a plan"):
        read_limited(pipe, 100, "plan")
    heard: list[bytes] = []
    reader = threading.Thread(target=lambda: heard.append(pipe.read_bytes()))
    reader.start()
    for _ in range(200):
        try:
            write_atomically(pipe, b"words" * 50_000)
        except FileError:
            time.sleep(0.01)
        else:
            break
    reader.join()
    assert heard == [b"words" * 50_000]
    assert stat.S_ISFIFO(pipe.stat().st_mode)


def test_hard_links_keep_the_same_file(tmp_path: Path) -> None:
    one, other = tmp_path / "one.veil", tmp_path / "other.veil"
    one.write_bytes(b"a much longer old plan")
    os.link(one, other)
    write_atomically(one, b"new")
    assert other.read_bytes() == b"new"
    assert one.stat().st_ino == other.stat().st_ino
    assert sorted(p.name for p in tmp_path.iterdir()) == ["one.veil", "other.veil"]


def test_links_that_lead_round_in_a_circle_get_a_sentence(tmp_path: Path) -> None:
    one, other = tmp_path / "one", tmp_path / "other"
    one.symlink_to(other)
    other.symlink_to(one)
    for act in (lambda: write_atomically(one, b""), lambda: read_limited(one, 9, "plan")):
        with pytest.raises(FileError, match="symbolic links"):
            act()
    for name in ("a\0b", "n" * 300):
        with pytest.raises(FileError, match="cannot be written"):
            write_atomically(tmp_path / name, b"")
        with pytest.raises(FileError, match="cannot be read"):
            read_limited(tmp_path / name, 9, "plan")


def test_the_longest_name_can_be_written(tmp_path: Path) -> None:
    path = tmp_path / ("ü" * 125 + ".veil")
    write_atomically(path, b"x")
    assert path.read_bytes() == b"x"


def test_leftovers_are_cleared_and_what_is_being_written_is_not(tmp_path: Path) -> None:
    path = tmp_path / "plan.veil"
    old, fresh = (
        tmp_path / ".plan.veil.veil.0123456789ab",
        tmp_path / ".plan.veil.veil.ba9876543210",
    )
    other = tmp_path / ".plan.veil.veil.lock"  # of a plan called plan.veil.veil
    for left in (old, fresh, other):
        left.write_bytes(b"half")
    for left in (old, other):
        os.utime(left, (time.time() - 3600,) * 2)
    write_atomically(path, b"x")
    assert {p.name for p in tmp_path.iterdir()} == {fresh.name, other.name, "plan.veil"}


def test_folder_is_flushed_after_the_name_is_taken(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    seen: list[str] = []
    plain, replace = os.fsync, os.replace

    def watched(handle: int) -> None:
        seen.append("folder" if stat.S_ISDIR(os.fstat(handle).st_mode) else "file")
        plain(handle)

    def named(*names: Path) -> None:
        seen.append("name")
        replace(*names)

    monkeypatch.setattr(files.os, "fsync", watched)
    monkeypatch.setattr(files.os, "replace", named)
    write_atomically(tmp_path / "a", b"x")
    assert seen == ["file", "name", "folder"]


def test_rights_follow_the_umask_of_this_file_alone(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    def touched(_: int) -> int:
        pytest.fail("the umask belongs to all threads")

    old = os.umask(0o027)
    try:
        with monkeypatch.context() as patch:
            patch.setattr(os, "umask", touched)
            write_atomically(tmp_path / "plan", b"x")
            write_atomically(tmp_path / "own", b"x", private=True)
            make_private(tmp_path / "deep" / "folder")
    finally:
        os.umask(old)
    assert modes(tmp_path / "plan") == 0o640
    assert modes(tmp_path / "own") == 0o600
    assert modes(tmp_path / "deep" / "folder") == 0o700
    (tmp_path / "plan").chmod(0o604)
    write_atomically(tmp_path / "plan", b"y")
    assert modes(tmp_path / "plan") == 0o604


def test_reading_stops_at_the_limit_and_never_begins_on_what_has_no_end(tmp_path: Path) -> None:
    path = tmp_path / "plan"
    path.write_bytes(b"x" * 101)
    with pytest.raises(FileError, match=r"is over 0\.1 kB, which no plan is"):
        read_limited(path, 100, "plan")
    assert read_limited(path, 101, "plan") == b"x" * 101
    with pytest.raises(FileError, match="isn't a file"):
        read_limited(Path("/dev/zero"), 100, "card")
    with pytest.raises(FileError, match=r"isn't a file that can be read"):
        read_limited(tmp_path, 100, "card")


def test_what_is_put_aside_is_neither_read_again_nor_lost(tmp_path: Path) -> None:
    path = tmp_path / "state.json"
    for content in (b"one", b"two"):
        path.write_bytes(content)
        aside = put_aside(path)
        assert aside is not None
        assert aside.read_bytes() == content
    assert not path.exists()
    assert put_aside(path) is None


def test_names_are_shown_so_that_they_can_be_read() -> None:
    words = fit_to_read("'" + "x" * 100_000 + "' is no plan; open another.")
    assert len(words) < 300
    assert words.endswith("is no plan; open another.")
    assert fit_to_read("a\nb\x1b[2Jc\u202ed") == "a b\N{REPLACEMENT CHARACTER}[2Jc\ufffdd"
    assert str(FileError("y " * 5000 + "try again.")).endswith("try again.")
    assert len(str(FileError("y " * 5000))) < 1000


def test_an_error_of_the_program_is_written_down_for_its_owner_alone() -> None:
    try:
        _ = 1 / 0
    except ZeroDivisionError as error:
        words = write_down(error, "dividing")
    path = fault_path()
    assert "ZeroDivisionError" in words
    assert str(path) in words
    text = path.read_text()
    assert "dividing" in text
    assert "_ = 1 / 0" in text
    assert modes(path) == 0o600
    for _ in range(60):
        write_down(ValueError("x" * 20_000), "filling")
    kept = sum(p.stat().st_size for p in path.parent.iterdir())
    assert kept < 600_000
    assert "x" * 10_000 in path.read_text()


def test_an_error_that_cannot_be_written_down_is_still_told(tmp_path: Path) -> None:
    path = fault_path()
    path.parent.parent.mkdir(parents=True, exist_ok=True)
    path.parent.write_bytes(b"in the way")
    assert "could not be written down" in write_down(ValueError("x"), "trying")


def test_reading_takes_no_more_room_than_the_file(tmp_path: Path) -> None:
    """A limit of half a gigabyte must not cost half a gigabyte."""
    path = tmp_path / "plan"
    path.write_bytes(b"x" * 100)
    tracemalloc.start()
    try:
        assert read_limited(path, 500_000_000, "sculpt") == b"x" * 100
        assert tracemalloc.get_traced_memory()[1] < 5_000_000
    finally:
        tracemalloc.stop()
