"""Pictures made by compositing known mattes: hair drawn by formula, a blurred edge, a net."""

import cv2
import numpy as np
from msgspec import Struct

SIDE, RADIUS, FINE = 400, 0.3, 4
KINDS = ("hair", "blur", "net")


class KnownMatte(Struct, frozen=True, eq=False):
    """A picture, the alpha and the object's colours (0 to 1) it was made of, and the rough contour."""

    rgb: np.ndarray
    alpha: np.ndarray
    colours: np.ndarray
    contour: np.ndarray


def known_matte(kind: str, side: int = SIDE, seed: int = 1) -> KnownMatte:
    """An object of the radius 0.3, with hair around it, blurred, or within a net."""
    rng, grown = np.random.default_rng(seed), side / SIDE
    fine = np.zeros((side * FINE, side * FINE), np.float32)
    cv2.circle(fine, (side * FINE // 2, side * FINE // 2), int(side * FINE * RADIUS), 1.0, -1)
    if kind == "hair":
        _add_hair(fine, side, rng)
    elif kind == "blur":
        fine = cv2.GaussianBlur(fine, (0, 0), 5 * FINE)
    else:
        _add_net(fine, side)
    alpha = cv2.resize(fine, (side, side), interpolation=cv2.INTER_AREA)
    y, x = np.mgrid[:side, :side] / grown
    own = np.stack(
        [0.5 + 0.1 * np.sin(x / 23), 0.3 + 0.08 * np.cos(y / 31), 0.15 + 0.05 * np.sin((x + y) / 17)], -1
    )
    around = np.stack(
        [0.25 + 0.1 * np.cos(x / 41), 0.5 + 0.1 * np.sin(y / 37), 0.75 + 0.1 * np.cos((x - y) / 53)], -1
    )
    mixed = alpha[..., None] * own + (1 - alpha[..., None]) * around + rng.normal(0, 0.004, (side, side, 3))
    turn = np.linspace(0, 2 * np.pi, 400, endpoint=False)
    contour = side / 2 + RADIUS * side * np.stack([np.cos(turn), np.sin(turn)], axis=1)
    return KnownMatte((np.clip(mixed, 0, 1) * 255 + 0.5).astype(np.uint8), alpha, own, contour)


def _add_hair(fine: np.ndarray, side: int, rng: np.random.Generator) -> None:
    along, grown = np.linspace(0, 1, 30), side / SIDE
    for n in range(160):
        angle = n / 160 * 2 * np.pi + rng.normal(0, 0.02) + rng.normal(0, 0.15) * along**2
        far = 0.29 * side + rng.uniform(0.02, 0.05) * side * along
        points = (side / 2 + far[:, None] * np.stack([np.cos(angle), np.sin(angle)], axis=1)) * FINE
        thick = max(1, int(rng.uniform(2, 6) * grown**0.5))
        cv2.polylines(fine, [points.round().astype(np.int32).reshape(-1, 1, 2)], False, 1.0, thick, cv2.LINE_AA)


def _add_net(fine: np.ndarray, side: int) -> None:
    y, x = np.mgrid[: side * FINE, : side * FINE]
    away = np.hypot(x - side * FINE / 2, y - side * FINE / 2)
    ring = (away > side * FINE * 0.29) & (away < side * FINE * 0.33)
    mesh, thread = int(7 * side / SIDE) * FINE, 1.5 * FINE * side / SIDE
    fine[ring] = ((x % mesh < thread) | (y % mesh < thread))[ring]
