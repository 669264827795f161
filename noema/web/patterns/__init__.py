"""What a class shows as a whole."""
