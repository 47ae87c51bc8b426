"""What a command says beside its answer: on the error stream, so that the answer stays whole."""

from __future__ import annotations

import sys


def aside(words: str) -> None:
    """Say a sentence beside the answer."""
    print(words, file=sys.stderr)
