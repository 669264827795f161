"""The outside world: what Noema asks of it, and the real thing behind the asking."""
