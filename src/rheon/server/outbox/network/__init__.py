"""What TVs and players of the home network find: a media server that only shows (UPnP AV), and its files."""
