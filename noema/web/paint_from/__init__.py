"""Painting from a picture: what to mix, which few tubes would do, how dark and light it is."""
