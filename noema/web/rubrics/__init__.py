"""How a school sums up and what it says."""
