"""A second look at a step, by link."""
