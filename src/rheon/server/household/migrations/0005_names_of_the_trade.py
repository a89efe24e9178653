from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [("household", "0004_devices_only")]

    operations = [
        migrations.RenameField("household", "words", "subtitles"),
        migrations.RenameField("member", "words", "subtitles"),
        migrations.RenameField("device", "words", "subtitles"),
        migrations.RenameModel("Asking", "Pairing"),
    ]
