"""Threads that leave the interface its turn."""

import sys

# Seconds after which a thread that computes gives way to one that waits (the default is 5 ms: a repaint of a
# hundred calls, each waiting its turn behind two workers, would take a second).
_TURN_SECONDS = 0.0001


def take_short_turns() -> None:
    """Let threads change over often enough that the interface never waits for long."""
    sys.setswitchinterval(_TURN_SECONDS)
