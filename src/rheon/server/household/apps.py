from django.apps import AppConfig


class HouseholdConfig(AppConfig):
    name = "rheon.server.household"
    label = "household"
