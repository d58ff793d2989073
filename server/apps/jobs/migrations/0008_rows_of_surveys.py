"""Rows of the lists that only grow leave the revisions of surveys: each is kept once."""

from django.db import migrations

LISTS = ("resting", "counted", "measurements")


def leave_revisions(apps, schema_editor):
    survey_revisions = apps.get_model("jobs", "SurveyRevision")
    rows = apps.get_model("jobs", "SurveyRow")
    surveys = survey_revisions.objects.values_list("survey_id", flat=True).distinct()
    for survey in list(surveys.order_by("survey_id")):
        standing, most = {}, dict.fromkeys(LISTS, 0)
        for revision in survey_revisions.objects.filter(survey_id=survey).order_by("number").iterator():
            has = {}
            for name in LISTS:
                before = 0
                for data in revision.document.pop(name, None) or ():
                    key = (name, str(data.get("id")))
                    kept = standing.get(key)
                    if kept is None or kept.data != data or kept.place <= before:
                        most[name] += 1
                        kept = rows(survey_id=survey, list=name, data=data, place=most[name],
                                    first=revision.number)
                    before = kept.place
                    has[key] = kept
            for key, kept in standing.items():
                if has.get(key) is not kept:
                    kept.last = revision.number - 1
                    kept.save()
            for kept in has.values():
                if kept.pk is None:
                    kept.save()
            standing = has
            revision.save(update_fields=["document"])


def back_into_revisions(apps, schema_editor):
    survey_revisions = apps.get_model("jobs", "SurveyRevision")
    rows = apps.get_model("jobs", "SurveyRow")
    for revision in survey_revisions.objects.iterator():
        for name in LISTS:
            found = rows.objects.filter(survey_id=revision.survey_id, list=name,
                                        first__lte=revision.number)
            revision.document[name] = [
                row.data for row in found.order_by("place")
                if row.last is None or row.last >= revision.number
            ]
        revision.save(update_fields=["document"])
    rows.objects.all().delete()


class Migration(migrations.Migration):
    dependencies = [("jobs", "0007_rows_and_summaries")]
    operations = [migrations.RunPython(leave_revisions, back_into_revisions)]
