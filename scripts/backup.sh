# Back up or restore: the installation of STROM_DATABASE_URL, or the demo of this checkout.
ready_system
ready_python
if [ -z "${STROM_DATABASE_URL:-}" ]; then
  trap 'stop_pg' EXIT
  trap 'stop_pg; exit 130' INT TERM
  reach_pg pg
  export STROM_DATABASE_URL="$PG_URL"
fi
STROM_SECRET_KEY=${STROM_SECRET_KEY:-not-used} "$PY" server/manage.py "$command" "$@"
