from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("bench", "0004_names_of_the_trade")]

    operations = [
        migrations.RenameModel("Setting", "CellOverride"),
        migrations.RemoveConstraint("celloverride", "setting_of_cell"),
        migrations.AddConstraint(
            "celloverride", models.UniqueConstraint(fields=("title", "target"), name="override_of_cell")
        ),
    ]
