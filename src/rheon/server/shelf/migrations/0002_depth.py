from django.db import migrations, models


def keys_from_numbers(apps, schema_editor):
    """Titles that were read before they had keys: their number until the next scan."""
    for title in apps.get_model("shelf", "Title").objects.all():
        title.key = f"number {title.number}"
        title.save(update_fields=["key"])


class Migration(migrations.Migration):
    dependencies = [("shelf", "0001_initial")]

    operations = [
        migrations.RemoveConstraint(model_name="title", name="title_number_in_source"),
        migrations.AddField("source", "named_by_hand", models.BooleanField(default=False)),
        migrations.AddField("source", "stamp", models.CharField(blank=True, max_length=64)),
        migrations.AddField("source", "mark", models.CharField(blank=True, db_index=True, max_length=64)),
        migrations.AddField("source", "drive", models.PositiveIntegerField(null=True)),
        migrations.AlterField(
            "source",
            "state",
            models.CharField(
                choices=[
                    ("waiting", "Waiting"),
                    ("reading", "Reading"),
                    ("ready", "Ready"),
                    ("failed", "Failed"),
                    ("stopped", "Stopped"),
                    ("missing", "Missing"),
                ],
                default="waiting",
                max_length=10,
            ),
        ),
        migrations.AddField("title", "key", models.CharField(default="", max_length=500), preserve_default=False),
        migrations.RunPython(keys_from_numbers, migrations.RunPython.noop),
        migrations.AddField("title", "named_by_hand", models.BooleanField(default=False)),
        migrations.AddField("title", "role_by_hand", models.BooleanField(default=False)),
        migrations.AddField("title", "chapter_names", models.JSONField(default=dict)),
        migrations.AddField("title", "angle", models.PositiveIntegerField(default=1)),
        migrations.AddField("title", "survey", models.JSONField(null=True)),
        migrations.AddField("title", "survey_failed", models.BooleanField(default=False)),
        migrations.AddConstraint(
            "title", models.UniqueConstraint(fields=("source", "key"), name="title_key_in_source")
        ),
        migrations.CreateModel(
            name="Part",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("title_key", models.CharField(max_length=500)),
                ("first", models.PositiveIntegerField()),
                ("last", models.PositiveIntegerField()),
                (
                    "source",
                    models.ForeignKey(
                        on_delete=models.deletion.CASCADE, related_name="parts", to="shelf.source"
                    ),
                ),
            ],
            options={"ordering": ["title_key", "first"]},
        ),
        migrations.CreateModel(
            name="Finding",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("mark", models.CharField(max_length=40, unique=True)),
                ("document", models.JSONField()),
                ("added", models.DateTimeField(auto_now_add=True)),
            ],
        ),
    ]
