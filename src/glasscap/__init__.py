"""Glass Cap: photographs under shaped masks, written as transparent pictures.

``glasscap.doorway`` is the Python entrance; ``glasscap.cli`` the command line;
``glasscap.app`` the window.
"""

__version__ = "0.1.0"
