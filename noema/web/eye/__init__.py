"""The eye: short series of questions, and how somebody sees."""
