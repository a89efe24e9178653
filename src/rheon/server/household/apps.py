from rheon.server import work


class HouseholdConfig(work.Place):
    name = "rheon.server.household"
    label = "household"
