"""What is selected is what is meant; two ways to fit a photo; words that come and go, by hand."""

from driver import Hand, items_of, play, until, x


def scenario(folder):
    hand = Hand("--demo")
    path, out = folder / "meant.glasscap", folder / "out"
    out.mkdir()
    bench = hand.find("Bench", exact=True)

    # A command with nothing selected says so, and what it says goes with the next action.
    hand.click(bench, at=(6, 6))
    hand.key("ctrl+j")
    until(lambda: hand.has("To join, select"), "joining nothing is answered")
    hand.click("Cutout Blue plate")
    hand.key("Right")
    until(lambda: not hand.has("To join, select"), "the note leaves with the next action")
    begun = items_of(hand.save_as(path))["Blue plate"]

    # Just cover and fit inside; another cutout of the same photo.
    hand.key("ctrl+shift+k")
    inside = items_of(hand.save(path))["Blue plate"]["content_placement"]
    hand.key("ctrl+k")
    cover = items_of(hand.save(path))["Blue plate"]["content_placement"]
    assert inside["scale_x"] < cover["scale_x"] < begun["content_placement"]["scale_x"] + 1e-9, (inside, cover)
    hand.key("ctrl+z", "ctrl+z", "ctrl+shift+d")
    twins = items_of(hand.save_as(folder / "twins.glasscap"))
    assert twins["Blue plate 2"]["content_placement"] == twins["Blue plate"]["content_placement"]
    hand.key("ctrl+z")

    # Undo selects what it brought back.
    hand.click("Cutout Blue plate")
    hand.key("Delete", "ctrl+z")
    until(lambda: hand.has("Blue plate", "label", exact=True), "the plate is selected again")

    # A sheet is renamed by a double click.
    hand.click("Sheet Card front", times=2)
    hand.key("ctrl+a")
    hand.type("Front")
    hand.key("Return")
    until(lambda: hand.has("Sheet Front"), "the sheet has its new name")
    until(lambda: hand.has_focus(bench), "the bench has the keys")

    # The export keeps to what was selected after a click beside; a written list belongs to the job.
    hand.key("ctrl+n")
    hand.find("Discard", "push button")
    hand.key("Escape")
    hand.click("Cutout Jug")
    x("keydown", "ctrl")
    hand.click("Cutout Kiln door")
    x("keyup", "ctrl")
    hand.click(bench, at=(6, 6))
    hand.key("ctrl+e")
    hand.find("What goes out")
    assert hand.has("Kiln door"), "the list holds what goes out"
    assert not hand.has("1 files")
    errors = hand.close()
    assert "Traceback" not in errors, errors


play(scenario)
