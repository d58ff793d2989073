"""What every response carries, and how large a request may be."""

from collections.abc import Callable
from ipaddress import ip_address

from apps.deadline import ends_within
from apps.problems import problem_response
from django.conf import settings
from django.http import HttpRequest, HttpResponse, HttpResponseBase

Respond = Callable[[HttpRequest], HttpResponseBase]

# The interface sets styles on elements from script (positions, widths): that is style, and
# allowed; script comes from our own files alone.
POLICY = "; ".join(
    (
        "default-src 'self'",
        "script-src 'self'",
        "style-src 'self' 'unsafe-inline'",
        "img-src 'self' data: blob:",
        "font-src 'self'",
        "connect-src 'self'",
        "object-src 'none'",
        "base-uri 'none'",
        "form-action 'self'",
        "frame-ancestors 'none'",
    )
)
DRAIN_BYTES = 64_000_000


class BehindProxy:
    """Takes the visitor's address from the proxy in front, where the installation has one.

    The proxy sets the header itself: what a visitor sends in it never gets here. Without one the
    header is nobody's word and is left alone.
    """

    def __init__(self, get_response: Respond) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponseBase:
        if settings.PROXY:
            try:
                told = ip_address(request.headers.get("X-Forwarded-For", "").strip())
                request.META["REMOTE_ADDR"] = str(told)
            except ValueError:
                pass  # several addresses or none: it is the proxy's own that is known
        return self.get_response(request)


class ContentSecurityPolicy:
    """Adds the content-security-policy to every response."""

    def __init__(self, get_response: Respond) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponseBase:
        response = self.get_response(request)
        response["Content-Security-Policy"] = POLICY
        return response


class PrivateAnswers:
    """Answers of the API are kept by no cache, unless an answer itself says how."""

    def __init__(self, get_response: Respond) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponseBase:
        response = self.get_response(request)
        if request.path.startswith("/api/") and not response.has_header("Cache-Control"):
            response["Cache-Control"] = "no-store, private"
        return response


class Deadline:
    """Ends the computation of a request that takes too long, in words."""

    def __init__(self, get_response: Respond) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponseBase:
        with ends_within(settings.MOST_SECONDS, "Nothing was saved"):
            return self.get_response(request)


class BodyLimit:
    """Refuses a request whose body is over the limit, in words, before anything reads it."""

    def __init__(self, get_response: Respond) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponseBase:
        declared = request.META.get("CONTENT_LENGTH") or "0"
        large = {
            "photos": settings.MAX_PHOTO_BYTES,
            "records": settings.MAX_RECORD_BYTES,
            "archives": settings.MAX_ARCHIVE_BYTES,
        }
        limit = large.get(request.path.rpartition("/")[2], settings.MAX_BODY_BYTES)
        if declared.isdigit() and int(declared) > limit:
            return _too_large(request, int(declared), limit)
        return self.get_response(request)


def _too_large(request: HttpRequest, declared: int, limit: int) -> HttpResponse:
    # Read on and throw away, or the sender sees a broken connection instead of the answer.
    left = min(declared, DRAIN_BYTES)
    while left > 0 and (chunk := request.read(min(left, 1 << 16))):
        left -= len(chunk)
    sizes = f"The file is {declared / 1e6:.1f} MB; the limit is {limit / 1e6:.0f} MB."
    return problem_response(413, "Too large", f"{sizes} Nothing was saved.")
