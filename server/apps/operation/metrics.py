"""Counts and times in the Prometheus text format: requests, the queue. No names, no ids."""

from __future__ import annotations

import os
from collections.abc import Iterator

from django.db import DatabaseError
from prometheus_client import CollectorRegistry, Counter, Histogram, generate_latest
from prometheus_client.core import GaugeMetricFamily
from prometheus_client.multiprocess import MultiProcessCollector
from prometheus_client.registry import Collector

from apps.operation.health import queue_state

__all__ = ["count_request", "exposition"]

OWN = CollectorRegistry()
# A change is to be answered in a tenth of a second, a stage in one or two; the deadline is 25 s.
BUCKETS_S = (0.05, 0.1, 0.2, 0.5, 1.0, 2.0, 5.0, 10.0, 25.0)
REQUESTS = Counter(
    "strom_requests", "Requests answered", ["method", "route", "status"], registry=OWN
)
SECONDS = Histogram(
    "strom_request_seconds", "Time to answer", ["route"], buckets=BUCKETS_S, registry=OWN
)


def count_request(method: str, route: str, status: int, seconds: float) -> None:
    """Count an answered request; ``route`` is the pattern of its address, never the address."""
    REQUESTS.labels(method, route, str(status)).inc()
    SECONDS.labels(route).observe(seconds)


class _Queue(Collector):
    """The queue at the moment of asking."""

    def collect(self) -> Iterator[GaugeMetricFamily]:
        try:
            now = queue_state()
        except DatabaseError:
            return
        for name, words, value in (
            ("strom_queue_waiting", "Pieces of work that wait", now.waiting),
            ("strom_queue_running", "Pieces of work under way", now.running),
            ("strom_queue_oldest_seconds", "Age of the oldest that waits", now.oldest_s),
        ):
            yield GaugeMetricFamily(name, words, value=value)


QUEUE = CollectorRegistry()
QUEUE.register(_Queue())


def exposition() -> bytes:
    """Everything in the text format; of all processes of this host where they share a folder."""
    requests = OWN
    if "PROMETHEUS_MULTIPROC_DIR" in os.environ:
        requests = CollectorRegistry()
        MultiProcessCollector(requests)  # type: ignore[no-untyped-call]
    return generate_latest(requests) + generate_latest(QUEUE)
