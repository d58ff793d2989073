"""Secrets of links: of each only a digest is kept."""

from hashlib import sha256

__all__ = ["digest_of"]


def digest_of(secret: str) -> str:
    """What is kept of a secret."""
    return sha256(secret.encode()).hexdigest()
