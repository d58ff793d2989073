"""The boat is in the survey."""

from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("jobs", "0003_first_surveys")]

    operations = [
        # Given an empty default first, so that the way back has something to fill.
        migrations.AlterField("job", "boat", models.JSONField(default=dict)),
        migrations.RemoveField("job", "boat"),
    ]
