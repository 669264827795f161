"""The cupboard: what paint a school has, what runs out when, what to order."""
