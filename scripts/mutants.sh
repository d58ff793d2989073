# Mutation run over a sample of the engine: small mistakes planted one at a time, and how many of
# them the engine's tests notice. Takes an hour or two; not part of the checks.
ready_system test
ready_python
[ -x "$VENV/bin/mutmut" ] || "$VENV/bin/pip" install -q "mutmut==3.8.1"
COUNT=${1:-300}
SEED=${2:-1}
AT=$STATE/mutants
rm -rf "$AT"
mkdir -p "$AT/tests" "$AT/server/apps/jobs" "$AT/docs"
cp -r engine/strom_engine bench calc "$AT/"
cp tests/__init__.py "$AT/tests/"
cp -r tests/engine "$AT/tests/"
cp -r server/apps/jobs/demo_data "$AT/server/apps/jobs/"
cp docs/job.schema.json "$AT/docs/"
cat >"$AT/setup.cfg" <<'CFG'
[mutmut]
source_paths=strom_engine
also_copy=
    bench
    calc
    server
    docs
pytest_add_cli_args_test_selection=
    tests/engine
pytest_add_cli_args=
    -p
    no:cacheprovider
    --hypothesis-seed=1
    --hypothesis-profile=ci
    --ignore=tests/engine/test_examples.py
track_dependencies=false
use_git_change_detection=false
CFG
printf '[pytest]\npythonpath = . calc\nfilterwarnings = error\n' >"$AT/pytest.ini"
cd "$AT"
# The first run plants every mistake, finds which test runs which function, and tries one small
# module; the second tries the sample.
"$VENV/bin/mutmut" run "strom_engine.versions*" >"$STATE/mutants.log" 2>&1 ||
  die "mutants: see $STATE/mutants.log"
"$PY" - "$COUNT" "$SEED" >sample <<'PY'
import json, pathlib, random, sys
count, seed = int(sys.argv[1]), int(sys.argv[2])
found = []
for meta in sorted(pathlib.Path("mutants").rglob("*.meta")):
    found += json.loads(meta.read_text())["exit_code_by_key"]
print("\n".join(sorted(random.Random(seed).sample(sorted(found), count))))
PY
# shellcheck disable=SC2046
"$VENV/bin/mutmut" run $(cat sample) >>"$STATE/mutants.log" 2>&1 || true
"$PY" - <<'PY'
import json, pathlib
codes = {}
for meta in pathlib.Path("mutants").rglob("*.meta"):
    codes |= json.loads(meta.read_text())["exit_code_by_key"]
tried = {name: codes.get(name) for name in pathlib.Path("sample").read_text().split()}
# 0: every test passed; 33: no test runs the function; None: not tried.
survived = sorted(name for name, code in tried.items() if code in (0, 5, 33))
killed = sum(code not in (0, 5, 33, None) for code in tried.values())
for name in survived:
    print(name)
done = killed + len(survived)
print(f"{killed} of {done} noticed ({killed / max(done, 1):.0%}), {len(tried) - done} not tried")
PY
