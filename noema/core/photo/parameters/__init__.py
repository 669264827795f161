"""The reader's numbers, one record for each of its stages."""
