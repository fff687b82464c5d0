"""Escape on the bench: each press leaves the innermost tool, group or selection."""

from collections.abc import Callable, Iterator

from glasscap.app.bench.pointer_driver import PointerDriver
from glasscap.app.session import Session


def back_out(session: Session, driver: PointerDriver) -> None:
    """Leave one level, the first there is."""
    next(leave for is_there, leave in _levels(session, driver) if is_there)()


def _levels(session: Session, driver: PointerDriver) -> Iterator[tuple[bool, Callable[[], object]]]:
    """Yield what may go on, innermost first, each with what leaves it."""
    sketching = driver.sketching
    points = session.is_editing_points
    yield driver.is_active, driver.cancel
    yield bool(session.drawing), lambda: session.set_drawing(None)
    yield session.aim is not None, lambda: session.set_aim(None)
    yield sketching.takes_escape, lambda: sketching.key("escape")
    yield session.sketch is not None, lambda: session.set_sketch(None)
    yield session.is_typing, lambda: session.set_typing(False)
    yield session.is_library_open, lambda: session.set_library(False)
    yield session.corner is not None, lambda: session.choose_corner(None)
    yield points and bool(session.chosen_points), lambda: session.choose_points(frozenset())
    yield points, lambda: session.set_editing_points(False)
    yield session.is_holding_photo, session.give_grip_back
    yield session.part is not None, lambda: session.open_part(None)
    yield session.open_group is not None, lambda: session.enter_group(None)
    yield True, lambda: session.select(())
