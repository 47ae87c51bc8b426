"""The window's link to its helper process. No Qt here, so that the link is tested without.

`helpers.begin()` makes the window compute apart; before that, or where no process can be begun, all
is computed by threads of this one.
"""

from __future__ import annotations

import itertools
import queue
import socket
import subprocess
import sys
import threading
from collections.abc import Callable
from multiprocessing.connection import Connection
from typing import Any, Literal

from zesty_veil.desktop.session.apart.wire import MessageKind, WindowEnd, framed, unframed
from zesty_veil.errors import VeilError
from zesty_veil.faultlog import told
from zesty_veil.tr import tr

# Short work and long: a search of a minute does not hold up the section's colours.
Which = Literal["short", "long"]
# Called with the number of a request, an answer or none, a failure or none, and whether it is the
# last word on that request; on any thread.
Deliver = Callable[[int, Any, Exception | None, bool], None]

_DEATHS = 3
_END_S = 2.0
_channels = itertools.count(1)


class Channel:
    """One kind of work, and whom its answers reach."""

    def __init__(self, link: Link, work: Callable[..., Any], deliver: Deliver) -> None:
        self.id = next(_channels)
        self.link, self.deliver = link, deliver
        self.name = (work.__module__, work.__qualname__)
        self.newest = 0
        self.pending: dict[int, Any] = {}  # requests by number

    def ask(self, number: int, request: Any) -> None:
        """Send a request; exactly one last word on it will be delivered."""
        self.newest = number
        self.link.ask(self, number, request)

    def drop(self, number: int) -> None:
        """Want nothing older than a number."""
        self.newest = number
        self.link.tell(self, MessageKind.DROP, number)

    def close(self, number: int) -> None:
        """Want nothing any more; nothing is delivered after this returns."""
        self.newest = number
        self.link.close(self, number)


class Link:
    """A helper process and the two threads that speak with it."""

    def __init__(self) -> None:
        self._lock = threading.RLock()
        self._channels: dict[int, Channel] = {}
        self._queue: queue.SimpleQueue[tuple[Channel, MessageKind, int, Any] | None] = (
            queue.SimpleQueue()
        )
        self._end = WindowEnd()
        ours, theirs = socket.socketpair()
        with ours, theirs:
            # -P: a module beside a plan in the current folder must not be run for ours.
            self.process = subprocess.Popen(
                [sys.executable, "-P", "-m", "zesty_veil.desktop.session.apart.helper",
                 str(theirs.fileno())],
                pass_fds=(theirs.fileno(),), stdin=subprocess.DEVNULL,
            )  # fmt: skip
            self._connection = Connection(ours.detach())
        self.dead = False
        self.answered = False  # whether it ever did
        self._threads = [
            threading.Thread(target=work, name=f"helper {name}", daemon=True)
            for name, work in (("out", self._send_all), ("in", self._take_all))
        ]
        for thread in self._threads:
            thread.start()

    def ask(self, channel: Channel, number: int, request: Any) -> None:
        """Send a request of a channel."""
        with self._lock:
            self._channels[channel.id] = channel
            channel.pending[number] = request
            if not self.dead:
                self._queue.put((channel, MessageKind.ASK, number, request))
                return
        self._last_word(channel, number, _gone(self.process))

    def tell(self, channel: Channel, kind: MessageKind, number: int) -> None:
        """Send a word without a request."""
        self._queue.put((channel, kind, number, None))

    def close(self, channel: Channel, number: int) -> None:
        """Deliver nothing more to a channel."""
        with self._lock:
            self._channels.pop(channel.id, None)
            channel.pending.clear()
        self.tell(channel, MessageKind.CLOSE, number)

    def end(self) -> None:
        """Deliver nothing more to anybody, end the process, and wait until it has."""
        with self._lock:
            self._channels.clear()
        self._queue.put(None)
        self._threads[0].join(_END_S)
        try:
            self.process.wait(_END_S)
        except subprocess.TimeoutExpired:
            self.process.kill()
            self.process.wait()
        self._threads[1].join(_END_S)
        self._connection.close()

    def _send_all(self) -> None:
        while (item := self._queue.get()) is not None:
            channel, kind, number, request = item
            try:
                if kind is not MessageKind.ASK:
                    self._connection.send_bytes(framed(kind, channel.id, number))
                elif number != channel.newest:
                    self._last_word(channel, number)  # a newer one is on its way
                else:
                    before, body = self._end.request((channel.name, request))
                    for raw in before:
                        self._connection.send_bytes(raw)
                    self._connection.send_bytes(framed(kind, channel.id, number, body))
            except OSError:
                continue  # the process is gone; the other thread sees it too and tells
            except Exception as error:
                self._last_word(channel, number, told(error, "asking the helper"))
        try:
            # The other thread waits on the same socket, so closing alone would not wake it.
            with socket.socket(fileno=self._connection.fileno()) as shut:
                shut.shutdown(socket.SHUT_RDWR)
                shut.detach()
        except OSError:
            return  # it was gone before

    def _take_all(self) -> None:
        while True:
            try:
                raw = self._connection.recv_bytes()
            except (EOFError, OSError):
                break
            kind, which, number, body = unframed(raw)
            channel = self._channels.get(which)
            if channel is None:
                continue
            if kind is MessageKind.LAST:
                self._last_word(channel, number)
            elif number == channel.newest:
                self._answer(channel, kind, number, body)
        self._ended()

    def _answer(self, channel: Channel, kind: MessageKind, number: int, body: memoryview) -> None:
        self.answered = True
        try:
            answer = self._end.answer(body, channel.pending.get(number))
        except Exception as error:
            kind, answer = MessageKind.FAILED, told(error, "reading the helper's answer")
        with self._lock:
            if channel.id in self._channels:
                failed = kind is MessageKind.FAILED
                channel.deliver(number, None if failed else answer, answer if failed else None,
                                False)  # fmt: skip

    def _last_word(self, channel: Channel, number: int, failure: Exception | None = None) -> None:
        with self._lock:
            if channel.id in self._channels and number in channel.pending:
                del channel.pending[number]
                channel.deliver(number, None, failure, True)

    def _ended(self) -> None:
        """Tell all who wait that nothing will come."""
        with self._lock:
            self.dead = True
            waiting = [(c, n) for c in self._channels.values() for n in c.pending]
        self.process.wait()
        for channel, number in waiting:
            self._last_word(channel, number, _gone(self.process))


def _gone(process: subprocess.Popen[bytes]) -> VeilError:
    return VeilError(
        tr(
            "The process that computes for the window ended (code {0}); another takes its place, "
            "so change something or ask once more. The plan is as it was."
        ).format(process.returncode)
    )


class Helpers:
    """The helpers of this process: begun when they are first asked, and anew when they die."""

    def __init__(self) -> None:
        self.on = False
        self._links: dict[Which, Link] = {}
        self._deaths = 0

    def begin(self) -> None:
        """Compute apart from now on."""
        self._deaths = 0
        self.on = True
        self.link("short")  # so that it is there when the window is

    def end(self) -> None:
        """End all helpers; what asks after this computes here."""
        self.on = False
        for link in self._links.values():
            link.end()
        self._links.clear()

    def processes(self) -> tuple[int, ...]:
        """Return the numbers of the processes that live."""
        return tuple(link.process.pid for link in self._links.values() if not link.dead)

    def link(self, which: Which) -> Link | None:
        """Return a helper's link, or None where there is none to be had."""
        if not self.on:
            return None
        link = self._links.get(which)
        if link is not None and link.dead:
            # One that cannot even begin would be begun for ever.
            self._deaths = 0 if link.answered else self._deaths + 1
            link = None
        if link is None and self._deaths < _DEATHS:
            try:
                link = self._links[which] = Link()
            except OSError:
                self._deaths += 1
        return link


helpers = Helpers()
