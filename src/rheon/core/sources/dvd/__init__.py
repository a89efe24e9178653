"""DVD-Video: tables, cells and tracks."""
