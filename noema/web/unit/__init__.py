"""The unit in time: what a class does in which lesson, and what can't be met."""
