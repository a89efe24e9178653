"""What titles seem to be: shared material, roles, parts."""
