"""A series in a real window on an X screen, by real pointer and key events; prints a line of JSON.

Run as a program of its own: real_series.py PHOTO FOLDER OTHER... One photo gets a stroke, the others its steps; all
are written.
"""

import json
import sys
from pathlib import Path

from glasscap.app.services import asking
from tests.app.answers import answering

sys.path.insert(0, str(Path(__file__).parent))

from real_window import Screen


def main() -> None:
    photo, folder, *others = map(Path, sys.argv[1:])
    screen = Screen()
    session, workbench = screen.session, screen.studio.workbench
    screen.drop(photo)
    workbench.steps.open_only("strokes")
    screen.rest()
    screen.click(workbench.steps.strokes.add)
    screen.finished(screen.studio.files.save_to(folder / "one.glasscap"))
    screen.click(screen.studio.topbar.series)
    panel = workbench.series
    asking.files_to_open = answering(tuple(others))
    screen.click(panel.add)
    screen.wait(lambda: len(panel.cards.cards) == len(others))
    screen.rest()
    cards = list(panel.cards.cards.values())
    seen: dict = {"cards": [c.name for c in cards], "drawn": all(c._frame is not None for c in cards)}
    screen.click(cards[-1].cross)
    screen.click(panel.placings.buttons["alike"])
    screen.click(panel.make)
    seen["sheets"] = [[i.name for i in s.items] for s in session.job.sheets]
    seen["undo"] = session.undo_label
    written = screen.save_and_write(folder / "series.glasscap")
    seen["written"] = [str(r.path) for r in workbench.export.written.results]
    assert str(written) == seen["written"][0]
    print(json.dumps(seen))


if __name__ == "__main__":
    main()
