from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [
        ("days", "0004_plan_undo"),
    ]

    operations = [
        migrations.AddField(
            model_name="dayplan",
            name="dropped",
            field=models.DateTimeField(null=True),
        ),
    ]
