# Format, lint, types, import contracts, API snapshot, deployment settings.
ready_python
ready_modules
failed=0
run() { printf 'strom: %s\n' "$1"; shift; "$@" || failed=1; }
api_snapshot() {
  STROM_SECRET_KEY=check "$PY" server/manage.py openapi | diff -u docs/api/openapi.json - ||
    { echo "the API changed: ./strom fix writes its snapshot anew" >&2; return 1; }
}
api_types() {
  (cd frontend && npx openapi-typescript ../docs/api/openapi.json -o "$STATE/generated.ts" >/dev/null) &&
    diff -q frontend/src/api/generated.ts "$STATE/generated.ts"
}
job_schema() { "$PY" -m strom_calc schema | diff -u docs/job.schema.json -; }
part_kinds() { "$PY" -m strom_calc kinds | diff -u frontend/src/parts/kinds.json -; }
reading_ease() { "$PY" -m strom_calc sheet server/apps/jobs/demo_data/pilot_3.json --ease; }
deployment() {
  STROM_SECRET_KEY="$("$PY" -c 'import secrets; print(secrets.token_urlsafe(60))')" STROM_ALLOWED_HOSTS=example.org \
    "$PY" server/manage.py check --deploy --fail-level WARNING
}
migrations() { STROM_SECRET_KEY=check "$PY" -W ignore::RuntimeWarning server/manage.py makemigrations --check --dry-run; }
# What looks at the front end runs beside the rest.
(
  run "front end format" sh -c 'cd frontend && npm run -s format'
  run "front end lint" sh -c 'cd frontend && npm run -s lint'
  run "front end types" sh -c 'cd frontend && npm run -s typecheck'
  exit "$failed"
) >"$STATE/check-frontend.log" 2>&1 &
FRONT=$!
run "format" "$VENV/bin/ruff" format --check -q .
run "lint" "$VENV/bin/ruff" check -q .
types() { STROM_SECRET_KEY=check "$VENV/bin/mypy" engine calc bench server; }
run "types" types
run "import contracts" "$VENV/bin/lint-imports" --no-cache
run "migrations" migrations
run "API snapshot" api_snapshot
run "API types" api_types
run "job schema" job_schema
run "part kinds" part_kinds
run "reading ease of the owner's sheet" reading_ease
run "deployment settings" deployment
wait "$FRONT" || failed=1
cat "$STATE/check-frontend.log"
[ "$failed" -eq 0 ] || die "check failed"
say "all checks pass"
