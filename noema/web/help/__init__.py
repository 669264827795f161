"""Help where it is needed: the guide's chapters, and three sentences of one on every screen."""
