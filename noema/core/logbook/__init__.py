"""The logbook: every colour somebody mixed, measured or wrote down, and the nearest to another."""
