"""Answers given at once to what the window would ask in a dialog."""

from collections.abc import Callable, Generator
from typing import Any

import pytest

from glasscap.app.services import asking

QUESTIONS = ("question", "files_to_open", "file_to_open", "file_to_save", "folder", "line_of_text")


def answering(*values: object) -> Callable[..., Generator[Any, Any, object]]:
    """A question that is answered by one value after another, by the last from then on; what was asked is kept."""
    left = list(values)

    def asked(*words: object) -> Generator[Any, Any, object]:
        asked.calls.append(words)
        return left.pop(0) if len(left) > 1 else left[0]
        yield

    asked.calls = []
    return asked


def answer(monkeypatch: pytest.MonkeyPatch, name: str, *values: object) -> list[tuple[object, ...]]:
    """Answer one kind of question; return what was asked, as it comes."""
    assert name in QUESTIONS
    asked = answering(*values)
    monkeypatch.setattr(asking, name, asked)
    return asked.calls
