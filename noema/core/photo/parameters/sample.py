"""What telling a cell's paint from paper, gaps and shine goes by."""

from dataclasses import dataclass

from noema.core.parameters import parameter

_PROCESS = "Rasmussen and Williams 2006, equations 2.23 and 2.24. " + (
    "Its sizes were chosen while building; tools/photographs.py measures what they do"
)


@dataclass(frozen=True, kw_only=True)
class SampleParameters:
    """Paint, gaps, shine and paint over the line."""

    inset_mm: float = parameter(1.6, "Rim of a cell that is left out.", unit="mm")
    most_pixels: int = parameter(1600, "Of a cell: more add time, not knowledge.", unit="px")
    line_mm: float = parameter(
        0.9, "From a cell's edge, where paint over the line begins.", unit="mm"
    )
    beyond_mm: float = parameter(2.6, "And up to which it is looked for.", unit="mm")
    spilt_log: float = parameter(
        -0.15, "Logarithm of luminance over paper's under which that is paint."
    )
    bare_near: float = parameter(
        0.06, "Logarithm of luminance within which a pixel may be bare paper."
    )
    bare_tint: float = parameter(
        0.08, "Share of its luminance by which a channel of bare paper may differ."
    )
    bare_share: float = parameter(0.85, "Share of such pixels from which a cell may be bare.")
    bare_rest: float = parameter(0.15, "Share of darker paint from which it isn't bare, after all.")
    paint_share: float = parameter(0.04, "Share of other pixels that may be paint.")
    paint_apart: float = parameter(
        0.15, "Logarithm by which paint is darker that can be told from missed paper."
    )
    blocks: int = parameter(4, "Parts a side over which a cell's unevenness is judged.")
    clip: float = parameter(2.5, "Robust sigmas beyond which a pixel isn't the paint.")
    least_spread: float = parameter(0.01, "Least robust sigma of the paint's logarithm.")
    gap_near: float = parameter(
        0.12, "As for bare paper, of specks of it, which blur mixes with paint."
    )
    gap_tint: float = parameter(0.12, "As for bare paper, the same.")
    gap_share: float = parameter(
        0.02, "Share of a cell that must be such specks before its paint counts as broken."
    )
    gap_from: float = parameter(0.25, "Share of the way from paint to paper that is gap.")
    paint_to: float = parameter(0.2, "And up to which it is still paint.")
    half_way: tuple[float, float] = parameter(
        (0.25, 0.7), "Shares of that way between which little lies if they are specks."
    )
    half_way_share: float = parameter(
        0.28, "Share of a cell between them from which it is shine, which is any amount."
    )
    beyond: float = parameter(1.15, "Share of the way from which it is shine, not paper.")
    beyond_share: float = parameter(0.01, "Share of a cell that must be so.")
    far_enough: float = parameter(
        0.35, "Way from paint to paper, linear: paler paint can't be told from its gaps."
    )
    fewest_of_a_part: int = parameter(12, "Pixels that make a part of a cell.", unit="px")
    block_mm: float = parameter(
        2.0, "Side of small squares, or more where a large cell was thinned.", unit="mm"
    )
    usual_pixels: int = parameter(16, "Pixels of a small square there.", unit="px")
    fewest_pixels: int = parameter(8, "Fewest pixels of a small square.", unit="px")
    enough_pixels: int = parameter(25, "More add time, not knowledge.", unit="px")
    fewest_blocks: int = parameter(6, "Small squares that say something of shine.")
    parts: int = parameter(3, "Parts a side of a cell in which smooth shine is looked for.")
    many_cells: int = parameter(16, "Painted cells from which fewer parts do.")
    fewer_parts: int = parameter(2, "Those.")
    ways: tuple[tuple[float, float], ...] = parameter(
        (
            (0.0, 20.0),
            (0.02, 10.0),
            (0.02, 20.0),
            (0.06, 10.0),
            (0.06, 20.0),
            (0.2, 20.0),
            (0.2, 40.0),
            (0.5, 40.0),
        ),
        "How much shine there may be, as a share of white paper's light, and over how far it goes.",
        unit="mm",
        source=_PROCESS,
    )
    noise: float = parameter(0.001, "One sigma of a small square's own noise, linear.")
    light_noise: float = parameter(0.01, "One sigma of light between them, as a share.")
    fewest_of_a_part_blocks: int = parameter(2, "Small squares that make a part.")
    any_paint: float = parameter(1.0, "One sigma of a cell's unknown colour, linear.")
    light_left: float = parameter(0.01, "One sigma of light not evened out, as a share.")
    light_mm: float = parameter(32.0, "Over how far that goes.", unit="mm")
    torn: float = parameter(4.0, "Robust sigmas from which a square holds an edge or bare paper.")
    finest: float = parameter(5e-4, "Least robust sigma of a square, linear.")
    usual_matrix: tuple[tuple[float, float, float], ...] = parameter(
        ((1.9, -0.7, -0.2), (-0.15, 1.55, -0.4), (0.0, -0.5, 1.5)),
        "From a sensor's own channels to linear sRGB, as cameras usually do it: mixing moves the "
        "first as reflectances.",
    )
    dark_enough: float = parameter(0.02, "Added to a darkest channel that others are held to.")
    some_added: float = parameter(0.08, "Light added over the darkest channel that is some.")
    tells_from: float = parameter(0.5, "Saturation from which a cell fully tells shine.")
    tells_least: float = parameter(0.05, "How much a grey does.")
    neighbour_mm: float = parameter(25.0, "How far cells speak for each other.", unit="mm")
    neighbours: float = parameter(0.2, "How much of a voice it takes.")


SAMPLE = SampleParameters()
