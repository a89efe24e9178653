"""What a service knows of a work, and how that stands to the titles that are here."""
