"""The demo scenario: the film circle of Marrowick, an invented estuary town, and its invented discs."""
