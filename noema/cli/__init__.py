"""The `noema` command: one command a file, over the same core and actions as the pages."""
