from rheon.server import work


class BenchConfig(work.Place):
    name = "rheon.server.bench"
    label = "bench"
