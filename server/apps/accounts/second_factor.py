"""The second factor: a code of an app on the phone beside the password, with codes for a loss."""

from __future__ import annotations

from base64 import b32encode
from dataclasses import dataclass

from django.db import transaction
from django_otp import devices_for_user, user_has_device
from django_otp.plugins.otp_static.models import StaticDevice, StaticToken
from django_otp.plugins.otp_totp.models import TOTPDevice
from strom_engine.errors import ChangeError, Problem

from apps.accounts.models import User

__all__ = ["Setup", "begin", "confirm", "has_second_factor", "left", "passes", "turn_off"]

NAME = "phone"
DIGITS = 6  # of a code of the app; recovery codes have eight letters
CODES = 10
WRONG = "this code does not fit; take the one that the app shows now, after a few seconds"


@dataclass(frozen=True)
class Setup:
    """What an app on the phone is told: as an address in a square code, or typed."""

    address: str
    secret: str


def has_second_factor(user: User) -> bool:
    """Whether a password alone does not sign this person in."""
    return bool(user_has_device(user))


def passes(user: User, code: str) -> bool:
    """Whether a code is right: each once, and after wrong ones only with a growing wait.

    A device is asked only where the code looks like one of its own: a wrong guess of one kind
    does not make the other wait.
    """
    wanted = TOTPDevice if len(code) == DIGITS else StaticDevice
    with transaction.atomic():
        devices = [d for d in devices_for_user(user, for_verify=True) if isinstance(d, wanted)]
        return any(device.verify_token(code) for device in devices)


def begin(user: User) -> Setup:
    """A new secret, which counts once a code of it was entered. Raises ChangeError."""
    if has_second_factor(user):
        raise ChangeError("a second factor is set up already: turn it off first")
    TOTPDevice.objects.filter(user=user).delete()
    device = TOTPDevice.objects.create(user=user, name=NAME, confirmed=False, digits=DIGITS)
    return Setup(device.config_url, b32encode(device.bin_key).decode())


def confirm(user: User, code: str) -> list[str]:
    """Count the device whose code this is; codes for the day the phone is lost, each good once.

    Raises ChangeError for a code that does not fit.
    """
    with transaction.atomic():
        device = TOTPDevice.objects.select_for_update().filter(user=user, confirmed=False).first()
        if device is None:
            raise ChangeError("nothing is being set up: begin once more")
        if not device.verify_token(code):
            raise ChangeError(WRONG, (Problem("code", WRONG),))
        device.confirmed = True
        device.save(update_fields=["confirmed"])
        StaticDevice.objects.filter(user=user).delete()
        spare = StaticDevice.objects.create(user=user, name="recovery")
        codes = [StaticToken.random_token() for _ in range(CODES)]
        StaticToken.objects.bulk_create(StaticToken(device=spare, token=code) for code in codes)
    return codes


def left(user: User) -> int:
    """Recovery codes that are not used yet."""
    return int(StaticToken.objects.filter(device__user=user).count())


def turn_off(user: User) -> None:
    """From now on the password alone signs this person in."""
    TOTPDevice.objects.filter(user=user).delete()
    StaticDevice.objects.filter(user=user).delete()
