"""Points whose handles are pulled out and pushed in, and the versions of a sheet, by hand."""

from driver import Hand, items_of, play, until, x


def scenario(folder):
    hand = Hand("--demo")
    hand.click("Cutout Kiln door")
    hand.click("Turn into points", "push button")
    file = folder / "door.glasscap"
    door = items_of(hand.save_as(file))["Kiln door"]
    at = door["shape_placement"]
    foot = {"x": at["x"] - at["width"] / 2, "y": at["y"] + at["height"] / 2}
    left, low = hand.on_sheet({"shape_placement": foot})

    def path():
        return items_of(hand.save(file))["Kiln door"]["shape"]["path"]

    # The ring lies 18 px along the side that leaves the point.
    hand.click_at((left, low))
    hand.drag((left + 18, low), (left + 60, low + 40))
    pulled = path()
    assert pulled != door["shape"]["path"]
    hand.drag((left + 60, low + 40), (left + 2, low + 1))
    assert path() == door["shape"]["path"], "pushed in, the corner is as it was"
    hand.key("ctrl+z")
    assert path() == pulled, "one drag is one step"
    # Escape while dragging gives the drag up; without clearing what is held, which would let the button go.
    x("mousemove", left + 60, low + 40, "mousedown", 1, "mousemove", left + 90, low + 60)
    x("mousemove", left + 100, low + 70, "key", "Escape")
    hand.rest()
    x("mouseup", 1)
    hand.click("Even handles", "check box")
    even = path()
    assert even != pulled
    hand.key("ctrl+z", "ctrl+z")
    assert path() == door["shape"]["path"]

    # The menu under the pointer; its first entry is the switch.
    hand.click_at((left, low))
    x("mousemove", left, low, "click", 3)
    hand.rest()
    hand.choose(1)
    until(lambda: hand.is_on(hand.find("Even handles", "check box")), "the menu made the handles even")
    hand.key("ctrl+z", "Escape", "Escape")

    # The tray tells the sheet's version, also while a cutout is selected, and its menu switches it.
    hand.click("Bench", at=(8, 8), exact=True)
    until(lambda: hand.has("Nothing is selected"), "nothing is selected")
    hand.click("+ Version", "push button")
    hand.click("Cutout Blue plate")
    sheet = hand.find("Sheet Card front, Version 2", exact=True)
    hand.click(sheet, button=3)
    x("key", "Up", "Up", "Return")
    until(lambda: hand.has("Sheet Card front, Version 1", exact=True), "the menu shows the first version")
    hand.key("ctrl+z")
    until(lambda: hand.has("Sheet Card front, Version 2", exact=True), "it is taken back")
    errors = hand.close()
    assert "Traceback" not in errors, errors


play(scenario)
