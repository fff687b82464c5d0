"""Scenarios in which the program is used as a hand uses it: X events, a window manager, controls by their names."""
