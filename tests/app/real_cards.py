"""A card set from empty in a real window on an X screen, by real pointer and key events; prints a line of JSON.

Run as a program of its own: real_cards.py PHOTO FOLDER. Two sheets, a group under its own shape, a mask within a
mask, letters inside that stay text, two versions, a mock-up, the page for the client.
"""

import json
import sys
from pathlib import Path

from PySide6.QtCore import QPoint
from PySide6.QtWidgets import QPushButton

sys.path.insert(0, str(Path(__file__).parent))

from real_shapes import Drawer

from glasscap.app.photos.intake import Incoming
from glasscap.app.services import asking
from glasscap.core.document.model.query import items_of
from glasscap.files.jobs import open_job
from tests.app.answers import answering


class CardMaker(Drawer):
    """Draws shapes on the sheet and picks cards of the tray."""

    def shape_at(self, start: tuple[float, float], end: tuple[float, float]) -> None:
        """Draw a shape that waits for a photo."""
        self.key("Escape")
        self.key("Escape")
        self.key("d")
        self.drag(start, end)

    def card(self, name: str, *, adds: bool = False) -> None:
        """Click a card of the tray."""
        key = next(i.id for _, i in items_of(self.session.job) if i.name == name)
        tray = self.studio.workbench.tray
        shown = tray.cards.get(key) or tray.groups[key]
        place = QPoint(10, 50) if key in tray.groups else QPoint(50, 40)
        if adds:
            self.x("keydown", "ctrl")
        self.click(shown, place)
        if adds:
            self.x("keyup", "ctrl")
            self.rest()

    def tree(self) -> list:
        """What lies on the sheets, groups as [name, [what they hold]]."""

        def of(items) -> list:
            return [[i.name, of(i.items)] if i.is_group else i.name for i in items]

        return [of(sheet.items) for sheet in self.session.job.sheets]


def main() -> None:
    photo, folder = Path(sys.argv[1]), Path(sys.argv[2])
    screen = CardMaker()
    session, workbench = screen.session, screen.studio.workbench
    screen.drop(photo)
    seen: dict = {}

    # A circle of the photo, a word beside it, and a waiting circle in front: the inner group.
    screen.key("s")
    screen.drag((300, 250), (230, 250))
    screen.key("Escape")
    screen.key("Escape")
    screen.wait(lambda: session.item is None)
    letters = next(b for b in workbench.steps.findChildren(QPushButton) if b.accessibleName() == "Set letters")
    screen.click(letters)
    screen.wait(lambda: session.is_typing)
    screen.x("type", "--delay", "40", "KILN")
    screen.rest()
    screen.key("Escape")
    word = session.item
    seen["waiting"] = [word.shape.letters.text, word.content is None]
    screen.studio.take(Incoming((photo,)), word.id)
    screen.rest()
    screen.shape_at((150, 100), (450, 400))
    mask = session.item
    for name in (word.name, "Blue plate", mask.name):
        screen.card(name, adds=name != word.name)
    screen.key("ctrl+u")
    inner = session.item
    seen["inner"] = [inner.is_group, inner.shape is not None, len(inner.items)]

    # The same within a larger shape: a mask within a mask.
    screen.shape_at((100, 80), (520, 470))
    outer_mask = session.item
    screen.card(inner.name)
    screen.card(outer_mask.name, adds=True)
    screen.key("ctrl+u")
    outer = session.item
    seen["tree"] = screen.tree()

    # Opened on the bench: two groups deep the letters are still text.
    screen.card(word.name)
    seen["open"] = session.open_group == inner.id
    box = session.item.shape_placement.box
    at = screen.bench.to_view.apply(*box.centre)
    screen.click(screen.bench, QPoint(round(at[0]), round(at[1])), times=2)
    screen.wait(lambda: session.is_typing)
    screen.key("End")
    screen.x("type", "--delay", "40", "S")
    screen.rest()
    screen.key("Escape")
    seen["typed"] = session.item.shape.letters.text
    screen.key("Escape")
    screen.key("Escape")
    seen["closed"] = [session.open_group is None, session.selected == (outer.id,)]

    # Another version of the plate, fainter.
    screen.card("Blue plate")
    screen.click(workbench.steps.versions.add)
    screen.open_step("look")
    screen.click(workbench.steps.look.opacity.field, times=3)
    screen.x("type", "--delay", "30", "40")
    screen.rest()
    screen.key("Return")
    versions = session.item.versions
    seen["versions"] = [v.name for v in versions]
    seen["faint"] = session.item.opacity
    screen.click(workbench.steps.versions.buttons["Version 1"])
    seen["full"] = session.item.opacity

    # The other side of the card, and the mock-up of the first.
    screen.click(workbench.tray.sheets.add)
    screen.shape_at((100, 100), (300, 300))
    seen["sheets"] = len(session.job.sheets)
    screen.click(workbench.tray.sheets.buttons[session.job.sheets[0].id])
    screen.card("Blue plate")
    screen.key("ctrl+shift+e")
    view = workbench.mockups
    screen.click(view.places.buttons["badge"])
    screen.wait(lambda: screen.studio.service.is_idle)
    seen["mockup"] = session.job.mockups[0].place
    page = folder / "client.pdf"
    asking.file_to_save = answering(page)
    screen.click(view.write_page)
    screen.wait(page.is_file)
    screen.key("ctrl+shift+e")

    path = folder / "cards.glasscap"
    asking.file_to_save = answering(path)
    screen.key("ctrl+s")
    screen.wait(lambda: session.is_saved)
    seen["reopened"] = open_job(path).job == session.job
    screen.shell.grab().save(str(folder / "window.png"))
    seen["shut"] = screen.shell.close()
    print(json.dumps(seen))


if __name__ == "__main__":
    main()
