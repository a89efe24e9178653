"""Media files and folders of them."""
