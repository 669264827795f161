"""What learning a printer from photographs of its sheets goes by."""

from dataclasses import dataclass

from noema.core.parameters import parameter

_PARTS = "analysis of variance of the prior's cameras: 24 phones under 10 lamps, six inks"


@dataclass(frozen=True, kw_only=True)
class LearnParameters:
    """What photographs of one printer's sheets err in together."""

    curve_of_picture: float = parameter(
        0.4, "Share of the variance of a camera's tone curve that changes from picture to picture."
    )
    grey_noise: float = parameter(
        0.06,
        "One sigma of a grey's logarithm of luminance in one picture, that no smooth curve is "
        "behind: many pictures would else tell more of a curve than they can.",
        source="the least at which two sigma held over ten usual schools",
    )
    map_of_camera: float = parameter(
        0.5, "Share of the variance of a map of ink that is a camera's own.", source=_PARTS
    )
    map_of_lamp: float = parameter(
        0.33, "The share that all cameras under one day's lamp have in common.", source=_PARTS
    )
    least_sigma: float = parameter(
        0.6, "A printer lays a page a little differently every day.", unit="CIEDE2000"
    )
    most_looks: int = parameter(24, "Photographs of one camera that are gone by, the newest.")
    rounds: int = parameter(
        2, "Times that lamps are told by what the inks were found to be so far."
    )

    @property
    def map_of_picture(self) -> float:
        """Give the share of the variance of a map of ink that is a picture's own."""
        return 1.0 - self.map_of_camera - self.map_of_lamp


LEARN = LearnParameters()
"""What is in use."""
