from rheon.server import work


class ShelfConfig(work.Place):
    name = "rheon.server.shelf"
    label = "shelf"
