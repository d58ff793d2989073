"""Links for owners: made, revoked, opened by a secret, and what they may enter."""

from __future__ import annotations

import secrets
from collections.abc import Sequence
from datetime import timedelta
from threading import RLock
from typing import cast

from cachetools import TTLCache
from django.db import transaction
from django.db.models import F
from django.http import HttpRequest, HttpResponse
from django.utils import timezone
from ninja.errors import HttpError
from ninja.security import APIKeyHeader
from strom_engine.dayrun import SchoolId
from strom_engine.design import Bank
from strom_engine.errors import ChangeError, Problem
from strom_engine.handover import Language

from apps.accounts.digests import digest_of
from apps.accounts.permissions import Writer
from apps.handover.drilling import ask_scenes, drill_of
from apps.handover.models import HandoverEntry, OwnerLink
from apps.handover.queries import LANGUAGE_NAMES, sheet_asked
from apps.handover.schemas import (
    BankName,
    HandoverEntryIn,
    HandoverOut,
    OwnerLinkIn,
    OwnerLinkOut,
    OwnerOut,
    OwnerReadingIn,
)
from apps.jobs.documents import surveyed_design
from apps.jobs.entries import keep_entries
from apps.jobs.models import Variant
from apps.jobs.queue import Status
from apps.logbook.actions import enter
from apps.logbook.schemas import LogEntryIn, LogReadingIn
from apps.prints.answers import answered

__all__ = ["OwnerAuth", "link_of", "link_out", "new_link", "opened", "read", "results", "revoke"]

SECRET_BYTES = 32
MOST_LINKS = 40
# A phone that practises asks some hundred times; nobody needs more in ten minutes.
MOST_ASKED, WINDOW = 600, timedelta(minutes=10)
MOST_WRONG = 30
OWNER = "owner"
_wrong: TTLCache[str, int] = TTLCache(10_000, WINDOW.total_seconds())
_counting = RLock()


class OwnerAuth(APIKeyHeader):
    """The secret of a link in a header: it stands in no address that a server writes down."""

    param_name = "Strom-Owner"

    def authenticate(self, request: HttpRequest, key: str | None) -> OwnerLink | None:
        """The link, or None where it is unknown, expired or revoked; too many tries are a 429."""
        related = ("variant__job__survey", "variant__job__workshop")
        links = OwnerLink.objects.select_related(*related).filter(
            ended=None, expires__gt=timezone.now(), variant__job__binned=None
        )
        link = links.filter(digest=digest_of(key)).first() if key else None
        if link is None:
            _count_wrong(request.META.get("REMOTE_ADDR", ""))
            return None
        _count(link)
        return link


def _count_wrong(who: str) -> None:
    """Count a secret that opens nothing. Raises a 429 where those are too many.

    A right one is let in whatever others try: behind a proxy all of them come from one address.
    """
    with _counting:
        _wrong[who] = _wrong.get(who, 0) + 1
        if _wrong[who] > MOST_WRONG:
            raise HttpError(429, "Too many wrong addresses: try again in ten minutes.")


def _count(link: OwnerLink) -> None:
    """Count a request of a link. Raises a 429 where those are too many."""
    now = timezone.now()
    kept = OwnerLink.objects.filter(pk=link.pk)
    if now - link.since > WINDOW:
        kept.update(since=now, asked=1, seen=now)
    elif link.asked >= MOST_ASKED:
        raise HttpError(429, "This address was asked too often: try again in ten minutes.")
    else:
        kept.update(asked=F("asked") + 1, seen=now)


def link_of(request: HttpRequest) -> OwnerLink:
    """The link behind a request that OwnerAuth let in."""
    return cast(OwnerLink, request.auth)  # type: ignore[attr-defined]


def new_link(variant: Variant, writer: Writer, told: OwnerLinkIn) -> tuple[OwnerLink, str]:
    """A link and its secret, which is kept nowhere. Raises ChangeError for one too many."""
    if OwnerLink.objects.filter(variant=variant, ended=None).count() >= MOST_LINKS:
        text = f"a variant has {MOST_LINKS} links at most; revoke one first"
        raise ChangeError(text, (Problem("", text),))
    secret = secrets.token_urlsafe(SECRET_BYTES)
    link = OwnerLink.objects.create(
        variant=variant,
        digest=digest_of(secret),
        name=told.name,
        school=told.school,
        language=told.language,
        author=writer.person,
        expires=timezone.now() + timedelta(days=told.days),
    )
    ask_scenes(variant, told.school)
    sheet_asked(variant, told.school, told.language)  # there when the link is opened
    return link, secret


def revoke(link: OwnerLink) -> None:
    """End a link: from now on it opens nothing."""
    OwnerLink.objects.filter(pk=link.pk, ended=None).update(ended=timezone.now())


def link_out(link: OwnerLink) -> OwnerLinkOut:
    """A link as the workshop sees it."""
    late = link.expires <= timezone.now()
    standing = "revoked" if link.ended else "expired" if late else "open"
    return OwnerLinkOut.model_validate(
        {"id": link.pk, "name": link.name, "created": link.created, "expires": link.expires,
         "seen": link.seen, "standing": standing}
    )  # fmt: skip


def opened(link: OwnerLink, language: Language | None) -> OwnerOut | HttpResponse:
    """What a link shows: nothing of the workshop, nothing of other boats.

    A worker works its sheet out; until that is there, the answer says so.
    """
    variant, spoken = link.variant, language or cast(Language, link.language)
    school = cast(SchoolId, link.school)
    one = sheet_asked(variant, school, spoken)
    if one.status != Status.DONE:
        return answered(one)
    return OwnerOut.model_construct(
        boat=variant.job.name,
        revision=variant.head,
        language=spoken,
        languages=LANGUAGE_NAMES,
        school=school,
        expires=link.expires,
        sheet=HandoverOut.model_validate_json(bytes(one.content or b"")).sheet,
        banks=[BankName(id=b.id, name=b.name) for b in surveyed_design(variant).of_type(Bank)],
        drill=drill_of(variant, school, spoken),
    )


def read(link: OwnerLink, told: OwnerReadingIn) -> None:
    """Keep what an owner read in the log. Raises ChangeError for a bank that is none."""
    banks = {b.id for b in surveyed_design(link.variant).of_type(Bank)}
    if told.bank not in banks:
        raise ChangeError("there is no such bank", (Problem("bank", "is none of this boat"),))
    reading = LogReadingIn(kind="rest_v", values=[told.volts_v], rested_h=told.rested_h,
                           source=f"{link.name}, by link")  # fmt: skip
    entry = LogEntryIn(
        id=told.id, kind="reading", target=told.bank, at=told.at,
        revision=link.variant.head, reading=reading,
    )  # fmt: skip
    enter(link.variant, Writer(signed=OWNER), [entry])


def results(variant: Variant, writer: Writer, entries: Sequence[HandoverEntryIn]) -> None:
    """Keep how scenes went, and practice aboard. Raises ChangeError with every reason."""
    with transaction.atomic():
        keep_entries(HandoverEntry, variant, writer, entries)
