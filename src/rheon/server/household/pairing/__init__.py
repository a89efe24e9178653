"""The one page that the network may reach, while pairing is on: asking a device what it plays."""
