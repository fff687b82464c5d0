"""The README's tour, steps 11 to 16: groups, gaps, versions, mock-ups, a series."""

import shutil
from pathlib import Path

import pyatspi
from driver import Hand, items_of, play, until, x

DEMO_PHOTO = Path(__file__).parents[3] / "src/glasscap/demo/data/jug-by-the-window.jpg"


def scenario(folder):
    hand = Hand("--demo")
    path = folder / "further.glasscap"
    hand.click("Sheet Card back")
    until(lambda: hand.has("Group Shelf"), "groups are in the tray")
    begun = items_of(hand.save_as(path))

    # 11: a group opens by a double click, letters deep in it are typed; Escape leaves one level each time.
    shelf = hand.on_sheet(begun["Shelf"])
    hand.click_at((shelf[0] - 60, shelf[1]), times=2)
    until(lambda: hand.has("Cutout Bowls"), "the shelf is open")
    hand.click_at(hand.on_sheet(begun["OPEN"]), times=2)
    hand.key("ctrl+a")
    hand.type("SHUT")
    hand.key("Escape")
    typed = items_of(hand.save(path))
    assert "SHUT" in str(typed["SHUT"]["shape"]), typed.keys()
    hand.key("ctrl+z")
    until(lambda: "OPEN" in items_of(hand.save_as(folder / "open.glasscap")), "one undo brings the word back")
    hand.key("Escape", "Escape", "Escape")

    # 12: a cutout dragged in the tray into a group's frame; the group masks it.
    hand.drag(hand.centre(hand.find("Cutout Test tiles")), hand.centre(hand.find("Group Shelf")))
    inside = hand.save_as(folder / "inside.glasscap")
    assert "Test tiles" not in [i["name"] for i in inside["sheets"][1]["items"]]
    assert items_of(inside)["Test tiles"]["shape_placement"] == begun["Test tiles"]["shape_placement"]
    hand.key("ctrl+z")
    until(lambda: hand.has("Cutout Test tiles"), "it is out again")

    # 13: a drag tells the gaps; a row of two is repeated by Arrange.
    mark = hand.on_sheet(begun["Maker's mark"])
    hand.drag(mark, (mark[0] + 20, mark[1] + 6))
    moved = items_of(hand.save_as(folder / "moved.glasscap"))["Maker's mark"]
    assert moved["shape_placement"]["x"] > begun["Maker's mark"]["shape_placement"]["x"]
    hand.click("Cutout Test tiles")
    x("keydown", "ctrl")
    hand.click("Cutout Maker's mark")
    x("keyup", "ctrl")
    hand.wheel((170, 560), 20)
    hand.click("Step: Arrange")
    hand.wheel((170, 560), 20)
    hand.click("Align at the top", "push button")
    made = items_of(hand.save_as(folder / "aligned.glasscap"))
    tops = [made[n]["shape_placement"] for n in ("Test tiles", "Maker's mark")]
    assert len({round(p["y"] - p["height"] / 2, 3) for p in tops}) == 1, tops

    # 14: versions.
    hand.click("Sheet Card front")
    hand.click("Cutout Blue plate")
    hand.click("Version Plain")
    until(lambda: hand.is_on(hand.find("Version Plain")), "the plain version shows")
    hand.click("Version Bordered")
    hand.save(folder / "aligned.glasscap")

    # 15: mock-ups, and a page for the client.
    hand.click("Mock-ups", "push button")
    hand.find("Write the page for the client", "push button")
    hand.click("Write the page for the client", "push button")
    hand.choose_file(folder / "client.pdf")
    until(lambda: hand.has("Written: client.pdf"), "the page is written", 60)
    hand.key("Escape")

    # 16: a series.
    hand.click("Cutout Blue plate")
    hand.click("Make a series", "push button")
    hand.click("Add photos", "push button")
    shutil.copy(DEMO_PHOTO, folder / "pot.jpg")
    hand.choose_file(folder / "pot.jpg")
    hand.click(until(lambda: ready(hand), "the photo has its card"))
    until(lambda: hand.has("Cutout pot"), "a sheet of its own holds what came of the photo")
    errors = hand.close()
    assert "Traceback" not in errors, errors


def ready(hand):
    """Return the button that makes the series, once it can be clicked."""
    return next(
        (n for n in hand.all("Make 1 ", "push button") if n.getState().contains(pyatspi.STATE_ENABLED)), None
    )


play(scenario)
