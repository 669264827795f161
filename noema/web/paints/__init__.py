"""Paint: the shelf of sets and tubes, what a set can do, and getting to know each tube."""
