"""``python -m glasscap``."""

import sys

from glasscap.cli.main import main

if __name__ == "__main__":
    sys.exit(main())
