"""The reader's stages, each from one record to the next: identify, place, light, colour, sample,
doubt. Each goes by a record of parameters (`noema.core.photo.parameters`)."""
