"""A save that takes long: work goes on meanwhile, Cancel stops it, saving again is no step of the job."""

from driver import Hand, items_of, job_of, play, until

# Every save but the first takes four seconds.
SLOW = """
import time
from glasscap.app.commands import job_files
real, saves = job_files.job_preview, []

def slow(job, store):
    saves.append(job)
    time.sleep(4 if len(saves) > 1 else 0)
    return real(job, store)

job_files.job_preview = slow
"""


def scenario(folder):
    hand = Hand("--demo", before=SLOW)
    path = folder / "trail.glasscap"
    hand.click("Cutout Blue plate")
    begun = items_of(hand.save_as(path))["Blue plate"]["shape_placement"]["x"]

    def saved():
        return items_of(job_of(path))["Blue plate"]["shape_placement"]["x"]

    # Progress takes neither keys nor clicks.
    hand.key("Right", "ctrl+s")
    until(lambda: hand.has("Saving trail.glasscap"), "the progress shows")
    hand.key("Right")
    until(lambda: saved() == begun + 1, "what was there when Save was asked for is in the file")
    until(lambda: not hand.has("Saving trail.glasscap"), "the progress is gone")
    assert not hand.has("saved", exact=True), "a step done meanwhile is not called saved"

    # Cancel leaves the file as it was.
    hand.key("ctrl+s")
    until(lambda: hand.has("Saving trail.glasscap"), "the progress shows again")
    hand.click("Cancel", "push button", exact=True)
    hand.rest(5)
    assert saved() == begun + 1, "a save that was stopped wrote its file"

    # One undo takes the last step back, and no save has made a step of its own.
    hand.key("ctrl+z")
    until(lambda: hand.has("saved", exact=True), "undo is back at what was saved")
    hand.key("ctrl+z", "ctrl+s")
    until(lambda: saved() == begun, "one more is back at the beginning", 30)
    errors = hand.close()
    assert "Traceback" not in errors, errors


play(scenario)
