# Format, and write what is generated anew.
ready_python
ready_modules
"$VENV/bin/ruff" check --fix -q . || true
"$VENV/bin/ruff" format -q .
STROM_SECRET_KEY=fix "$PY" server/manage.py openapi >docs/api/openapi.json
"$PY" -m strom_calc schema >docs/job.schema.json
"$PY" -m strom_calc kinds >frontend/src/parts/kinds.json
(cd frontend && npm run -s types >/dev/null && npx prettier --log-level warn --write src)
