from django.db import migrations, models


def name_kinds(apps, schema_editor):
    """Whole discs are told by their path, titles that were copied by the goal that they were made for."""
    jobs = apps.get_model("worklist", "Job").objects
    jobs.exclude(disc_path="").update(kind="copy_disc")
    for job in jobs.filter(disc_path="").only("pk", "plan_document"):
        if ((job.plan_document or {}).get("reason") or {}).get("code") == "faithful":
            jobs.filter(pk=job.pk).update(kind="copy_title")


class Migration(migrations.Migration):
    dependencies = [("worklist", "0006_learning")]

    operations = [
        migrations.AddField("job", "host", models.CharField(blank=True, default="", max_length=200), preserve_default=False),
        migrations.AddField("job", "lease_until", models.DateTimeField(null=True)),
        migrations.AddField(
            "job",
            "kind",
            models.CharField(
                choices=[("convert", "Convert"), ("copy_title", "Copy Title"), ("copy_disc", "Copy Disc")],
                default="convert",
                max_length=12,
            ),
        ),
        migrations.RenameField("job", "done_s", "done"),
        migrations.AlterField("job", "title_document", models.JSONField(default=dict)),
        migrations.AlterField("job", "plan_document", models.JSONField(default=dict)),
        migrations.AlterField("job", "device_documents", models.JSONField(default=list)),
        migrations.RunPython(name_kinds, migrations.RunPython.noop),
    ]
