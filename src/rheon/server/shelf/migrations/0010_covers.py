from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("shelf", "0009_chapters_by_hand")]

    operations = [migrations.AddField("title", "cover_by_hand", models.JSONField(null=True))]
