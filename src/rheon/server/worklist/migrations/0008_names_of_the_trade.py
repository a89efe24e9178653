from django.db import migrations

from rheon.server.stored_names import rename_stored

KEYS = {"clock": "pts", "words": "subtitles", "effort": "preset"}
CODES = {
    "effort_of_balance": "preset_of_balance",
    "no_words_of_yours": "no_subtitles_of_yours",
    "words_always": "subtitles_always",
    "words_drawn": "subtitles_drawn",
    "words_file": "subtitles_file",
    "words_in_borders": "subtitles_in_borders",
    "words_never": "subtitles_never",
    "words_track": "subtitles_track",
}


def bring_forward(apps, schema_editor):
    fields = ("title_document", "plan_document", "request_document")
    rename_stored(apps.get_model("worklist", "Job").objects, fields, KEYS, CODES)


class Migration(migrations.Migration):
    dependencies = [("worklist", "0007_kinds_and_leases")]

    operations = [migrations.RunPython(bring_forward, migrations.RunPython.noop)]
