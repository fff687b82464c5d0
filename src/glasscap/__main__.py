"""``python -m glasscap``."""

from glasscap.cli.main import program

if __name__ == "__main__":
    program()
