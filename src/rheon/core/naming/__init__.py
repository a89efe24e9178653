"""How files are called, and what is known of the works in them. Pure."""
