"""The one page that the network may reach, while somebody has opened the door: asking a device what it plays."""
