"""What metal can join to what, by cables and through parts, however they stand."""

from __future__ import annotations

from strom_engine.design.document import Design

__all__ = ["joined_posts", "neighbours"]


def neighbours(design: Design, without: str = "", *, sense: bool = False) -> dict[str, list[str]]:
    """The posts next to each post, not through one part; with sense leads where asked for."""
    joins = [(c.start, c.end) for c in design.cables if sense or c.purpose == "power"]
    for part in design.components:
        if part.id != without:
            joins += part.links()
    near: dict[str, list[str]] = {}
    for a, b in joins:
        near.setdefault(a, []).append(b)
        near.setdefault(b, []).append(a)
    return near


def joined_posts(design: Design, post: str, without: str = "") -> set[str]:
    """Posts that power cables and metal can join to a post, but not through one part."""
    near = neighbours(design, without)
    found, todo = {post}, [post]
    while todo:
        for other in near.get(todo.pop(), ()):
            if other not in found:
                found.add(other)
                todo.append(other)
    return found
