from rheon.server import work


class WorklistConfig(work.Place):
    name = "rheon.server.worklist"
    label = "worklist"
