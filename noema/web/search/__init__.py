"""Finding anything by words."""
