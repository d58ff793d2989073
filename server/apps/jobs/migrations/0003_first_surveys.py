"""Every job gets a survey: its boat, and the places and profiles of its variants."""

from django.db import migrations
from strom_engine.design import Design
from strom_engine.survey import Boat, survey_from_designs


def first_surveys(apps, schema_editor):
    job_model = apps.get_model("jobs", "Job")
    survey_model = apps.get_model("jobs", "JobSurvey")
    revision_model = apps.get_model("jobs", "SurveyRevision")
    for job in job_model.objects.all():
        designs = [
            Design.model_validate(variant.revisions.get(number=variant.head).document)
            for variant in job.variants.order_by("place")
        ]
        boat = Boat.model_validate(job.boat)
        if designs:
            boat = boat.model_copy(update={"fuel": designs[0].fuel})
        revision_model.objects.create(
            survey=survey_model.objects.create(job=job),
            number=1,
            shows=1,
            kind="import",
            words="Begun from what the job held",
            document=survey_from_designs(boat, designs).model_dump(mode="json"),
        )


def boats_again(apps, schema_editor):
    """The way back: the boat in a few words."""
    for survey in apps.get_model("jobs", "JobSurvey").objects.select_related("job"):
        boat = survey.revisions.get(number=survey.head).document["boat"]
        survey.job.boat = {name: boat[name] for name in ("kind", "length_m", "notes")}
        survey.job.save(update_fields=["boat"])


class Migration(migrations.Migration):
    dependencies = [("jobs", "0002_survey_and_photos")]

    operations = [migrations.RunPython(first_surveys, boats_again)]
