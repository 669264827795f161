"""The mixing bench, for a student and for a class."""
