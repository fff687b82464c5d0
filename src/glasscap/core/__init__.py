"""The whole computation: no interface, no clock, no state but caches.

The disk is touched where a library reads a file of its own, and by processes that end before their caller goes on
(`work/own_process.py`, the one table of what runs). Caches hold answers of pure functions, and constants.
"""
