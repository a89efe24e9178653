from django.db import migrations, models
import django.db.models.deletion


def take_columns(apps, schema_editor):
    """What files are made for had rows among the devices; each keeps its number, so that addresses stay."""
    Target = apps.get_model("bench", "Target")
    for row in apps.get_model("household", "Device").objects.all():
        own = {"device": row} if row.column == "device" else {"used": row.used, "last_used": row.last_used}
        if row.column == "goal":
            own["goal"] = row.profile["id"]
        target = Target.objects.create(pk=row.pk, kind=row.column, **own)
        if row.column == "shared":
            target.shares.set(row.shares.all())
    for setting in apps.get_model("bench", "Setting").objects.all():
        setting.target_id = setting.device_id
        setting.save(update_fields=["target"])


class Migration(migrations.Migration):
    dependencies = [("bench", "0002_pin_sets"), ("household", "0003_learning")]

    operations = [
        migrations.CreateModel(
            name="Target",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                (
                    "kind",
                    models.CharField(
                        choices=[("device", "Device"), ("shared", "Shared"), ("goal", "Goal")],
                        default="device",
                        max_length=6,
                    ),
                ),
                ("goal", models.CharField(blank=True, max_length=80)),
                ("used", models.PositiveIntegerField(default=0)),
                ("last_used", models.DateTimeField(null=True)),
                (
                    "device",
                    models.OneToOneField(
                        null=True,
                        on_delete=django.db.models.deletion.CASCADE,
                        related_name="target",
                        to="household.device",
                    ),
                ),
                ("shares", models.ManyToManyField(related_name="shared_by", to="household.device")),
            ],
            options={"ordering": ["id"]},
        ),
        migrations.AddField(
            "setting",
            "target",
            models.ForeignKey(null=True, on_delete=django.db.models.deletion.CASCADE, to="bench.target"),
        ),
        migrations.RunPython(take_columns, migrations.RunPython.noop),
        migrations.RemoveConstraint("setting", "setting_of_cell"),
        migrations.RemoveField("setting", "device"),
        migrations.AlterField(
            "setting", "target", models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, to="bench.target")
        ),
        migrations.AddConstraint(
            "setting", models.UniqueConstraint(fields=["title", "target"], name="setting_of_cell")
        ),
    ]
