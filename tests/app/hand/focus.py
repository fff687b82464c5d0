"""Where the keys go: Escape, focus after pop-ups, keys that belong to the bench, by hand."""

from driver import Hand, items_of, play, until


def scenario(folder):
    hand = Hand("--demo")
    path = folder / "focus.glasscap"
    hand.click("Cutout Blue plate")
    bench = hand.find("Bench", exact=True)

    def keys_are_at_the_bench():
        until(lambda: hand.has_focus(bench), "the bench has the keys")

    before = items_of(hand.save_as(path))["Blue plate"]["shape_placement"]
    # The library, a menu, a drop-down list, a rename, a colour: each gives the keys back.
    hand.click("Library", exact=True)
    hand.find("Find a shape")
    hand.key("Escape")
    keys_are_at_the_bench()
    hand.key("Right")
    hand.click("Main menu")
    hand.key("Escape")
    hand.key("Right")
    hand.key("F2")
    hand.type("Dish")
    hand.key("Return")
    keys_are_at_the_bench()
    hand.key("Right")
    hand.click("Step: Strokes")
    hand.click("Choose paint colour")
    hand.key("Escape")
    keys_are_at_the_bench()
    hand.key("Right")
    now = items_of(hand.save(path))["Dish"]["shape_placement"]
    assert now["x"] == before["x"] + 4, (before, now)
    assert not hand.has("Proof on White, chosen")

    # Keys that change the job do nothing in a list or a slider.
    slider = hand.find("Width slider", "slider")
    hand.click(slider)
    hand.key("ctrl+z")
    hand.click(slider)
    saved = hand.save(path)
    hand.key("d", "p", "Delete")
    assert items_of(hand.save_as(folder / "b.glasscap")) == items_of(saved)
    # Escape backs out one level wherever the keys are, also with nothing selected.
    hand.key("Escape")
    keys_are_at_the_bench()
    hand.key("Escape")
    hand.key("d")
    hand.key("Escape")
    left, top, _, _ = hand.box(bench)
    hand.drag((left + 40, top + 40), (left + 140, top + 120))
    assert items_of(hand.save_as(folder / "c.glasscap")) == items_of(saved), "Escape left a tool armed"
    # Ctrl+Q quits; nothing is asked of a job that is saved.
    hand.key("ctrl+q")
    hand.process.wait(20)
    errors = hand.close()
    assert "Traceback" not in errors, errors


play(scenario)
