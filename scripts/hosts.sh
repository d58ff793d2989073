# Two web hosts and two worker hosts on one database, each in a network of its own; one of each is lost.
[ "$(id -u)" -eq 0 ] || die "networks of their own need root: sudo ./strom hosts"
ready_system test
command -v ip >/dev/null 2>&1 || need iproute2
ready_python
ready_frontend
ready_static
trap 'stop_pg' EXIT
trap 'stop_pg; exit 130' INT TERM
start_pg pgtest "-c fsync=off"
export STROM_SECRET_KEY=hosts STROM_DATABASE_URL="$PG_URL" STROM_HTTPS=0 STROM_DEMO=1
"$PY" -m tests.hosts.run
