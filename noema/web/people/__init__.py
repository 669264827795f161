"""Who works at a school, and the record of what they did."""
