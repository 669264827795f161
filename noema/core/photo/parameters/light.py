"""What evening out the light goes by."""

from dataclasses import dataclass

from noema.core.parameters import parameter

_PROCESS = "Rasmussen and Williams 2006, equations 2.23, 2.24 and 5.12. " + (
    "Its sizes were chosen while building; tools/photographs.py measures what they do"
)


@dataclass(frozen=True, kw_only=True)
class LightParameters:
    """Blank paper, the field of light fitted to it, and what the page suffers from."""

    patch_inset_mm: float = parameter(0.4, "Rim of a patch that is left out.", unit="mm")
    chunk_mm: float = parameter(
        14.0, "Length from which a blank strip counts as several points of light.", unit="mm"
    )
    fewest_pixels: int = parameter(12, "Pixels that make a point of light.", unit="px")
    window_mm: float = parameter(
        5.0, "Side of the squares in which paper is looked for anywhere.", unit="mm"
    )
    away_mm: float = parameter(
        2.5, "How far those keep from anything printed or to be painted.", unit="mm"
    )
    smooth: float = parameter(0.05, "Spread of luminance, as a share, of a square that is blank.")
    paper_log: float = parameter(
        0.5, "Logarithm of light by which blank paper may differ from paper as a whole."
    )
    paper_tint: float = parameter(0.12, "Logarithm by which its channels may differ.")
    rounds: int = parameter(4, "Times the field is fitted, leaving out what is no blank paper.")
    fewest_points: int = parameter(8, "Points of paper: two more than the surface has terms.")
    most_points: int = parameter(300, "More points add time, not knowledge.")
    far: float = parameter(
        3.0, "Robust sigmas beyond which a point of paper is taken as marked or shaded."
    )
    floor: float = parameter(
        0.004, "One sigma of the logarithm of light that even clean paper scatters."
    )
    length_mm: float = parameter(
        32.0, "Over which shadows and bends change.", unit="mm", source=_PROCESS
    )
    amplitudes: tuple[float, ...] = parameter(
        (0.003, 0.01, 0.03, 0.08, 0.2),
        "One sigma of what the surface leaves, as a logarithm: the likeliest is taken.",
        source=_PROCESS,
    )
    nearest: int = parameter(10, "Points of paper that speak for a place.")
    beside_mm: float = parameter(24.0, "How near they must lie.", unit="mm")
    fewest_beside: int = parameter(3, "Fewer say nothing.")
    black_paper: float = parameter(
        0.012, "Linear light of paper too dark to tell anything from the camera's noise."
    )
    blur_mm: float = parameter(
        0.9, "Rise of a mark's edge, 10 to 90 %, from which cells run into each other.", unit="mm"
    )
    dark_paper: float = parameter(0.05, "Linear light of paper that drowns in noise.")
    burnt_byte: int = parameter(254, "From which a camera sees no more.", unit="byte")
    burnt_share: float = parameter(0.15, "Share of the page at the camera's top that spoils it.")
    uneven: float = parameter(2.2, "Ratio of the brightest paper to the darkest that is uneven.")
    low_px_per_mm: float = parameter(2.5, "Too few pixels on the sheet.", unit="px/mm")


LIGHT = LightParameters()
