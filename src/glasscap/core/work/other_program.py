"""Programs of the system that answer in a moment."""

import os
import subprocess
from collections.abc import Sequence


def answer_of_program(command: Sequence[str], *, longest_wait: float) -> bytes | None:
    """Run a program and return what it writes; None where it cannot be run or does not answer in time (s)."""
    # Image libraries may have changed where programs look for theirs.
    plain = {k: v for k, v in os.environ.items() if k != "LD_LIBRARY_PATH"}
    try:
        ran = subprocess.run(command, capture_output=True, timeout=longest_wait, env=plain, check=False)
    except (OSError, subprocess.SubprocessError):
        return None
    return ran.stdout
