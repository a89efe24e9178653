"""What the Worklist tells the places after it."""

from django.dispatch import Signal

job_delivered = Signal()
"""Sent with ``job`` and ``delivered`` (``rheon.core.delivery.Delivered``) when a checked file has its name."""
