"""What is said and shown: menus that close, notes that leave, the help, the export's words."""

from driver import Hand, play, until


def scenario(folder):
    hand = Hand("--demo")
    out = folder / "out"
    out.mkdir()
    bench = hand.find("Bench", exact=True)
    hand.click("Cutout Blue plate")

    # A menu button is as before once its menu is left; the bench has the keys.
    draw = hand.click("Draw", "push button", exact=True)
    hand.key("Escape")
    until(lambda: not hand.has_focus(draw) and hand.has_focus(bench), "the bench has the keys again")
    assert not hand.is_on(draw)

    # So it has after a click on a check box, and undo takes that back.
    mask = hand.click("Mask on", "check box")
    until(lambda: not hand.is_on(mask) and hand.has_focus(bench), "the mask is off, the bench has the keys")
    hand.key("ctrl+z")
    until(lambda: hand.is_on(mask), "the mask is on again")

    # The help knows the words of practitioners.
    hand.key("F1")
    search = hand.find("Find help")
    for word in ("release", "take apart", "join"):
        hand.click(search)
        hand.key("ctrl+a")
        hand.type(word)
        until(lambda: hand.find("Pages", wait=0).childCount > 0, f"the help finds {word}")
    hand.key("Escape")
    hand.key("Escape")
    until(lambda: not hand.has("Find help"), "the help is closed")

    # The export says what it does, and names the folder where nothing can show it.
    hand.click("Export…", "push button")
    until(lambda: hand.has("Proof of the file", "label", exact=True), "the file's facts")
    assert not hand.has("1 files")
    hand.write_into(out)
    hand.click("Show in folder", "push button")
    hand.rest(0.5)
    hand.key("Escape")
    until(lambda: hand.has("Grip: Photo"), "the bench is shown")
    assert not hand.has("written and read back"), "a note lies over another view"

    # A note leaves by itself.
    hand.click(bench, at=(6, 6))
    hand.key("ctrl+j")
    until(lambda: hand.has("To join, select"), "joining nothing is answered")
    until(lambda: not hand.has("To join, select"), "the note has left after 8 s", 12)
    errors = hand.close()
    assert "Traceback" not in errors, errors


play(scenario)
