"""Jobs, their survey and variants, the immutable history of each, and photographs."""

import uuid
from datetime import timedelta

from django.db import models
from django.utils import timezone

from apps.accounts.models import User, Workshop

__all__ = [
    "KEPT_IN_BIN",
    "FindingsSummary",
    "Job",
    "JobCard",
    "JobSurvey",
    "Kept",
    "KeptRevision",
    "Photo",
    "Revision",
    "SurveyRevision",
    "SurveyRow",
    "Variant",
    "Waiver",
    "WorkState",
]


# How long a job can be taken out of the bin; then it goes for good.
KEPT_IN_BIN = timedelta(days=30)


class WorkState(models.TextChoices):
    """Where the work on a boat stands, in the order in which it goes on."""

    ENQUIRY = "enquiry"
    SURVEYED = "surveyed"
    PROPOSED = "proposed"
    BUILDING = "building"
    PROVED = "proved"
    HANDED_OVER = "handed_over"


class Job(models.Model):
    """One boat's work, where it stands, and whose boat it is.

    ``archived`` is when it was put away, ``binned`` when it was put into the bin; it comes back
    from both.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    workshop = models.ForeignKey(Workshop, on_delete=models.PROTECT, related_name="jobs")
    name = models.CharField(max_length=120)
    created = models.DateTimeField(auto_now_add=True)
    changed = models.DateTimeField(auto_now=True)
    archived = models.DateTimeField(null=True, db_index=True)
    binned = models.DateTimeField(null=True, db_index=True)
    state = models.CharField(max_length=12, choices=WorkState.choices, default=WorkState.ENQUIRY)
    owner = models.CharField(max_length=120, blank=True)
    contact = models.CharField(max_length=400, blank=True)

    class Meta:
        ordering = ("-changed", "name")

    def __str__(self) -> str:
        return self.name


class Kept(models.Model):
    """A document with a history; its newest revision is what it is."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    head = models.PositiveIntegerField(default=1)

    class Meta:
        abstract = True


class JobSurvey(Kept):
    """What is known of the boat, whatever is proposed for it."""

    name = "The survey"
    job = models.OneToOneField(Job, on_delete=models.CASCADE, related_name="survey")

    def __str__(self) -> str:
        return f"Survey of {self.job_id}"


class Variant(Kept):
    """As found, or a proposal."""

    job = models.ForeignKey(Job, on_delete=models.CASCADE, related_name="variants")
    name = models.CharField(max_length=120)
    place = models.PositiveSmallIntegerField()
    chosen = models.BooleanField(default=False)

    class Meta:
        ordering = ("place",)
        constraints = (models.UniqueConstraint(fields=("job", "name"), name="variant_name_in_job"),)

    def __str__(self) -> str:
        return self.name


class KeptRevision(models.Model):
    """One saved state of a document; never changed and never deleted.

    ``shows`` is the number of the revision whose state this one shows: its own, or after an
    undo or redo that of the change, import or restore it went to. ``undo_to`` is the revision
    whose state an undo from here shows again, ``redo_to`` the one that a redo brings back.
    A revision of kind ``aside`` lost a clash and was kept. ``window`` is the one, on whatever
    device, that it was made in.
    """

    class Kind(models.TextChoices):
        """How a revision came about."""

        IMPORT = "import"
        CHANGE = "change"
        UNDO = "undo"
        REDO = "redo"
        RESTORE = "restore"
        ASIDE = "aside"

    number = models.PositiveIntegerField()
    kind = models.CharField(max_length=10, choices=Kind.choices)
    words = models.TextField()
    change = models.JSONField(null=True)
    document = models.JSONField()
    shows = models.PositiveIntegerField()
    undo_to = models.PositiveIntegerField(null=True)
    redo_to = models.PositiveIntegerField(null=True)
    author = models.ForeignKey(User, null=True, on_delete=models.SET_NULL)
    window = models.UUIDField(null=True)
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        abstract = True

    def __str__(self) -> str:
        return f"{self.number}: {self.words}"


class Revision(KeptRevision):
    """A saved state of a variant: a design."""

    variant = models.ForeignKey(Variant, on_delete=models.CASCADE, related_name="revisions")

    class Meta:
        ordering = ("number",)
        constraints = (
            models.UniqueConstraint(fields=("variant", "number"), name="revision_number"),
        )


class SurveyRevision(KeptRevision):
    """A saved state of a survey."""

    survey = models.ForeignKey(JobSurvey, on_delete=models.CASCADE, related_name="revisions")

    class Meta:
        ordering = ("number",)
        constraints = (
            models.UniqueConstraint(fields=("survey", "number"), name="survey_revision_number"),
        )


class SurveyRow(models.Model):
    """A row of a list of a survey that only grows, from its first revision to its last.

    ``last`` is None while the newest revision has it. ``place`` orders the rows of a list.
    """

    survey = models.ForeignKey(JobSurvey, on_delete=models.CASCADE, related_name="rows")
    list = models.CharField(max_length=20)
    place = models.PositiveIntegerField()
    data = models.JSONField()
    first = models.PositiveIntegerField()
    last = models.PositiveIntegerField(null=True)

    class Meta:
        ordering = ("list", "place")
        indexes = (models.Index(fields=("survey", "first", "last"), name="survey_row_span"),)

    def __str__(self) -> str:
        return f"{self.list} {self.first}"


class JobCard(models.Model):
    """What a list of jobs says of a boat, read of a revision of its survey."""

    job = models.OneToOneField(Job, on_delete=models.CASCADE, related_name="card", primary_key=True)
    survey_revision = models.PositiveIntegerField(default=0)
    kind = models.CharField(max_length=200)
    length_m = models.FloatField()
    notes = models.TextField(blank=True)

    def __str__(self) -> str:
        return self.kind


class FindingsSummary(models.Model):
    """Findings of a variant by severity, and a digest of everything they were made from.

    Beside them stand its gear in words, by which a job is found, and a small drawing of it.
    """

    variant = models.OneToOneField(
        Variant, on_delete=models.CASCADE, related_name="summary", primary_key=True
    )
    made_from = models.CharField(max_length=64)
    by_severity = models.JSONField()
    problem = models.TextField(blank=True)
    gear = models.TextField(blank=True)
    sketch = models.TextField(blank=True)

    def __str__(self) -> str:
        return self.made_from


class Waiver(models.Model):
    """A finding that somebody answers for, with the reason; kept, dated, and printed.

    It lapses when the finding becomes graver than it was when it was waived. A row never changes:
    another reason is another row with the next ``revision``, and the one before has ``ended``.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    variant = models.ForeignKey(Variant, on_delete=models.CASCADE, related_name="waivers")
    finding = models.CharField(max_length=600)
    rule = models.CharField(max_length=10)
    severity = models.CharField(max_length=12)
    title = models.TextField()
    reason = models.TextField()
    revision = models.PositiveIntegerField(default=1)
    author = models.ForeignKey(User, null=True, on_delete=models.SET_NULL)
    by = models.CharField(max_length=150, blank=True)
    created = models.DateTimeField(default=timezone.now)
    ended = models.DateTimeField(null=True)

    class Meta:
        ordering = ("created",)
        constraints = (
            models.UniqueConstraint(
                fields=("variant", "finding", "revision"), name="waiver_revision"
            ),
        )

    def __str__(self) -> str:
        return f"{self.rule}: {self.reason}"


class Photo(models.Model):
    """A photograph taken aboard: scaled, with nothing of the camera's own left in it.

    It is kept in the database, so that any number of server processes show it.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    job = models.ForeignKey(Job, on_delete=models.CASCADE, related_name="photos")
    caption = models.CharField(max_length=200, blank=True)
    width = models.PositiveSmallIntegerField()
    height = models.PositiveSmallIntegerField()
    image = models.BinaryField()
    author = models.ForeignKey(User, null=True, on_delete=models.SET_NULL)
    by = models.CharField(max_length=150, blank=True)
    created = models.DateTimeField(default=timezone.now)

    class Meta:
        ordering = ("created",)

    def __str__(self) -> str:
        return self.caption or str(self.id)
