"""What the audit log says of each endpoint that changes, exports or deletes something."""

from __future__ import annotations

__all__ = ["MAKE_JOBS", "NAME_SOMEBODY", "NOT_TOLD", "WORDS"]

Endpoint = tuple[str, str]
VARIANT = "/api/variants/{variant_id}"
JOB = "/api/jobs/{job_id}"

BOATS: dict[Endpoint, str] = {
    ("POST", "/api/jobs"): "entered a boat",
    ("POST", "/api/jobs/import"): "brought a job in from a file",
    ("POST", "/api/archives"): "brought a job in from an archive",
    ("POST", f"{JOB}/template"): "began a job as another one",
}
# What answers with a job that was not there before.
MAKE_JOBS = frozenset(BOATS.values())
CHANGES: dict[Endpoint, str] = {
    ("PATCH", JOB): "changed what is kept of a job",
    ("POST", f"{JOB}/unbin"): "took a job out of the bin",
    ("POST", f"{JOB}/photos"): "added a photograph",
    ("PUT", "/api/photos/{photo_id}"): "changed the words of a photograph",
    ("POST", f"{JOB}/survey/changes"): "changed the survey",
    ("POST", f"{JOB}/survey/undo"): "undid a change of the survey",
    ("POST", f"{JOB}/survey/redo"): "redid a change of the survey",
    ("POST", f"{JOB}/survey/restore"): "went back to a version of the survey",
    ("POST", f"{VARIANT}/changes"): "changed the design",
    ("POST", f"{VARIANT}/undo"): "undid a change of the design",
    ("POST", f"{VARIANT}/redo"): "redid a change of the design",
    ("POST", f"{VARIANT}/restore"): "went back to a version of the design",
    ("POST", f"{VARIANT}/found"): "entered a part found aboard",
    ("POST", f"{VARIANT}/edit"): "changed the design",
    ("POST", f"{VARIANT}/pattern"): "rewired a variant",
    ("POST", f"{VARIANT}/cables"): "changed figures of cables",
    ("POST", f"{VARIANT}/copy"): "copied a variant",
    ("POST", f"{VARIANT}/waivers"): "waived a finding",
    ("POST", f"{VARIANT}/plans"): "added a plan of a day",
    ("PUT", f"{VARIANT}/plans/{{plan_id}}"): "changed a plan of a day",
    ("POST", f"{VARIANT}/plans/{{plan_id}}/undo"): "undid a change of a plan",
    ("POST", f"{VARIANT}/plans/{{plan_id}}/redo"): "redid a change of a plan",
    ("POST", f"{VARIANT}/plans/{{plan_id}}/back"): "brought a plan of a day back",
    ("POST", f"{VARIANT}/build/entries"): "entered work",
    ("POST", f"{VARIANT}/build/cut"): "cut cables from a reel",
    ("POST", f"{VARIANT}/build/prices"): "changed prices",
    ("POST", f"{VARIANT}/prove/entries"): "entered readings",
    ("POST", f"{VARIANT}/log/entries"): "entered into the log",
    ("POST", f"{VARIANT}/records"): "brought records in",
    ("PUT", f"{VARIANT}/records/{{record_id}}"): "read a file of records",
    ("POST", f"{VARIANT}/handover/entries"): "entered practice",
    ("PUT", "/api/stock"): "changed the stock",
    ("PUT", "/api/meters"): "changed the meters",
    ("PUT", "/api/workshop"): "changed the workshop's formats",
}
EXPORTS: dict[Endpoint, str] = {
    ("GET", f"{JOB}/export"): "exported a job",
    ("POST", f"{VARIANT}/archive"): "exported a job with its PDFs",
    ("POST", f"{VARIANT}/build/pack"): "asked for the build pack",
    ("POST", f"{VARIANT}/prove/record"): "asked for the proving record",
    ("POST", f"{VARIANT}/handover/pack"): "asked for the handover pack",
    ("POST", f"{VARIANT}/handover/sheet"): "asked for the owner's sheet",
    ("GET", f"{VARIANT}/build/labels.csv"): "exported labels",
    ("GET", f"{VARIANT}/build/parts.csv"): "exported the parts list",
    ("GET", f"{VARIANT}/build/parts.xlsx"): "exported the parts list",
    ("GET", f"{VARIANT}/log/readings.csv"): "exported readings",
    ("GET", f"{VARIANT}/prove/readings.csv"): "exported readings",
    ("GET", f"{VARIANT}/runs.csv"): "exported cables",
    ("GET", "/api/records/{record_id}/rows.csv"): "exported records",
    ("POST", f"{VARIANT}/owner-links"): "made a link for an owner",
    ("POST", "/api/service/calendar"): "made a calendar address",
}
DELETIONS: dict[Endpoint, str] = {
    ("DELETE", JOB): "put a job into the bin",
    ("DELETE", "/api/photos/{photo_id}"): "deleted a photograph",
    ("DELETE", f"{VARIANT}/plans/{{plan_id}}"): "deleted a plan of a day",
    ("DELETE", "/api/records/{record_id}"): "deleted records",
    ("DELETE", f"{VARIANT}/waivers/{{waiver_id}}"): "withdrew a waiver",
    ("DELETE", "/api/owner-links/{link_id}"): "revoked a link for an owner",
    ("DELETE", "/api/service/calendar"): "ended the calendar address",
}
PEOPLE: dict[Endpoint, str] = {
    ("POST", "/api/session"): "signed in",
    ("POST", "/api/session/demo"): "entered the demo workshop",
    ("POST", "/api/session/join"): "followed an invitation",
    ("DELETE", "/api/session"): "signed out",
    ("POST", "/api/account/password"): "changed their password",
    ("POST", "/api/account/second-factor/confirm"): "set a second factor up",
    ("POST", "/api/account/second-factor/off"): "turned their second factor off",
    ("DELETE", "/api/account/sittings/{number}"): "ended a session",
    ("POST", "/api/people/invitations"): "invited somebody",
    ("DELETE", "/api/people/invitations/{invitation_id}"): "withdrew an invitation",
    ("PATCH", "/api/people/{person_id}"): "changed somebody's role",
    ("POST", "/api/people/{person_id}/new-password"): "made a link for a new password",
    ("DELETE", "/api/people/{person_id}/second-factor"): "took a second factor away",
}
# What answers with the name of somebody whom the address does not tell.
NAME_SOMEBODY = frozenset({PEOPLE["POST", "/api/people/invitations"]})
WORDS = BOATS | CHANGES | EXPORTS | DELETIONS | PEOPLE

# What computes and keeps nothing that anybody entered, or has no person of the workshop behind it.
NOT_TOLD: frozenset[Endpoint] = frozenset(
    {
        ("POST", "/api/gauge-reading"),
        ("POST", f"{JOB}/comparison"),
        ("POST", f"{JOB}/rows/{{which}}"),
        ("POST", "/api/records/{record_id}/cancel"),
        ("POST", "/api/studies/{study_id}/cancel"),
        ("POST", f"{VARIANT}/bench"),
        ("POST", f"{VARIANT}/positions"),
        ("POST", f"{VARIANT}/netlist"),
        ("POST", f"{VARIANT}/repairs"),
        ("POST", f"{VARIANT}/runs.csv"),
        ("POST", f"{VARIANT}/runs/choice"),
        ("POST", f"{VARIANT}/runs/what-if"),
        ("POST", f"{VARIANT}/build/parts.csv"),
        ("POST", f"{VARIANT}/plans/{{plan_id}}/day"),
        ("POST", f"{VARIANT}/plans/{{plan_id}}/sweep"),
        ("POST", f"{VARIANT}/prove/meter"),
        ("POST", f"{VARIANT}/drill"),
        ("POST", f"{VARIANT}/drill/play"),
        ("POST", f"{VARIANT}/records/{{record_id}}/analysis"),
        ("POST", "/api/account/second-factor"),
        ("POST", "/api/session/invitation"),
        ("POST", "/api/owner/drill"),
        ("POST", "/api/owner/play"),
        ("POST", "/api/owner/readings"),
        ("POST", "/api/owner/results"),
    }
)
