"""Photographs: read, scaled, and written anew, so that nothing but the picture is kept."""

from __future__ import annotations

import io
import warnings
from threading import Lock
from typing import NoReturn
from uuid import UUID, uuid4

from django.db import transaction
from django.shortcuts import get_object_or_404
from PIL import Image, ImageOps, UnidentifiedImageError
from strom_engine.errors import Problem, StromError

from apps.accounts.models import User, Workshop
from apps.jobs.models import Job, Photo
from apps.surveys.schemas import PhotoOut

__all__ = ["add_photo", "get_photo", "photo_out", "photos_of"]

SAFE = ("JPEG", "PNG", "WEBP")
LONG_SIDE = 1600
# A JPEG is read at a fraction of its size; the others are unpacked whole, 4 bytes a pixel.
MAX_PIXELS = {"JPEG": 80_000_000, "PNG": 25_000_000, "WEBP": 25_000_000}
PATIENCE_S = 20.0
# Unpacking takes memory: one picture at a time in each process.
_unpacking = Lock()
MAX_PHOTOS = 120
QUALITY = 82


def add_photo(
    job: Job, author: User, data: bytes, caption: str, photo_id: UUID | None = None
) -> Photo:
    """Keep a photograph; one whose id its device made is kept once.

    Raises StromError that says why it is none or one too many.
    """
    if photo_id is not None and (known := Photo.objects.filter(pk=photo_id).first()):
        if known.job_id != job.pk:
            _refuse("its id was used before, for another boat")
        return known
    if not _unpacking.acquire(timeout=PATIENCE_S):
        _refuse("other pictures are being read just now; send it again in a minute")
    try:
        picture = _scaled(data)
    finally:
        _unpacking.release()
    out = io.BytesIO()
    # Comments and all else that a picture can carry would be written too.
    picture.info.clear()
    picture.save(out, "JPEG", quality=QUALITY, optimize=True)
    with transaction.atomic():
        Job.objects.select_for_update().get(pk=job.pk)
        if job.photos.count() >= MAX_PHOTOS:
            _refuse(f"a job holds {MAX_PHOTOS} photographs at most; take one out first")
        made: Photo = job.photos.create(
            id=photo_id or uuid4(),
            caption=caption,
            width=picture.width,
            height=picture.height,
            image=out.getvalue(),
            author=author,
            by=author.username,
        )
    return made


def _scaled(data: bytes) -> Image.Image:
    """The picture upright, without transparency, at most 1600 px on its long side."""
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("error", Image.DecompressionBombWarning)
            picture = Image.open(io.BytesIO(data), formats=SAFE)
            most = MAX_PIXELS[picture.format or "PNG"]
            if picture.width * picture.height > most:
                _refuse(f"the picture has more than {most // 1_000_000} million pixels")
            picture.draft("RGB", (LONG_SIDE, LONG_SIDE))
            upright = ImageOps.exif_transpose(picture).convert("RGB")
            upright.thumbnail((LONG_SIDE, LONG_SIDE))
    except UnidentifiedImageError:
        _refuse("not a photograph that can be read: JPEG, PNG or WebP are")
    except (OSError, SyntaxError, ValueError, Image.DecompressionBombError, Warning) as error:
        _refuse(f"the picture is damaged: {error}")
    return upright


def _refuse(why: str) -> NoReturn:
    raise StromError(why, (Problem("photograph", why),))


def photos_of(job: Job) -> list[PhotoOut]:
    """Photographs of a job in the order in which they were taken in."""
    return [photo_out(p) for p in job.photos.defer("image")]


def get_photo(workshop: Workshop, photo_id: UUID) -> Photo:
    """A photograph of this workshop, or 404."""
    return get_object_or_404(Photo, pk=photo_id, job__workshop=workshop, job__binned__isnull=True)


def photo_out(photo: Photo) -> PhotoOut:
    """A photograph as it is listed."""
    return PhotoOut(
        id=photo.pk,
        caption=photo.caption,
        width=photo.width,
        height=photo.height,
        author=photo.by or None,
        created=photo.created,
    )
