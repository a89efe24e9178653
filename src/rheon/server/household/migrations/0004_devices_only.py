from django.db import migrations, models


def remove_columns(apps, schema_editor):
    """Shared files and goals are the Bench's targets now."""
    apps.get_model("household", "Device").objects.exclude(column="device").delete()


class Migration(migrations.Migration):
    # the Bench takes its rows over first
    dependencies = [("household", "0003_learning"), ("bench", "0003_targets")]

    operations = [
        migrations.RunPython(remove_columns, migrations.RunPython.noop),
        migrations.RemoveField("device", "shares"),
        migrations.RemoveField("device", "column"),
        migrations.AlterField("device", "profile", models.JSONField()),
    ]
