"""The heart of Strom: marine battery systems as documents, circuits and findings.

Pure computation: the same document and state in, the same result out. Nothing in
here knows a web framework, a clock, or a file other than its own tables.
"""

__all__: list[str] = []
