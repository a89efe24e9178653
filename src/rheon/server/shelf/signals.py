"""What the Shelf tells the places after it."""

from django.dispatch import Signal

source_read = Signal()
"""Sent with ``source`` when a source has been read and its titles are stored."""

source_leaves = Signal()
"""Sent with ``source`` before a source is taken off the Shelf."""
