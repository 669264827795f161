"""Where there is no school yet: founding one in the browser."""
