"""What a cell's doubt and its flags go by."""

from dataclasses import dataclass

from noema.core.parameters import parameter


@dataclass(frozen=True, kw_only=True)
class DoubtParameters:
    """Errors beside those earlier stages give, and what a cell is flagged for."""

    camera_log: float = parameter(
        0.012, "One sigma of the camera's own noise, in the logarithm of a cell's luminance."
    )
    tone_between_cells: float = parameter(
        0.3, "Share of the tone curve's doubt left in the difference of two cells."
    )
    paint_between_cells: float = parameter(
        0.7, "Share of a paint's own doubt left in the difference of two cells."
    )
    dark: float = parameter(0.0008, "Veil and noise that don't shrink with the light, linear.")
    well_lit: float = parameter(0.4, "Linear light of paper under which they grow.")
    wider: float = parameter(
        1.08,
        "What is left out of the sum: times every sigma.",
        source="tools/fit_doubt.py gave it before cameras' maps were taken to vary more than usual "
        "ones do; it stays as a caution",
    )
    lamp_untold: float = parameter(
        1.3,
        "The same where no coloured patch tells anything of the lamp.",
        source="a caution beyond the 0.86 that tools/fit_doubt.py gives: with less, more cells are "
        "confidently wrong under lamps of narrow bands, as tools/photographs.py measures",
    )
    nudge: float = parameter(0.3, "Step by which slopes are worked out.", unit="Lab")
    chroma_per_lab: float = parameter(
        0.15, "Least chroma that one unit of a* or b* is worth, of any value.", unit="chroma"
    )
    least: float = parameter(1e-4, "Least linear channel.")
    lightest: float = parameter(99.0, "Up to which value and chroma are told apart.", unit="L*")
    hue_unknown: float = parameter(
        25.0, "One sigma of a hue nobody can tell: half way round.", unit="steps of a hundred"
    )
    any_green: float = parameter(
        0.05, "One sigma, weighted linear RGB, of a colour whose green met the file's end."
    )
    burnt_byte: int = parameter(254, "From which a camera sees no more.", unit="byte")
    black_byte: int = parameter(6, "Up to which it sees no more.", unit="byte")
    clipped_share: float = parameter(0.3, "Share of a cell so burnt that it has no colour.")
    unsure: float = parameter(
        6.0, "A guess beyond the file that is worse than this is no colour.", unit="CIEDE2000"
    )
    wet_share: float = parameter(
        0.5, "Share of painted cells that shine from which none is believed."
    )
    spoiled_share: float = parameter(0.65, "The same of those that shine or are uneven.")
    glare_share: float = parameter(0.03, "Share of a cell in sparks that is glare.")
    glare_over: float = parameter(1.8, "Times the cell's median luminance that is a spark.")
    edge_log: float = parameter(
        0.15, "Logarithm between paper on two sides of a cell from which a shadow ends there."
    )
    uneven_log: float = parameter(0.12, "Unevenness, as a logarithm, of half-mixed paint.")
    oddly_uneven_log: float = parameter(
        0.05, "Less than that is uneven, too, from here: shine on grey."
    )
    times_uneven: float = parameter(4.0, "Where it is so many times what this hand lays.")
    usual_quantile: float = parameter(
        0.25, "Of the painted cells' unevenness: what this hand lays."
    )
    partly: float = parameter(0.75, "Painted share under which a cell counts as partly painted.")


DOUBT = DoubtParameters()
