"""The logbook: finding how a colour was mixed, noting one, carrying all of them along."""
