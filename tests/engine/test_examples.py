"""The examples in docstrings run as they are written."""

from __future__ import annotations

import doctest
import importlib
import pkgutil

import pytest
import strom_engine

MODULES = [
    m.name
    for m in pkgutil.walk_packages(strom_engine.__path__, "strom_engine.")
    if not m.name.endswith("__main__")
]
FINDER = doctest.DocTestFinder(exclude_empty=True)


def examples() -> list[doctest.DocTest]:
    found = {}
    for name in MODULES:
        for test in FINDER.find(importlib.import_module(name), name):
            if test.examples:
                found[test.name] = test
    return [found[name] for name in sorted(found)]


EXAMPLES = examples()


@pytest.mark.parametrize("example", EXAMPLES, ids=[test.name for test in EXAMPLES])
def test_an_example_comes_out_as_written(example: doctest.DocTest) -> None:
    results = doctest.DocTestRunner(optionflags=doctest.NORMALIZE_WHITESPACE).run(example)
    assert results.failed == 0 and results.attempted > 0


def test_the_entry_functions_have_examples() -> None:
    assert len(EXAMPLES) >= 22
