"""Noema reads painted colour exercises from photographs and says what to add next."""
