"""Starting: a shape first, photos side by side, the photo held by a double click, menus under the pointer, by hand."""

from driver import Hand, items_of, play, until


def scenario(folder):
    hand = Hand("--demo")
    bench = hand.find("Bench", exact=True)

    # With nothing selected a rectangle is drawn in two actions; undo takes it away.
    hand.click(bench, at=(6, 6))
    hand.click("Rectangle", exact=True)
    left, top, _, _ = hand.box(bench)
    hand.drag((left + 60, top + 90), (left + 160, top + 150))
    drawn = items_of(hand.save_as(folder / "drawn.glasscap"))
    assert drawn["Rectangle"]["shape"]["name"] == "rectangle", drawn.keys()
    assert drawn["Rectangle"]["content"] is None
    hand.key("ctrl+z")

    # A double click holds the photo, a drag moves it alone, Escape gives the grip back.
    hand.click("Cutout Blue plate")
    begun = items_of(hand.save_as(folder / "begun.glasscap"))["Blue plate"]
    plate = hand.on_sheet(begun)
    hand.click_at(plate, times=2)
    until(lambda: hand.is_on(hand.find("Grip: Photo")), "the photo is held")
    hand.drag(plate, (plate[0] + 30, plate[1]))
    moved = items_of(hand.save(folder / "begun.glasscap"))["Blue plate"]
    assert moved["shape_placement"] == begun["shape_placement"]
    assert moved["content_placement"]["x"] > begun["content_placement"]["x"]
    hand.key("Escape")
    until(lambda: hand.is_on(hand.find("Grip: Together")), "the grip is given back")
    hand.key("ctrl+z")

    # The right button's menu selects and duplicates another cutout; the menu key hides it; the sheet has its own.
    hand.click(bench, at=(6, 6))
    hand.click(bench, at=(plate[0] - left, plate[1] - top), button=3)
    hand.choose(2)
    until(lambda: hand.has("Cutout Blue plate 2"), "the plate is duplicated")
    hand.key("Menu")
    hand.choose(6)
    hidden = items_of(hand.save_as(folder / "hidden.glasscap"))
    assert hidden["Blue plate 2"]["is_hidden"]
    hand.key("ctrl+z", "ctrl+z")
    hand.click(bench, at=(6, 6), button=3)
    hand.choose(4)
    until(lambda: hand.has(" more", "label"), "all is selected")

    # A stroke's own menu.
    hand.click("Cutout Blue plate")
    hand.click("Step: Strokes")
    before = items_of(hand.save_as(folder / "strokes.glasscap"))["Blue plate"]["finishes"]["strokes"]
    line = next(n for n in hand.all(" px, ") if hand.box(n)[3] == 32)
    hand.click(line, button=3, at=(40, 12))
    hand.choose(1)
    after = items_of(hand.save(folder / "strokes.glasscap"))["Blue plate"]["finishes"]["strokes"]
    assert [s.get("is_on", True) for s in after] != [s.get("is_on", True) for s in before], after
    # Rows of the export and proofs have menus, too.
    hand.click("Proof on Ink", button=3)
    hand.choose(1)
    hand.key("ctrl+e")
    rows = hand.find("What goes out")
    until(lambda: hand.has("5 files"), "five rows are listed")
    hand.click(rows, at=(60, 25), button=3)
    hand.choose(1)
    until(lambda: hand.has("6 files"), "a row is there once more")
    errors = hand.close()
    assert "Traceback" not in errors, errors


play(scenario)
