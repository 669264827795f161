"""Speed, shown as ratios: `make bench`."""
