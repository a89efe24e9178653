from django.db import migrations, models


def bring_forward(apps, schema_editor):
    """Names by the chapters' numbers become whole lists."""
    for title in apps.get_model("shelf", "Title").objects.exclude(chapter_names={}).iterator():
        names = title.chapter_names
        read = title.document.get("chapters", [])
        title.chapters_by_hand = [[one["start_s"], names.get(str(one["number"]), one["name"]) or ""] for one in read]
        title.save(update_fields=["chapters_by_hand"])


class Migration(migrations.Migration):
    dependencies = [("shelf", "0008_tags")]

    operations = [
        migrations.AddField("title", "chapters_by_hand", models.JSONField(null=True)),
        migrations.RunPython(bring_forward, migrations.RunPython.noop),
        migrations.RemoveField("title", "chapter_names"),
    ]
