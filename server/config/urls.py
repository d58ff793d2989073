"""URLs: the API, and the page for everything else."""

from apps.problems import problem_response
from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.urls import path, re_path
from django.views.decorators.csrf import ensure_csrf_cookie

from config.api import api


@ensure_csrf_cookie
def page(request: HttpRequest) -> HttpResponse:
    """The front end's one page; the router in it knows the rest of the address."""
    index = settings.FRONTEND_DIST / "index.html"
    if not index.is_file():
        return HttpResponse("The front end is not built: run ./strom demo.", status=503)
    response = HttpResponse(index.read_bytes())
    response["Cache-Control"] = "no-cache"
    return response


def service_worker(request: HttpRequest) -> HttpResponse:
    """The service worker, given out at the root so that it serves every address."""
    script = settings.FRONTEND_DIST / "sw.js"
    if not script.is_file():
        return HttpResponse("The front end is not built: run ./strom demo.", status=503)
    response = HttpResponse(script.read_bytes(), content_type="text/javascript")
    response["Cache-Control"] = "no-cache"
    return response


def unknown(request: HttpRequest) -> HttpResponse:
    """An address of the API that does not exist."""
    return problem_response(404, "Not found", "The API has no such address.")


def server_error(request: HttpRequest) -> HttpResponse:
    """Something broke: said as a problem document, with nothing of the inside shown."""
    return problem_response(500, "Broken", "The server made a mistake; nothing was saved.")


handler500 = server_error

urlpatterns = [
    path("api/", api.urls),
    path("sw.js", service_worker),
    re_path(r"^api/.*$", unknown),
    re_path(r"^(?!static/).*$", page),
]
