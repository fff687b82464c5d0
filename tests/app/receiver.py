"""A small window of another toolkit (SDL 2) that takes a dropped file and a pasted picture.

Run as a program of its own: receiver.py X Y. It prints a line of JSON for each thing it gets, first its window's number.
"""

import json
import os
import subprocess
import sys
import time

os.environ["PYGAME_HIDE_SUPPORT_PROMPT"] = "1"
os.environ["SDL_VIDEODRIVER"] = "x11"
os.environ["SDL_VIDEO_WINDOW_POS"] = f"{sys.argv[1]},{sys.argv[2]}"

import pygame

_SECONDS = 60


def main() -> None:
    pygame.display.init()
    pygame.display.set_mode((240, 180))
    pygame.display.set_caption("Receiver")
    print(pygame.display.get_wm_info()["window"], flush=True)
    end = time.monotonic() + _SECONDS
    while time.monotonic() < end:
        for event in pygame.event.get():
            if event.type == pygame.QUIT:
                return
            if event.type == pygame.DROPFILE:
                print(json.dumps({"dropped": event.file}), flush=True)
            if event.type == pygame.KEYDOWN and event.key == pygame.K_v:
                # SDL 2 pastes text alone; another client of the X server asks for the picture.
                call = ["xclip", "-selection", "clipboard", "-target", "image/png", "-out"]
                data = subprocess.run(call, capture_output=True, check=False, timeout=60).stdout
                print(json.dumps({"pasted": data.hex()}), flush=True)
        pygame.display.flip()
        time.sleep(0.02)


if __name__ == "__main__":
    main()
