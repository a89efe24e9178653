"""Blu-ray: playlists, clips and tracks."""
