"""The command line: compute on a job file, without a server or a database."""

__all__: list[str] = []
