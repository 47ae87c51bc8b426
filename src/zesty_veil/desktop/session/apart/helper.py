"""The helper process: computes what the window asks for, and ends when the window does.

    python -P -m zesty_veil.desktop.session.apart.helper FD

FD is an open socket to the window. No Qt here.
"""

from __future__ import annotations

import os
import signal
import socket
import sys
import threading
import time
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from importlib import import_module
from multiprocessing.connection import Connection
from typing import Any

from zesty_veil.desktop.session.apart.wire import HelperEnd, MessageKind, framed, unframed
from zesty_veil.faultlog import told
from zesty_veil.kept import room
from zesty_veil.memory import give_back, keep_freed_memory
from zesty_veil.translation import speak_own

# Where both want the processor, the window comes first.
_NICE = 5
# After this long without a request, or a work that took so long, memory goes back to the system:
# a search takes hundreds of megabytes for some seconds, and who paints has other programs too. Now
# and then it does so while requests come without a pause.
_QUIET_S, _LONG_S, _OFTEN_S = 3.0, 1.0, 4.0
# What a helper keeps of its answers; the window keeps pictures of its own.
_ROOM_MB = 90.0

HelperWork = Callable[[Any, Callable[[], bool]], Iterator[Any]]


class Helper:
    """Answers over a connection, each channel with a worker of its own."""

    def __init__(self, connection: Connection) -> None:
        self._connection = connection
        self._sending = threading.Lock()
        self._end = HelperEnd()
        self._newest: dict[int, int] = {}
        self._workers: dict[int, ThreadPoolExecutor] = {}
        self._gave_back = time.monotonic()

    def serve(self) -> None:
        """Answer until the window is gone."""
        quiet = True
        while True:
            try:
                if not quiet and not self._connection.poll(_QUIET_S):
                    give_back()
                    quiet = True
                raw = self._connection.recv_bytes()
                quiet = False
            except (EOFError, OSError):
                return
            kind, channel, number, body = unframed(raw)
            if kind is MessageKind.LEARN:
                self._end.learn(body)
            elif kind is MessageKind.FORGET:
                self._end.forget()
            elif kind is MessageKind.DROP:
                self._newest[channel] = number
            elif kind is MessageKind.CLOSE:
                self._newest[channel] = number
                worker = self._workers.pop(channel, None)
                if worker is not None:
                    worker.shutdown(wait=False)
            elif kind is MessageKind.ASK:
                self._newest[channel] = number
                try:
                    work, request = self._end.request(body)
                except Exception as error:
                    self._failed(channel, number, error, "reading a request")
                    self._send(framed(MessageKind.LAST, channel, number))
                    continue
                if channel not in self._workers:
                    self._workers[channel] = ThreadPoolExecutor(1, f"channel {channel}")
                self._workers[channel].submit(self._answer, channel, number, work, request)

    def _answer(self, channel: int, number: int, name: tuple[str, str], request: Any) -> None:
        def should_continue() -> bool:
            return self._newest.get(channel) == number

        began = time.monotonic()
        try:
            if should_continue():
                for answer in _work(name)(request, should_continue):
                    if not should_continue():
                        break
                    body = self._end.answer(answer, request)
                    self._send(framed(MessageKind.ANSWER, channel, number, body))
        except Exception as error:
            self._failed(channel, number, error, ".".join(name))
        finally:
            self._send(framed(MessageKind.LAST, channel, number))
        ended = time.monotonic()
        if ended - began > _LONG_S or ended - self._gave_back > _OFTEN_S:
            self._gave_back = ended
            give_back()

    def _failed(self, channel: int, number: int, error: Exception, doing: str) -> None:
        body = self._end.answer(told(error, doing), None)
        self._send(framed(MessageKind.FAILED, channel, number, body))

    def _send(self, raw: bytes) -> None:
        with self._sending:
            try:
                self._connection.send_bytes(raw)
            except OSError:
                os._exit(0)  # the window is gone, and nobody is left to tell


def _work(name: tuple[str, str]) -> HelperWork:
    work: HelperWork = getattr(import_module(name[0]), name[1])
    return work


def serve() -> None:
    """Serve the window at the other end of the socket whose number is given."""
    keep_freed_memory()
    room.limit(_ROOM_MB)
    speak_own()  # the window has said what may be wrong with it
    os.nice(_NICE)
    # Ctrl+C in the terminal is the window's affair; this end follows it.
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    with socket.socket(fileno=int(sys.argv[1])) as own:
        connection = Connection(own.detach())
    Helper(connection).serve()
    os._exit(0)  # workers that are in the middle of something are not waited for


if __name__ == "__main__":
    serve()
