from rheon.server import work


class HomeConfig(work.Place):
    name = "rheon.server.home"
    label = "home"
