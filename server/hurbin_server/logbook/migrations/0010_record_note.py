"""What was noted on a record in a column of its own, so that it is found again."""

from __future__ import annotations

from typing import Any

from django.db import migrations, models

from hurbin_core.logbook import note_of


def fill(apps: Any, _: Any) -> None:
    record = apps.get_model("logbook", "Record")
    noted = []
    for pk, body in record.objects.values_list("pk", "body").iterator(chunk_size=2000):
        note = note_of(body)
        if note:
            noted.append(record(pk=pk, note=note))
        if len(noted) >= 2000:
            record.objects.bulk_update(noted, ["note"])
            noted = []
    record.objects.bulk_update(noted, ["note"])


class Migration(migrations.Migration):
    dependencies = [("logbook", "0009_newest_records")]

    operations = [
        migrations.AddField("record", "note", models.CharField(max_length=500, blank=True, default="")),
        migrations.RunPython(fill, migrations.RunPython.noop),
    ]
