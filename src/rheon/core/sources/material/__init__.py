"""A title's bytes in playing order, on one time line."""
