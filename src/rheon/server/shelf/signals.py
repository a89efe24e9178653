"""What the Shelf tells the places after it."""

from django.dispatch import Signal

source_read = Signal()
"""Sent with ``source`` when a source has been read and its titles are stored."""
