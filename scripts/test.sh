# Every test. Arguments go to pytest instead of the whole suite: ./strom test tests/engine -k relay
ready_system test
ready_python
trap 'stop_pg' EXIT
trap 'stop_pg; exit 130' INT TERM
start_pg pgtest "-c fsync=off -c synchronous_commit=off -c full_page_writes=off"
export STROM_SECRET_KEY=test STROM_DATABASE_URL="$PG_URL" STROM_HTTPS=0 STROM_DEMO=1 STROM_ALLOWED_HOSTS=127.0.0.1,localhost,testserver
if [ $# -gt 0 ]; then
  ready_frontend
  ready_static
  case $1 in
    tests/browser*) "$PY" -m pytest -c tests/browser/pytest.ini --rootdir . "$@" ;;
    *) "$PY" -m pytest "$@" ;;
  esac
  exit
fi
ready_modules
ready_frontend
ready_static
say "front end"
(cd frontend && npm test --silent)
say "engine and server"
"$PY" -m pytest -n auto tests/engine
"$PY" -m pytest -n auto tests/server
say "browser"
"$PY" -m pytest -c tests/browser/pytest.ini --rootdir . tests/browser
