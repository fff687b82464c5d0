"""Shapes in a real window on an X screen, by real pointer and key events; prints one line of JSON.

Run as a program of its own: real_shapes.py PHOTO FOLDER. The photo shows a light disc of radius 180 about
(350, 300) on a dark ground.
"""

import json
import math
import sys
from pathlib import Path

import msgspec
from PySide6.QtCore import QPoint
from PySide6.QtWidgets import QMenu, QPushButton

sys.path.insert(0, str(Path(__file__).parent))

from real_finishing import Finisher

from glasscap.files.jobs import open_job

CENTRE, RADIUS = (350.0, 300.0), 180.0


class Drawer(Finisher):
    """Adds menus, clicks on the sheet, and what the shape is now."""

    def choose(self, button: QPushButton, *names: str) -> None:
        """Open a button's menu and walk it with the keys."""
        self.reveal(button)
        self.click(button)
        menu: QMenu = button.menu()
        for name in names:
            self.wait(menu.isVisible)
            action = next(a for a in menu.actions() if a.text().split("\t")[0] == name)
            self.click(menu, menu.actionGeometry(action).center())
            menu = action.menu() or menu

    def click_sheet(self, *places: tuple[float, float]) -> None:
        for x, y in places:
            vx, vy = self.bench.to_view.apply(x, y)
            at = self.point(self.bench, QPoint(round(vx), round(vy)))
            self.x("mousemove", *at)
            self.rest()
            self.x("click", "1")
            self.rest()

    def now(self) -> dict:
        item = self.session.item
        return {
            "shape": msgspec.to_builtins(item.shape),
            "place": msgspec.to_builtins(item.shape_placement),
            "content": msgspec.to_builtins(item.content_placement),
        }


def on_rim(degrees: float) -> tuple[float, float]:
    a = math.radians(degrees)
    return CENTRE[0] + RADIUS * math.cos(a), CENTRE[1] + RADIUS * math.sin(a)


def run(photo: Path, folder: Path) -> dict:
    """Use every way to a shape, save, open again, write the picture."""
    screen = Drawer()
    screen.studio.take_paths((photo,))
    screen.rest()
    step = screen.studio.workbench.steps.shape
    seen: dict[str, object] = {"platform": screen.app.platformName(), "first": screen.now()}

    screen.click(step.library)
    panel = screen.studio.workbench.library
    screen.arrive(len("love"), "type", "--clearmodifiers", "love")
    screen.rest()
    grid = panel.grid
    screen.click(grid.viewport(), grid.visualRect(grid.shapes.index(0)).center())
    screen.key("Escape")
    seen["library"] = screen.now()

    screen.choose(step.draw, "Point by point")
    screen.click_sheet((200, 150), (520, 170), (480, 460))
    screen.key("BackSpace")
    screen.click_sheet((500, 450), (220, 430), (200, 150))
    seen["drawn"] = screen.now()
    screen.click(step.points.edit)
    screen.drag((200, 150), (170, 120))
    screen.key("Escape", "Escape")
    seen["edited"] = screen.now()

    screen.choose(step.draw, "Circle through rim points")
    screen.click_sheet(on_rim(-90), on_rim(30), on_rim(150))
    screen.key("Return")
    seen["rim"] = screen.now()

    screen.choose(step.draw, "Follow an edge")
    for degrees in (-90, -10, 70, 150, 220):
        screen.click_sheet(on_rim(degrees))
    screen.key("Return")
    seen["followed"] = screen.now()

    screen.choose(step.draw, "Around an object")
    screen.drag((140, 90), (560, 510))
    screen.wait(lambda: not screen.bench.driver.sketching.shown.is_waiting)
    screen.key("Return")
    seen["around"] = screen.now()

    screen.choose(step.parts.add, "A part that subtracts")
    screen.type_in(step.size_row.first, "80")
    screen.bench.setFocus()
    screen.key("Escape")
    seen["combined"] = screen.now()

    screen.choose(step.draw, "Freehand")
    screen.bench.setFocus()
    screen.drag((200, 200), (500, 420))
    screen.key("Escape")

    screen.reveal(step.letters)
    screen.click(step.letters)
    screen.arrive(len("POT"), "type", "--clearmodifiers", "POT")
    screen.rest()
    screen.key("Return")
    screen.arrive(len("luck"), "type", "--clearmodifiers", "luck")
    screen.rest()
    screen.key("Escape")
    seen["letters"] = screen.now()

    path = folder / "shapes.glasscap"
    written = screen.save_and_write(path)
    seen["written"] = str(written)
    seen["reopened"] = open_job(path).job == screen.session.committed
    screen.session.mark_saved(path, screen.session.committed)
    screen.shell.close()
    return seen


if __name__ == "__main__":
    print(json.dumps(run(Path(sys.argv[1]), Path(sys.argv[2]))))
