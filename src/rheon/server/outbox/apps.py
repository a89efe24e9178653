from rheon.server import work


class OutboxConfig(work.Place):
    name = "rheon.server.outbox"
    label = "outbox"
