from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [
        ("prints", "0001_initial"),
    ]

    operations = [
        migrations.RenameField(model_name="print", old_name="pdf", new_name="content"),
    ]
