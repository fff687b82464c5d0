"""Finishing in a real window on an X screen, by real pointer and key events; prints one line of JSON.

Run as a program of its own: real_finishing.py PHOTO FOLDER.
"""

import json
import sys
from pathlib import Path

import msgspec
import numpy as np
from PySide6.QtCore import QPoint, QPointF
from PySide6.QtWidgets import QWidget

sys.path.insert(0, str(Path(__file__).parent))

from real_window import Screen

from glasscap.app.services import asking
from glasscap.core.formats.png import write_png
from glasscap.files.jobs import open_job
from tests.app.answers import answering


class Finisher(Screen):
    """Adds drags on any widget."""

    def pull(self, widget: QWidget, start: QPointF, end: QPointF) -> None:
        points = [start + (end - start) * share for share in (0.0, 0.3, 0.7, 1.0)]
        self.x("mousemove", *self.point(widget, points[0].toPoint()), "mousedown", "1")
        for point in points[1:]:
            self.x("mousemove", *self.point(widget, point.toPoint()))
            self.app.processEvents()
        self.arrive(1, "mouseup", "1")

    def type_in(self, field: QWidget, text: str) -> None:
        self.reveal(field)
        self.click(field, times=3)
        self.key("ctrl+a")
        self.arrive(len(text), "type", "--clearmodifiers", text)
        self.key("Return")

    def open_step(self, key: str) -> None:
        header = self.studio.workbench.steps.cards[key].header
        self.reveal(header)
        self.click(header, QPoint(30, 12))

    def reveal(self, widget: QWidget) -> None:
        """Scroll the steps as a wheel would."""
        self.studio.workbench.steps._area.ensureWidgetVisible(widget, 0, 40)
        self.rest()

    def slide(self, slider: QWidget, share: float) -> None:
        self.reveal(slider)
        middle = slider.height() / 2
        knob = 8 + (slider.width() - 16) * slider.value() / slider.maximum()
        self.pull(slider, QPointF(knob, middle), QPointF(8 + (slider.width() - 16) * share, middle))


def mask_by_hand(screen: Finisher, folder: Path) -> None:
    """Mask by a picture and drag it a quarter of the shape to the right."""
    level = np.full((40, 40, 4), 255, np.uint8)
    picture = folder / "mask.png"
    picture.write_bytes(write_png(level))
    # The file dialog is the desktop's own.
    asking.file_to_open = answering(picture)
    edge = screen.studio.workbench.steps.edge
    screen.reveal(edge.mask_button)
    screen.click(edge.mask_button)
    screen.rest()
    screen.reveal(edge.mask_placing)
    screen.click(edge.mask_placing)
    shape = screen.session.item.shape_placement
    screen.drag((shape.x, shape.y), (shape.x + shape.width / 4, shape.y))
    screen.key("Escape")


def run(photo: Path, folder: Path) -> dict[str, object]:
    """Dress one cutout by hand, save, open again, write the picture."""
    screen = Finisher()
    screen.studio.take_paths((photo,))
    screen.rest()
    steps = screen.studio.workbench.steps

    def finishes() -> object:
        return msgspec.to_builtins(screen.session.item.finishes)

    screen.open_step("strokes")
    screen.click(steps.strokes.add)
    screen.slide(steps.strokes.breadth.slider, 0.25)
    screen.click(steps.strokes.add)
    screen.reveal(steps.strokes.joins)
    screen.click(steps.strokes.joins.buttons["mitre"])
    strip = steps.strokes.strip.strip
    screen.reveal(strip)
    mark = next(m for m in strip.marks if m.kind == "outer" and m.index == 1)
    knob = strip.knob(mark).center()
    screen.pull(strip, knob, knob + QPointF(6 * strip.zoom, 0))
    strokes = finishes()
    screen.open_step("light")
    steps.light.add_light("shadow")
    screen.rest()
    screen.slide(steps.light.blur.slider, 0.4)
    screen.reveal(steps.light.lamp.view)
    screen.pull(steps.light.lamp.view, steps.light.lamp.view.knob(), QPointF(30, 30))
    lights = finishes()
    steps.light.add_light("bevel")
    screen.rest()
    screen.slide(steps.light.slope.slider, 0.3)
    screen.open_step("edge")
    screen.type_in(steps.edge.inset.field, "5")
    screen.type_in(steps.edge.feather.field, "600")
    feathered = finishes()
    screen.key("ctrl+z")
    screen.type_in(steps.edge.feather.field, "8")
    edge = finishes()
    screen.reveal(steps.edge.rough)
    screen.click(steps.edge.rough, QPoint(9, 12))
    screen.slide(steps.edge.amount.slider, 0.2)
    mask_by_hand(screen, folder)
    screen.open_step("mount")
    screen.reveal(steps.mount.is_on)
    screen.click(steps.mount.is_on, QPoint(9, 12))
    screen.reveal(steps.mount.heavy)
    screen.click(steps.mount.heavy)
    done = finishes()
    screen.open_step("photo")
    screen.reveal(steps.photo.adjust.toggle)
    screen.click(steps.photo.adjust.toggle)
    screen.slide(steps.photo.adjust.rows["exposure_ev"].slider, 0.6)
    screen.open_step("look")
    screen.slide(steps.look.opacity.slider, 0.8)
    whole = msgspec.to_builtins(screen.session.item)
    chosen = screen.session.selected
    screen.click(screen.bench, QPoint(6, 6))
    screen.click(steps.sheet.kinds.buttons["paint"])
    backdrop = msgspec.to_builtins(screen.session.sheet.backdrop)
    screen.session.select(chosen)
    screen.rest()
    screen.shell.grab().save(str(folder / "window.png"))
    path = folder / "dressed.glasscap"
    written = screen.save_and_write(path)
    again = open_job(path)
    is_same = again.job == screen.session.committed
    screen.key("ctrl+e")
    card = steps.look.buttons["Die cut"]
    screen.reveal(card)
    screen.click(card)
    applied = finishes()
    answer = {
        "strokes": strokes,
        "lights": lights,
        "feathered": feathered,
        "edge": edge,
        "done": done,
        "whole": whole,
        "backdrop": backdrop,
        "set": applied,
        "reopened": is_same,
        "written": str(written),
        "platform": screen.app.platformName(),
    }
    screen.session.mark_saved(path, screen.session.committed)
    screen.shell.close()
    return answer


if __name__ == "__main__":
    print(json.dumps(run(Path(sys.argv[1]), Path(sys.argv[2]))))
