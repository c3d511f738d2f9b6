import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):
    """Whoever is signed in stays signed in: the sessions there were are taken over as they are."""

    dependencies = [("base", "0003_where_a_parcel_moved"), ("sessions", "0001_initial")]

    operations = [
        migrations.CreateModel(
            name="Session",
            fields=[
                (
                    "session_key",
                    models.CharField(
                        max_length=40, primary_key=True, serialize=False, verbose_name="session key"
                    ),
                ),
                ("session_data", models.TextField(verbose_name="session data")),
                ("expire_date", models.DateTimeField(db_index=True, verbose_name="expire date")),
                (
                    "user",
                    models.ForeignKey(
                        null=True,
                        on_delete=django.db.models.deletion.CASCADE,
                        related_name="+",
                        to=settings.AUTH_USER_MODEL,
                    ),
                ),
            ],
            options={"verbose_name": "session", "verbose_name_plural": "sessions", "abstract": False},
        ),
        migrations.RunSQL(
            "INSERT INTO base_session (session_key, session_data, expire_date)"
            " SELECT session_key, session_data, expire_date FROM django_session",
            migrations.RunSQL.noop,
        ),
    ]
