"""Statistics that know nothing of colour: medians, robust fits, Gaussian processes."""
