"""Serve a simulated meter on loopback: POST /reading with a token; see docs/meter.md."""

from __future__ import annotations

import argparse
import hmac
import json
import os
import sys
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from pathlib import Path
from threading import Lock

from strom_engine.errors import StromError
from strom_engine.faults import fault_from_key
from strom_engine.interchange import parse_job_text
from strom_engine.survey import surveyed

from strom_meter.played import PlayedBoat

MOST_BYTES = 100_000


def handler(boat: PlayedBoat, token: str) -> type[BaseHTTPRequestHandler]:
    """What answers requests for a boat."""
    lock = Lock()

    class Handler(BaseHTTPRequestHandler):
        """One request."""

        def do_POST(self) -> None:
            """A reading."""
            given = self.headers.get("Authorization", "")
            if not hmac.compare_digest(given.encode(), f"Bearer {token}".encode()):
                return self._answer(401, "the token is not this meter's")
            length = int(self.headers.get("Content-Length") or 0)
            if self.path != "/reading" or length > MOST_BYTES:
                return self._answer(404, "POST /reading is all that there is")
            try:
                with lock:
                    told = boat.reading(json.loads(self.rfile.read(length)))
            except (StromError, ValueError, KeyError) as error:
                return self._answer(422, f"the boat that this meter plays: {error}")
            return self._answer(200, json.dumps(told), "application/json")

        def _answer(self, status: int, text: str, kind: str = "text/plain") -> None:
            data = text.encode()
            self.send_response(status)
            self.send_header("Content-Type", f"{kind}; charset=utf-8")
            self.send_header("Content-Length", str(len(data)))
            self.end_headers()
            self.wfile.write(data)

        def log_message(self, *arguments: object) -> None:
            """Quiet: what is read is nobody's business."""

    return Handler


def main(arguments: list[str] | None = None) -> int:
    """Serve until it is stopped."""
    parser = argparse.ArgumentParser(
        prog="strom_meter", description=__doc__, fromfile_prefix_chars="@"
    )
    parser.add_argument("job", type=Path, help="job file of the boat that is played")
    parser.add_argument("--variant", required=True, help="name of the variant as built")
    parser.add_argument("--fault", action="append", default=[], help="hidden fault, by its key")
    parser.add_argument("--port", type=int, default=8151)
    parser.add_argument("--seed", type=int, default=1, help="of what is not known of the boat")
    told = parser.parse_args(arguments)
    try:
        job = parse_job_text(told.job.read_bytes())
        drawn = next((v.design for v in job.variants if v.name == told.variant), None)
        if drawn is None:
            print(f"there is no variant {told.variant!r}", file=sys.stderr)
            return 2
        design = surveyed(drawn, job.survey)
        faults = tuple(fault_from_key(design, key) for key in told.fault)
    except StromError as error:
        print(error, file=sys.stderr)
        return 2
    boat = PlayedBoat(design, faults, told.seed)
    token = os.environ.get("STROM_METER_TOKEN", "")
    with ThreadingHTTPServer(("127.0.0.1", told.port), handler(boat, token)) as server:
        server.serve_forever()
    return 0


if __name__ == "__main__":
    sys.exit(main())
