"""Statistics that know nothing of colour: medians now, what is fitted robustly later."""
