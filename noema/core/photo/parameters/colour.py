"""What undoing a camera's tone curve and colours goes by."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from noema.core.parameters import parameter

_PRIOR = "tools/make_colour_prior.py works with it"


@dataclass(frozen=True, kw_only=True)
class ColourParameters:
    """Paper, print, tone curve, colour map, cards and tubes."""

    paper_lightness: float = parameter(
        94.5, "L* of ordinary uncoated printing paper.", unit="L*", source="ISO 12647-2, type 5"
    )
    paper_sigma: float = parameter(1.0, "One sigma of it between makes.", unit="L*")
    paper_tint: tuple[float, float] = parameter(
        (0.2, -1.0),
        "Its a* and b*: whiteners make most papers a little bluish.",
        unit="Lab",
    )
    print_sigma: float = parameter(
        1.5, "One sigma of one grey of an unknown print, beside what all share.", unit="CIEDE2000"
    )
    print_gain: float = parameter(
        0.10,
        "One sigma of an unknown printer's dot gain, as an exponent of reflectance less one: it "
        "looks just like a camera's curve, so the two can never be told quite apart.",
    )
    grey_print_gain: float = parameter(
        0.2, "The same of a printer that lays no colours: toner has a tone of its own."
    )
    print_black: float = parameter(
        0.012, "Reflectance over paper of the darkest a school printer lays: L* 10 to 15."
    )
    gamma: float = parameter(0.05, "One sigma of a camera's exponent less one.")
    contrast: float = parameter(
        0.12, "One sigma of a curve that darkens darks and lightens lights."
    )
    any_bend: float = parameter(0.15, "One sigma of any other slow bend of the tone curve.")
    contrast_terms: tuple[float, float, float] = parameter(
        (0.0, 13.7, -9.1),
        "How 4 v (v - 1/2) (1 - v) added to a value v looks in the curve's terms: times the "
        "logarithm's slope under sRGB's power, 2.4 / v, a little less where its toe is.",
        source="IEC 61966-2-1",
    )
    camera_noise: float = parameter(
        0.006, "One sigma of a patch's measured logarithm of luminance."
    )
    darkest: float = parameter(1e-4, "Darkest a file can hold, linear.")
    brightest: float = parameter(1.2, "Brightest a file can hold, linear.")
    fewest_pixels: int = parameter(40, "Pixels of a patch that can be seen.", unit="px")
    patch_rim_mm: float = parameter(0.8, "Rim of a coloured patch that is left out.", unit="mm")
    linear_per_delta: float = parameter(
        0.03, "Weighted linear RGB that one CIEDE2000 is worth, nearly."
    )
    unknown_colour_sigma: float = parameter(
        5.5, "One sigma of a coloured patch of an unknown printer.", unit="CIEDE2000"
    )
    neutral_sigma: float = parameter(
        1.2, "One sigma of the hue of a grey of black ink.", unit="CIEDE2000"
    )
    card_own_sigma: float = parameter(
        0.8, "A card's own tolerance, and what lies between it and the page.", unit="CIEDE2000"
    )
    card_sigma: float = parameter(
        1.2, "What a camera makes of a card's colours but not of paint.", unit="CIEDE2000"
    )
    card_grey_sigma: float = parameter(
        3.0, "The same of its greys, whose spectra are flat as no paint's is.", unit="CIEDE2000"
    )
    card_white: float = parameter(75.0, "From which a card's grey is its white.", unit="L*")
    paper_by_card_sigma: float = parameter(0.7, "One sigma of paper's L* by it.", unit="L*")
    contaminated: float = parameter(
        8.0, "From which paint isn't what its tube says.", unit="CIEDE2000"
    )
    paper_sure: float = parameter(
        0.04, "Weighted linear RGB: one sigma of paint being white where paper is."
    )
    paper_by_card: float = parameter(
        0.004, "The same where a card lies there, or of bare paper itself."
    )
    print_misfit: float = parameter(
        2.0,
        "Mean square sigmas by which a print departs from its printer's known colours, from which "
        "it was printed elsewhere.",
    )
    full_ink: float = parameter(15.0, "What print makes of a screen's black.", unit="L*")
    dulled: float = parameter(0.9, "Share of a screen colour's chroma that print keeps.")
    grey_share: float = parameter(
        0.35, "Share of a patch's chroma under which it was printed without colours."
    )
    alike_log: float = parameter(
        0.2, "Logarithm of luminance within which patches of one ink are alike."
    )
    fewest_alike: int = parameter(3, "Patches of one ink from which one can be left out.")
    least: float = parameter(0.004, "Linear channel under which it is clipped or noise.")
    coloured: float = parameter(0.25, "Saturation from which a patch tells something of the lamp.")
    kinds_left_out: tuple[int, ...] = parameter(
        (),
        "Kinds of camera and lamp, by number, that aren't gone by: none, but where a tool asks how "
        "far colours are off under one that was never met.",
    )
    never_met: float = parameter(
        4.0,
        "Times the covariance of usual cameras' maps: the next one may be of a kind that isn't "
        "among them.",
        source="tools/unmet_kinds.py",
    )
    steady: float = parameter(
        1e-8, "Variance that keeps the covariance of maps invertible.", source=_PRIOR
    )
    look_width: float = parameter(
        1100, "Longer side at which things with four corners are looked for.", unit="px"
    )
    card_least_share: float = parameter(0.002, "Least share of a picture a card covers.")
    card_most_share: float = parameter(0.5, "Most.")
    card_margins: tuple[float, ...] = parameter(
        (0.0, 0.03, 0.06, 0.1, 0.15), "Shares of a card's side that may be border."
    )
    card_patch_share: float = parameter(0.45, "Share of a patch's side that is looked at.")
    card_alike: float = parameter(
        0.95, "Correlation over all patches and channels from which a card is the one known."
    )
    grey_square_mm: float = parameter(
        3.0, "Side of the squares in which a plain grey card is looked for.", unit="mm"
    )
    grey_least_mm2: float = parameter(800.0, "Area of a card worth the name.", unit="mm²")
    grey_darkest: float = parameter(0.02, "Least light of a grey card over paper's.")
    grey_lightest: float = parameter(0.85, "Most.")
    grey_tint: float = parameter(
        0.35, "Share of its light by which a channel of grey may differ under a camera's colours."
    )
    grey_rough: float = parameter(0.08, "Spread within a square of it, as a share.")

    @property
    def paper(self) -> tuple[float, float, float]:
        """Ordinary printing paper, Lab D50."""
        return (self.paper_lightness, *self.paper_tint)

    @property
    def curve(self) -> NDArray[np.float64]:
        """The prior covariance (3, 3) of a camera's tone curve."""
        slow = np.diag([self.gamma, self.any_bend, self.any_bend]) ** 2
        terms = np.array(self.contrast_terms)
        return np.asarray(slow + np.outer(terms, terms) * self.contrast**2)


COLOUR = ColourParameters()
