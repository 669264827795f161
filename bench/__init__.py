"""Speed, shown as ratios: `make bench`."""

import noema as noema  # before numpy, as in every process of the application
