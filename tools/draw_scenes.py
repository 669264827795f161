"""Draw the six made-up scenes that ship with Noema, to paint from: python -m tools.draw_scenes.

Everything is flat shapes, a few of them shaded from light to shadow, smoothed at the end.
"""

from collections.abc import Callable, Sequence
from io import BytesIO

import numpy as np
from numpy.random import Generator, default_rng
from PIL import Image, ImageDraw, ImageFilter

from noema.formats.scenes import FOLDER

WIDTH, HEIGHT, LARGER = 960, 720, 2
Point = tuple[float, float]
Colour = tuple[int, int, int]


class Sheet:
    """A picture being drawn; places are shares of width and height."""

    def __init__(self, top: Colour, bottom: Colour, seed: int) -> None:
        """Begin with a ground that runs from one colour to another."""
        self.image = _ramp(top, bottom, (WIDTH * LARGER, HEIGHT * LARGER), 90.0)
        self.rng = default_rng(seed)

    def shape(self, points: Sequence[Point], *fill: Colour, turn: float = 0.0) -> None:
        """Draw a polygon, of one colour or shaded from the first to the second."""
        self._filled(
            lambda pen: pen.polygon([self._px(one) for one in points], fill=255), fill, turn
        )

    def oval(
        self, middle: Point, wide: float, high: float, *fill: Colour, turn: float = 0.0
    ) -> None:
        """Draw an ellipse by its half axes, as shares of width and height."""
        (x, y) = middle
        corners = [self._px((x - wide, y - high)), self._px((x + wide, y + high))]
        self._filled(lambda pen: pen.ellipse(corners, fill=255), fill, turn)

    def ball(self, middle: Point, radius: float, lit: Colour, half: Colour, dark: Colour) -> None:
        """Draw something round, lit from the upper left, with its shadow side."""
        x, y = middle
        high = radius * WIDTH / HEIGHT
        self.oval(middle, radius, high, half, dark, turn=45.0)
        self.oval(
            (x - 0.2 * radius, y - 0.2 * high), 0.7 * radius, 0.7 * high, lit, half, turn=45.0
        )
        self.oval(
            (x - 0.35 * radius, y - 0.4 * high),
            0.16 * radius,
            0.14 * high,
            _between(lit, (255, 252, 240), 0.6),
        )

    def line(self, points: Sequence[Point], width: float, fill: Colour) -> None:
        """Draw a line, its width a share of the picture's."""
        pen = ImageDraw.Draw(self.image)
        pen.line(
            [self._px(one) for one in points], fill, round(width * WIDTH * LARGER), joint="curve"
        )

    def dabs(
        self,
        box: tuple[float, float, float, float],
        fills: Sequence[Colour],
        count: int,
        size: float,
        flat: float = 0.8,
    ) -> None:
        """Strew dabs of some colours over a box: left, top, right, bottom."""
        left, top, right, bottom = box
        for _ in range(count):
            x, y = self.rng.uniform(left, right), self.rng.uniform(top, bottom)
            wide = size * self.rng.uniform(0.5, 1.2)
            fill = fills[int(self.rng.integers(len(fills)))]
            self.oval((x, y), wide, flat * wide, _moved(fill, self.rng))

    def finished(self) -> bytes:
        """Give it as a PNG."""
        small = self.image.filter(ImageFilter.GaussianBlur(1.5)).resize(
            (WIDTH, HEIGHT), Image.Resampling.LANCZOS
        )
        out = BytesIO()
        small.save(out, "PNG", optimize=True)
        return out.getvalue()

    def _px(self, at: Point) -> Point:
        return at[0] * WIDTH * LARGER, at[1] * HEIGHT * LARGER

    def _filled(
        self, draw: Callable[[ImageDraw.ImageDraw], None], fill: Sequence[Colour], turn: float
    ) -> None:
        mask = Image.new("L", self.image.size)
        draw(ImageDraw.Draw(mask))
        box = mask.getbbox()
        if box is None:
            return
        size = box[2] - box[0], box[3] - box[1]
        paint = _ramp(fill[0], fill[-1], size, turn)
        self.image.paste(paint, box[:2], mask.crop(box))


def _ramp(start: Colour, end: Colour, size: tuple[int, int], turn: float) -> Image.Image:
    """Run from one colour to another, at an angle: 0 to the right, 90 downwards."""
    x, y = np.meshgrid(np.linspace(-1, 1, size[0]), np.linspace(-1, 1, size[1]))
    across = np.cos(np.radians(turn)), np.sin(np.radians(turn))
    place = (x * across[0] + y * across[1]) / (abs(across[0]) + abs(across[1])) / 2 + 0.5
    rgb = np.array(start) + place[..., None] * (np.array(end) - np.array(start))
    return Image.fromarray(rgb.astype(np.uint8))


def _between(one: Colour, other: Colour, share: float) -> Colour:
    red, green, blue = (round(a + share * (b - a)) for a, b in zip(one, other, strict=True))
    return red, green, blue


def _moved(fill: Colour, rng: Generator) -> Colour:
    red, green, blue = (int(np.clip(part + rng.normal(0, 7), 0, 255)) for part in fill)
    return red, green, blue


def still_life() -> bytes:
    """Fruit, a jug and a cloth on a table."""
    it = Sheet((96, 98, 92), (134, 126, 108), 1)
    it.shape([(0.62, 0), (1, 0), (1, 0.6), (0.7, 0.58)], (70, 76, 84), (98, 98, 96), turn=90)
    it.shape([(0, 0.58), (1, 0.54), (1, 1), (0, 1)], (150, 112, 74), (104, 72, 48), turn=90)
    it.shape(
        [(0.02, 0.68), (0.52, 0.6), (0.66, 0.86), (0.3, 1), (0.04, 0.96)],
        (226, 222, 208),
        (168, 172, 178),
        turn=20,
    )
    it.shape(
        [(0.3, 0.65), (0.36, 0.64), (0.44, 0.92), (0.36, 0.96)], (190, 192, 194), (150, 156, 166)
    )
    it.shape([(0.58, 0.78), (0.9, 0.74), (0.96, 0.8), (0.64, 0.86)], (92, 62, 44), (74, 50, 40))
    it.shape(
        [(0.62, 0.3), (0.78, 0.3), (0.84, 0.52), (0.8, 0.76), (0.62, 0.77), (0.57, 0.54)],
        (84, 118, 150),
        (26, 42, 66),
    )
    it.oval((0.7, 0.3), 0.08, 0.03, (40, 56, 76))
    it.line([(0.82, 0.38), (0.9, 0.42), (0.89, 0.56), (0.83, 0.62)], 0.02, (38, 58, 84))
    it.shape([(0.63, 0.38), (0.65, 0.37), (0.64, 0.62), (0.62, 0.58)], (176, 200, 214))
    it.oval((0.2, 0.86), 0.14, 0.03, (128, 128, 132))
    it.ball((0.2, 0.75), 0.085, (236, 176, 60), (214, 130, 38), (126, 66, 30))
    it.oval((0.42, 0.88), 0.12, 0.025, (122, 122, 130))
    it.ball((0.4, 0.78), 0.075, (202, 74, 52), (164, 40, 38), (76, 22, 30))
    it.line([(0.4, 0.69), (0.42, 0.64)], 0.008, (70, 50, 34))
    it.ball((0.31, 0.83), 0.055, (190, 196, 84), (140, 152, 56), (72, 84, 36))
    it.ball((0.51, 0.86), 0.04, (112, 66, 92), (74, 38, 68), (34, 20, 38))
    return it.finished()


def harbour() -> bytes:
    """Two boats before a quay in the morning."""
    it = Sheet((176, 196, 206), (220, 212, 190), 2)
    it.shape(
        [(0, 0.4), (0.3, 0.3), (0.5, 0.37), (0.74, 0.28), (1, 0.38), (1, 0.5), (0, 0.5)],
        (122, 140, 150),
        (140, 150, 146),
        turn=90,
    )
    for left, wide, top, wall, roof in (
        (0.02, 0.12, 0.34, (214, 196, 160), (150, 82, 62)),
        (0.15, 0.1, 0.37, (196, 142, 110), (112, 72, 66)),
        (0.26, 0.13, 0.32, (226, 216, 194), (164, 92, 66)),
        (0.68, 0.14, 0.33, (204, 176, 124), (140, 78, 60)),
        (0.83, 0.15, 0.36, (186, 192, 186), (108, 76, 74)),
    ):
        it.shape(
            [(left, top), (left + wide, top), (left + wide, 0.5), (left, 0.5)],
            wall,
            _between(wall, (90, 92, 104), 0.35),
        )
        it.shape(
            [(left - 0.01, top), (left + wide / 2, top - 0.07), (left + wide + 0.01, top)], roof
        )
        it.shape(
            [
                (left + 0.3 * wide, 0.41),
                (left + 0.45 * wide, 0.41),
                (left + 0.45 * wide, 0.46),
                (left + 0.3 * wide, 0.46),
            ],
            (70, 74, 82),
        )
    it.shape([(0, 0.5), (1, 0.5), (1, 0.55), (0, 0.55)], (132, 122, 108), (92, 88, 84), turn=90)
    it.shape([(0, 0.55), (1, 0.55), (1, 1), (0, 1)], (108, 138, 142), (48, 84, 100), turn=90)
    it.dabs(
        (0.0, 0.57, 1.0, 0.99),
        [(130, 160, 160), (84, 118, 126), (170, 186, 176), (60, 96, 110)],
        420,
        0.04,
        flat=0.22,
    )
    it.shape(
        [(0.12, 0.76), (0.52, 0.76), (0.46, 0.86), (0.18, 0.86)],
        (188, 50, 40),
        (108, 30, 34),
        turn=60,
    )
    it.shape([(0.11, 0.74), (0.53, 0.74), (0.52, 0.77), (0.12, 0.77)], (230, 216, 190))
    it.shape(
        [(0.3, 0.64), (0.44, 0.64), (0.44, 0.74), (0.3, 0.74)], (236, 226, 204), (176, 172, 168)
    )
    it.line([(0.26, 0.75), (0.26, 0.3)], 0.006, (84, 66, 52))
    it.shape([(0.27, 0.34), (0.27, 0.72), (0.4, 0.62)], (206, 160, 92), (158, 112, 70))
    it.shape(
        [(0.16, 0.87), (0.48, 0.87), (0.42, 0.95), (0.22, 0.95)],
        (110, 62, 62),
        (70, 66, 78),
        turn=90,
    )
    it.shape(
        [(0.62, 0.68), (0.9, 0.68), (0.86, 0.75), (0.66, 0.75)],
        (62, 110, 92),
        (34, 66, 66),
        turn=60,
    )
    it.shape([(0.61, 0.665), (0.91, 0.665), (0.9, 0.69), (0.62, 0.69)], (224, 204, 132))
    it.line([(0.75, 0.67), (0.75, 0.4)], 0.005, (92, 74, 58))
    it.shape([(0.66, 0.76), (0.86, 0.76), (0.82, 0.81), (0.7, 0.81)], (60, 86, 88))
    return it.finished()


def hedge() -> bytes:
    """A hedge in sun and shadow, with a path."""
    it = Sheet((166, 194, 214), (214, 220, 206), 3)
    it.shape([(0, 0.3), (1, 0.36), (1, 0.5), (0, 0.5)], (136, 158, 128), (150, 164, 118), turn=90)
    it.shape([(0, 0.5), (1, 0.44), (1, 1), (0, 1)], (170, 178, 92), (120, 136, 62), turn=90)
    it.shape(
        [(0.55, 0.5), (0.62, 0.5), (0.98, 1), (0.4, 1)], (222, 200, 156), (192, 164, 122), turn=90
    )
    it.shape(
        [(0.02, 0.26), (0.2, 0.16), (0.42, 0.22), (0.56, 0.42), (0.54, 0.68), (0, 0.84)],
        (98, 128, 52),
        (36, 64, 44),
    )
    it.dabs((0.02, 0.24, 0.5, 0.5), [(150, 172, 66), (188, 194, 92), (116, 148, 58)], 320, 0.022)
    it.dabs((0.0, 0.5, 0.52, 0.74), [(52, 84, 52), (36, 64, 54), (66, 96, 56)], 300, 0.022)
    it.shape(
        [(0.0, 0.82), (0.54, 0.68), (0.86, 0.76), (0.6, 0.86), (0, 1)], (78, 96, 66), (96, 106, 82)
    )
    it.shape(
        [(0.53, 0.7), (0.68, 0.72), (0.8, 0.78), (0.5, 0.86)], (142, 126, 128), (156, 138, 130)
    )
    it.dabs((0.04, 0.28, 0.5, 0.6), [(214, 96, 104), (232, 150, 150)], 26, 0.014)
    it.shape([(0.8, 0.12), (0.83, 0.12), (0.84, 0.6), (0.79, 0.6)], (126, 100, 76), (70, 56, 52))
    it.dabs((0.66, 0.02, 0.98, 0.3), [(128, 150, 72), (92, 120, 62), (168, 176, 90)], 260, 0.03)
    return it.finished()


def head() -> bytes:
    """A carved head in three lights: warm, cool and from behind."""
    it = Sheet((74, 70, 72), (96, 88, 84), 4)
    looks = (
        (0.18, (104, 76, 56), (246, 206, 150), (206, 142, 96), (98, 62, 58)),
        (0.5, (66, 78, 92), (206, 214, 220), (150, 150, 156), (66, 60, 72)),
        (0.82, (182, 168, 140), (126, 96, 92), (98, 74, 78), (62, 48, 58)),
    )
    for x, ground, lit, half, dark in looks:
        it.shape(
            [(x - 0.16, 0), (x + 0.16, 0), (x + 0.16, 1), (x - 0.16, 1)],
            ground,
            _between(ground, (40, 40, 44), 0.3),
            turn=90,
        )
        it.shape([(x - 0.14, 1), (x - 0.09, 0.82), (x + 0.09, 0.82), (x + 0.14, 1)], half, dark)
        it.shape(
            [(x - 0.045, 0.66), (x + 0.045, 0.66), (x + 0.05, 0.86), (x - 0.05, 0.86)], half, dark
        )
        it.shape(
            [
                (x - 0.1, 0.34),
                (x - 0.07, 0.2),
                (x, 0.16),
                (x + 0.08, 0.2),
                (x + 0.11, 0.36),
                (x + 0.09, 0.58),
                (x + 0.02, 0.74),
                (x - 0.05, 0.7),
                (x - 0.09, 0.54),
            ],
            half,
            dark,
        )
        it.shape(
            [
                (x - 0.1, 0.34),
                (x - 0.07, 0.21),
                (x, 0.17),
                (x, 0.4),
                (x - 0.03, 0.5),
                (x - 0.02, 0.7),
                (x - 0.05, 0.69),
                (x - 0.09, 0.54),
            ],
            lit,
            half,
        )
        it.shape([(x - 0.01, 0.36), (x + 0.03, 0.52), (x - 0.02, 0.53)], half, dark)
        it.oval((x - 0.045, 0.39), 0.022, 0.016, _between(half, dark, 0.6))
        it.oval((x + 0.055, 0.39), 0.022, 0.016, _between(dark, (20, 20, 26), 0.4))
        it.oval((x - 0.005, 0.61), 0.035, 0.014, _between(half, (150, 60, 60), 0.4))
        it.line(
            [(x + 0.1, 0.22), (x + 0.112, 0.36), (x + 0.095, 0.56)], 0.008, lit if x > 0.7 else dark
        )
    return it.finished()


def rooftops() -> bytes:
    """Roofs of an old town in the evening."""
    it = Sheet((132, 138, 166), (238, 190, 140), 5)
    it.oval((0.76, 0.34), 0.05, 0.065, (252, 226, 170))
    it.shape(
        [(0, 0.46), (0.2, 0.4), (0.5, 0.44), (0.8, 0.38), (1, 0.44), (1, 0.6), (0, 0.6)],
        (122, 118, 138),
        (142, 128, 136),
        turn=90,
    )
    it.shape(
        [(0.44, 0.5), (0.44, 0.24), (0.47, 0.12), (0.5, 0.24), (0.5, 0.5)],
        (104, 92, 104),
        (150, 120, 110),
    )
    for x, y, wide, roof, wall in (
        (0.0, 0.52, 0.3, (164, 98, 76), (190, 158, 132)),
        (0.26, 0.56, 0.26, (128, 78, 74), (160, 138, 130)),
        (0.5, 0.53, 0.3, (188, 112, 74), (212, 176, 138)),
        (0.76, 0.57, 0.3, (138, 84, 76), (170, 144, 130)),
        (-0.06, 0.72, 0.34, (116, 72, 74), (134, 116, 118)),
        (0.24, 0.76, 0.4, (176, 92, 60), (198, 160, 126)),
        (0.62, 0.74, 0.44, (96, 64, 74), (122, 104, 112)),
    ):
        it.shape(
            [
                (x + 0.03, y + 0.12),
                (x + wide - 0.03, y + 0.12),
                (x + wide - 0.03, 1),
                (x + 0.03, 1),
            ],
            wall,
            _between(wall, (70, 66, 84), 0.5),
            turn=90,
        )
        it.shape(
            [(x, y + 0.13), (x + 0.3 * wide, y), (x + 0.72 * wide, y), (x + wide, y + 0.13)],
            roof,
            _between(roof, (60, 46, 62), 0.4),
        )
        it.shape(
            [
                (x + 0.5 * wide, y - 0.05),
                (x + 0.58 * wide, y - 0.05),
                (x + 0.58 * wide, y + 0.03),
                (x + 0.5 * wide, y + 0.03),
            ],
            (122, 84, 76),
            (84, 62, 68),
        )
        for n in range(3):
            left = x + (0.24 + 0.22 * n) * wide
            lit = (246, 204, 116) if (n + round(10 * x)) % 3 == 0 else (72, 70, 90)
            it.shape(
                [
                    (left, y + 0.16),
                    (left + 0.08 * wide, y + 0.16),
                    (left + 0.08 * wide, y + 0.22),
                    (left, y + 0.22),
                ],
                lit,
            )
    return it.finished()


def bird() -> bytes:
    """A bird on a branch."""
    it = Sheet((206, 212, 200), (176, 190, 172), 6)
    it.dabs(
        (0, 0, 1, 1),
        [(190, 200, 178), (210, 214, 190), (170, 186, 166), (200, 190, 160)],
        120,
        0.08,
    )
    it.line([(0, 0.82), (0.35, 0.76), (0.7, 0.78), (1, 0.7)], 0.035, (104, 84, 66))
    it.line([(0, 0.83), (0.35, 0.775), (0.7, 0.795), (1, 0.715)], 0.012, (66, 54, 48))
    it.line([(0.72, 0.77), (0.86, 0.56)], 0.014, (96, 78, 62))
    for x, y in ((0.86, 0.56), (0.8, 0.64), (0.92, 0.6), (0.1, 0.74), (0.16, 0.7)):
        it.oval((x, y), 0.03, 0.018, (122, 142, 60), (84, 108, 48))
    it.shape(
        [(0.6, 0.56), (0.82, 0.88), (0.76, 0.9), (0.54, 0.66)], (58, 96, 150), (30, 48, 84), turn=60
    )
    it.oval((0.46, 0.54), 0.17, 0.2, (222, 140, 62), (150, 76, 44), turn=60)
    it.oval((0.42, 0.64), 0.12, 0.1, (236, 206, 160), (186, 140, 100), turn=60)
    it.shape(
        [(0.4, 0.4), (0.54, 0.38), (0.66, 0.58), (0.64, 0.7), (0.52, 0.62)],
        (72, 122, 176),
        (34, 60, 104),
        turn=50,
    )
    it.shape([(0.5, 0.5), (0.6, 0.56), (0.64, 0.68), (0.54, 0.62)], (44, 78, 128), (28, 42, 72))
    it.oval((0.36, 0.33), 0.11, 0.13, (88, 140, 188), (48, 80, 126), turn=45)
    it.shape(
        [(0.27, 0.36), (0.33, 0.36), (0.36, 0.46), (0.3, 0.45)], (240, 236, 224), (198, 194, 190)
    )
    it.shape([(0.14, 0.36), (0.27, 0.31), (0.27, 0.37)], (66, 58, 56), (40, 36, 40))
    it.oval((0.33, 0.3), 0.018, 0.024, (24, 22, 26))
    it.oval((0.325, 0.293), 0.005, 0.006, (240, 240, 236))
    it.line([(0.44, 0.72), (0.43, 0.78)], 0.008, (150, 90, 70))
    it.line([(0.5, 0.72), (0.5, 0.78)], 0.008, (150, 90, 70))
    return it.finished()


SCENES = {
    "still-life": still_life,
    "harbour": harbour,
    "hedge": hedge,
    "head": head,
    "rooftops": rooftops,
    "bird": bird,
}


def main() -> None:
    """Draw them all where Noema keeps them."""
    for name, draw in SCENES.items():
        (FOLDER / f"{name}.png").write_bytes(draw())


if __name__ == "__main__":
    main()
