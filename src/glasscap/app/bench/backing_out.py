"""What Escape on the bench leaves: the innermost thing that goes on, one a press."""

from glasscap.app.bench.pointer_driver import PointerDriver
from glasscap.app.session import Session


def back_out(session: Session, driver: PointerDriver) -> None:
    """Leave one level: a drag, a tool, typing, a corner, chosen points, points, an open part, the selection."""
    if driver.is_active:
        driver.cancel()
    elif session.drawing:
        session.set_drawing(None)
    elif session.aim is not None:
        session.set_aim(None)
    elif session.sketch is not None:
        session.set_sketch(None)
    elif session.is_typing:
        session.set_typing(False)
    elif session.corner is not None:
        session.choose_corner(None)
    elif session.is_editing_points and session.chosen_points:
        session.choose_points(frozenset())
    elif session.is_editing_points:
        session.set_editing_points(False)
    elif session.part is not None:
        session.open_part(None)
    else:
        session.select(())
