"""How easily a text reads: Flesch's measure of words a sentence and syllables a word."""

from __future__ import annotations

import re

__all__ = ["PLAIN_FROM", "reading_ease"]

PLAIN_FROM = 60.0  # Flesch: plain English from here on


def reading_ease(text: str) -> float:
    """Reading ease [-]: ``PLAIN_FROM`` and above is plain English, 30 and below is for specialists.

    206.835 - 1.015 words/sentence - 84.6 syllables/word. Source: Flesch, A new readability
    yardstick, 1948; syllables counted by groups of vowels, good to some points.

    Args:
        text: English sentences.
    """
    sentences = [s for s in re.split(r"[.!?:]+(?:\s|$)", text) if re.search(r"[A-Za-z]", s)]
    words = re.findall(r"[A-Za-z]+(?:'[a-z]+)?", text)
    if not sentences or not words:
        return 100.0
    syllables = sum(_syllables(word) for word in words)
    return 206.835 - 1.015 * len(words) / len(sentences) - 84.6 * syllables / len(words)


def _syllables(word: str) -> int:
    lower = word.lower()
    count = len(re.findall(r"[aeiouy]+", lower))
    if lower.endswith("e") and not lower.endswith(("le", "ee")) and count > 1:
        count -= 1
    return max(1, count)
