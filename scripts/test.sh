# shellcheck shell=bash
# test, bench and mutants: all checks, on a cluster of their own where one is needed.
RESULT=0

check() { # check NAME COMMAND... : quiet when it passes
  local name="$1" began=$SECONDS; shift
  if "$@" >"$SETUP/check-$name.log" 2>&1; then say "ok    $name ($((SECONDS - began)) s)"
  else say "FAIL  $name"; tail -60 "$SETUP/check-$name.log" >&2; RESULT=1; fi
}

test_cluster() {
  export VELVET_VAR="$ROOT/var/test" VELVET_PG_PORT=54339 VELVET_PG_DURABLE=0
  mkdir -p "$VELVET_VAR"
  exec 8>"$SETUP/test.lock" # one run at a time: the first to end would stop the database of the other
  flock -n 8 || { say "another test run is going on here; waiting for it"; flock 8; }
  "$ROOT/scripts/pg" start 8>&-
  trap '"$ROOT/scripts/pg" stop 8>&-' EXIT
  VELVET_TEST_DATABASE_URL="$("$ROOT/scripts/pg" url velvet_test)"; export VELVET_TEST_DATABASE_URL
}

python_there() {
  make_folders
  one_at_a_time
  need_packages "${PACKAGES[@]}" "${TEST_PACKAGES[@]}"
  need_python dev
}

web_there() {
  need_node
  need_web
  exec 9>&-
}

everything() { python_there; web_there; }

same_api() { # the OpenAPI document has to be current
  "$PY" -m velvet_hand.cli openapi "$SETUP/openapi.json" && cmp "$SETUP/openapi.json" openapi.json
}

same_types() { # and the types made from it
  (cd web && node_modules/.bin/openapi-typescript ../openapi.json -o "$SETUP/schema.d.ts" --default-non-nullable=false) &&
    cmp "$SETUP/schema.d.ts" web/src/api/schema.d.ts
}

of_python() {
  local bin="$ROOT/.venv/bin"
  check ruff "$bin/ruff" check .
  check ruff-format "$bin/ruff" format --check .
  check mypy "$bin/mypy"
  check imports "$bin/lint-imports" --no-cache
  check api same_api
}

BESIDE=()
going_on() { # how many of them have not ended
  local n=0 one
  for one in "${BESIDE[@]}"; do ! kill -0 "$one" 2>/dev/null || n=$((n + 1)); done
  echo "$n"
}
beside() { # beside COMMAND... : checks in a process of their own, two of them at a time
  while [ "$(going_on)" -ge 2 ]; do wait -n || true; done
  { "$@"; exit "$RESULT"; } 9>&- &
  BESIDE+=($!)
}

run_tests() {
  python_there
  if [ $# = 0 ]; then
    beside of_python # needs no front end: goes on while that is set up
    web_there
    beside check eslint npm --prefix web run -s lint
    beside check vue-tsc npm --prefix web run -s typecheck
    beside check vitest npm --prefix web run -s test
    beside check prettier npm --prefix web run -s format:check
    beside check api-types same_types
    local one
    for one in "${BESIDE[@]}"; do wait "$one" || RESULT=1; done
  else
    web_there
  fi
  test_cluster
  "$PY" -m pytest -q -n "${VELVET_JOBS:-3}" --dist loadscope --no-loadscope-reorder "$@" || RESULT=1
  [ "$RESULT" = 0 ] && say "everything passed" || say "something failed, see above"
  return "$RESULT"
}

run_bench() {
  everything
  test_cluster
  "$PY" -m bench "$@"
}

run_mutants() { # the core's own tests only: no database, no browser
  everything
  "$PY" -m tests.mutants "$@"
}
