from django.db import migrations

from rheon.server.stored_names import rename_stored

KEYS = {"clock": "pts", "words": "subtitles", "cadence": "scan_type"}


def bring_forward(apps, schema_editor):
    rename_stored(apps.get_model("shelf", "Title").objects, ("document", "survey"), KEYS, {})
    rename_stored(apps.get_model("shelf", "Finding").objects, ("document",), KEYS, {})


class Migration(migrations.Migration):
    dependencies = [("shelf", "0005_leases")]

    operations = [migrations.RunPython(bring_forward, migrations.RunPython.noop)]
