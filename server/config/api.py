"""The API: one router an app, errors mapped in one place."""

from apps.accounts.people_router import router as people_router
from apps.accounts.permissions import MemberAuth
from apps.accounts.router import router as accounts_router
from apps.audit.router import router as audit_router
from apps.build.router import router as build_router
from apps.days.router import router as days_router
from apps.handover.router import router as handover_router
from apps.jobs.router import router as jobs_router
from apps.logbook.router import router as logbook_router
from apps.operation.router import router as operation_router
from apps.prints.router import router as prints_router
from apps.problems import register_problems
from apps.prove.router import router as prove_router
from apps.runs.router import router as runs_router
from apps.surveys.router import router as survey_router
from apps.wiring.router import router as wiring_router
from ninja import NinjaAPI

api = NinjaAPI(
    title="Strom",
    version="1",
    description="Marine battery systems: jobs, surveys, variants, changes and the bench.",
    auth=MemberAuth(),
    docs_url=None,
)
register_problems(api)
api.add_router("/session", accounts_router)
api.add_router("", people_router)
api.add_router("", jobs_router)
api.add_router("", survey_router)
api.add_router("", wiring_router)
api.add_router("", runs_router)
api.add_router("", days_router)
api.add_router("", build_router)
api.add_router("", prints_router)
api.add_router("", prove_router)
api.add_router("", logbook_router)
api.add_router("", handover_router)
api.add_router("", operation_router)
api.add_router("", audit_router)
