"""What placing a page by everything printed on it goes by."""

from dataclasses import dataclass

from noema.core.parameters import parameter

_PLATE = "Duchon 1977; Wahba 1990: the smoothing of a thin plate. " + (
    "Its size was chosen while building; tools/photographs.py measures what it does"
)


@dataclass(frozen=True, kw_only=True)
class PlaceParameters:
    """Landmarks, and the plate that bends the page to them."""

    search_mm: float = parameter(3.5, "How far round its place a thing is looked for.", unit="mm")
    round_mm: float = parameter(1.5, "Paper round it that is compared, too.", unit="mm")
    look_px_per_mm: float = parameter(3.0, "Resolution of that look.", unit="px/mm")
    soft_px: float = parameter(
        0.9, "Blur of the drawn picture, as no photograph is sharper.", unit="px"
    )
    alike: float = parameter(
        0.72, "Correlation from which something is taken for what was looked for."
    )
    pale: int = parameter(215, "Paler patches don't stand out from paper.", unit="byte")
    mark_mm: float = parameter(0.15, "One sigma of a mark's corner.", unit="mm")
    patch_mm: float = parameter(0.15, "One sigma of a patch's place.", unit="mm")
    cell_mm: float = parameter(0.5, "One sigma of a cell's place.", unit="mm")
    largest_cell_mm: float = parameter(90.0, "Larger cells aren't looked for.", unit="mm")
    fewest_to_check: int = parameter(4, "Patches tried from which their share says something.")
    sound_share: float = parameter(0.4, "Share of the patches tried that must be found.")
    sound_mm: float = parameter(
        0.6, "How far they may lie from where the page says, in the median.", unit="mm"
    )
    smooth: float = parameter(
        0.02, "Smoothing of the plate, against one landmark of a sure sigma.", source=_PLATE
    )
    sure_mm: float = parameter(0.15, "That sigma.", unit="mm", source=_PLATE)
    fewest_landmarks: int = parameter(12, "Landmarks that bend a page.")
    rounds: int = parameter(3, "Times the plate is fitted, leaving out what doesn't belong.")
    far: float = parameter(
        3.5, "Times the median misfit from which a landmark is taken for another thing."
    )
    least_mm: float = parameter(0.12, "Least median misfit this goes by.", unit="mm")
    grid_mm: float = parameter(6.0, "Spacing at which a bent page is worked out.", unit="mm")


PLACE = PlaceParameters()
