"""The typeface of printed sheets, embedded in every PDF (built by `make assets`)."""
