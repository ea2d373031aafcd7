"""Use cases that more than one way in goes through: load, call the core, record."""
