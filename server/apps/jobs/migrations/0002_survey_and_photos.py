"""Surveys with a history of their own, photographs; a revision holds any document."""

import uuid

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models

KINDS = [
    ("import", "Import"),
    ("change", "Change"),
    ("undo", "Undo"),
    ("redo", "Redo"),
    ("restore", "Restore"),
    ("aside", "Aside"),
]


def key(**more: object) -> models.UUIDField:
    return models.UUIDField(
        default=uuid.uuid4, editable=False, primary_key=True, serialize=False, **more
    )


def author() -> models.ForeignKey:
    return models.ForeignKey(
        null=True, on_delete=django.db.models.deletion.SET_NULL, to=settings.AUTH_USER_MODEL
    )


class Migration(migrations.Migration):
    dependencies = [("jobs", "0001_initial")]

    operations = [
        migrations.RenameField("revision", "design", "document"),
        migrations.CreateModel(
            name="JobSurvey",
            fields=[
                ("id", key()),
                ("head", models.PositiveIntegerField(default=1)),
                (
                    "job",
                    models.OneToOneField(
                        on_delete=django.db.models.deletion.CASCADE,
                        related_name="survey",
                        to="jobs.job",
                    ),
                ),
            ],
            options={"abstract": False},
        ),
        migrations.CreateModel(
            name="SurveyRevision",
            fields=[
                (
                    "id",
                    models.BigAutoField(
                        auto_created=True, primary_key=True, serialize=False, verbose_name="ID"
                    ),
                ),
                ("number", models.PositiveIntegerField()),
                ("kind", models.CharField(choices=KINDS, max_length=10)),
                ("words", models.TextField()),
                ("change", models.JSONField(null=True)),
                ("document", models.JSONField()),
                ("shows", models.PositiveIntegerField()),
                ("undo_to", models.PositiveIntegerField(null=True)),
                ("redo_to", models.PositiveIntegerField(null=True)),
                ("created", models.DateTimeField(auto_now_add=True)),
                ("author", author()),
                (
                    "survey",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.CASCADE,
                        related_name="revisions",
                        to="jobs.jobsurvey",
                    ),
                ),
            ],
            options={"ordering": ("number",)},
        ),
        migrations.AddConstraint(
            model_name="surveyrevision",
            constraint=models.UniqueConstraint(
                fields=("survey", "number"), name="survey_revision_number"
            ),
        ),
        migrations.CreateModel(
            name="Photo",
            fields=[
                ("id", key()),
                ("caption", models.CharField(blank=True, max_length=200)),
                ("width", models.PositiveSmallIntegerField()),
                ("height", models.PositiveSmallIntegerField()),
                ("image", models.BinaryField()),
                ("created", models.DateTimeField(auto_now_add=True)),
                ("author", author()),
                (
                    "job",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.CASCADE,
                        related_name="photos",
                        to="jobs.job",
                    ),
                ),
            ],
            options={"ordering": ("created",)},
        ),
    ]
