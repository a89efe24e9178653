from django.db import migrations

CALLED_NOW = {
    "words.subtitle": "subtitles.track",
    "words.form": "subtitles.form",
    "words.lines": "subtitles.lines",
    "picture.cadence": "picture.frame_rate",
    "picture.effort": "picture.preset",
}


def rename_pins(apps, schema_editor):
    for name in ("Setting", "PinSet"):
        for row in apps.get_model("bench", name).objects.exclude(pins={}):
            row.pins = {CALLED_NOW.get(key, key): value for key, value in row.pins.items()}
            row.save(update_fields=["pins"])


class Migration(migrations.Migration):
    dependencies = [("bench", "0003_targets")]

    operations = [migrations.RunPython(rename_pins, migrations.RunPython.noop)]
