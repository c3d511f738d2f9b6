import json
import zlib

from django.db import migrations, models


def deflate(apps, schema_editor):
    judgement = apps.get_model("logbook", "Judgement")
    for row in judgement.objects.only("pk", "context").iterator(chunk_size=500):
        judgement.objects.filter(pk=row.pk).update(
            context_deflated=zlib.compress(json.dumps(row.context).encode(), 6)
        )


def inflate(apps, schema_editor):
    judgement = apps.get_model("logbook", "Judgement")
    for row in judgement.objects.only("pk", "context_deflated").iterator(chunk_size=500):
        judgement.objects.filter(pk=row.pk).update(
            context=json.loads(zlib.decompress(bytes(row.context_deflated)))
        )


class Migration(migrations.Migration):
    dependencies = [("logbook", "0003_readings_files")]
    operations = [
        migrations.AddField("judgement", "context_deflated", models.BinaryField(default=b"")),
        migrations.AlterField("judgement", "context", models.JSONField(default=dict)),
        migrations.RunPython(deflate, inflate),
        migrations.RemoveField("judgement", "context"),
        migrations.AlterField("judgement", "context_deflated", models.BinaryField()),
    ]
