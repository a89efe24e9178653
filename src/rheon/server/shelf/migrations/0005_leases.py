from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("shelf", "0004_film_folders")]

    operations = [
        migrations.AddField("source", "host", models.CharField(blank=True, default="", max_length=200), preserve_default=False),
        migrations.AddField("source", "lease_until", models.DateTimeField(null=True)),
    ]
