"""What finding sheets in a photograph goes by."""

from dataclasses import dataclass

from noema.core.parameters import parameter


@dataclass(frozen=True, kw_only=True)
class IdentifyParameters:
    """Marks, sheets made of marks, codes, and why no sheet was found."""

    looks: tuple[tuple[int, bool], ...] = parameter(
        ((1200, False), (1600, False), (1600, True), (2400, True)),
        "How marks are looked for in turn: the longer side, and whether blur is countered.",
        unit="px",
    )
    unsharp: float = parameter(2.0, "Strength of the unsharp mask that counters blur.")
    unsharp_px: float = parameter(2.5, "Width of that mask.", unit="px")
    enough_marks: int = parameter(6, "Marks that make another look unnecessary.")
    least_perimeter: float = parameter(
        0.02, "Least perimeter of a mark, as a share of the picture's longer side."
    )
    near_share: float = parameter(
        0.3, "How far off a mark may be guessed, as a share of the way from the nearest known one."
    )
    near_mm: float = parameter(6.0, "What is added to that.", unit="mm")
    fewest_marks: int = parameter(4, "Marks that make a sound page.")
    fewest_if_sound: int = parameter(3, "Marks that do if they lie well.")
    sound_mm: float = parameter(
        0.35, "Corner misfit allowed where only so few marks are seen.", unit="mm"
    )
    flat_mm: float = parameter(
        1.2, "Corners this near a plane count for it; curled paper leaves some farther.", unit="mm"
    )
    loose_mm: float = parameter(
        4.0, "Misfit from which marks don't lie on one page, however it is bent.", unit="mm"
    )
    quiet_mm: float = parameter(
        3.0,
        "Blank paper cut out round a code.",
        unit="mm",
        source="ISO/IEC 18004: four modules, of which these codes have less than 0.75 mm each",
    )
    code_px_per_mm: tuple[float, ...] = parameter(
        (10.0, 6.0, 14.0),
        "Resolutions at which a code is tried: too few or too many pixels both hide it.",
        unit="px/mm",
    )
    calmed_px: float = parameter(
        1.2, "Smoothing under which JPEG's ringing round small squares reads better.", unit="px"
    )
    dark_byte: int = parameter(60, "Brightest twentieth of a picture nobody can read.", unit="byte")
    soft_side_px: int = parameter(800, "Longer side at which edges are looked for.", unit="px")
    soft_contrast: float = parameter(
        40.0, "Contrast from which a picture should have edges.", unit="byte"
    )
    soft_edge: float = parameter(
        15.0, "Edge under which it is soft; a sheet in focus has 25 and more.", unit="byte"
    )


IDENTIFY = IdentifyParameters()
