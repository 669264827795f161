"""Whether Noema works, for whoever runs it and for the programs that watch it."""
