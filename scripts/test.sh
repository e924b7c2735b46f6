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

everything() {
  make_folders
  one_at_a_time
  need_packages "${PACKAGES[@]}" "${TEST_PACKAGES[@]}"
  need_python dev
  need_node
  need_web
  exec 9>&-
}

same_as_committed() { # the OpenAPI document and the types made from it have to be current
  "$PY" -m velvet_hand.cli openapi "$SETUP/openapi.json" && cmp "$SETUP/openapi.json" openapi.json &&
    (cd web && node_modules/.bin/openapi-typescript ../openapi.json -o "$SETUP/schema.d.ts" --default-non-nullable=false) &&
    cmp "$SETUP/schema.d.ts" web/src/api/schema.d.ts
}

types_and_lint() { # of the front end, half of all the checks; ends with 1 when one of them fails
  check vue-tsc npm --prefix web run -s typecheck
  check eslint npm --prefix web run -s lint
  return "$RESULT"
}

run_tests() {
  everything
  local bin="$ROOT/.venv/bin"
  if [ $# = 0 ]; then
    types_and_lint & # beside the others: each of them uses one processor
    local beside=$!
    check ruff "$bin/ruff" check .
    check ruff-format "$bin/ruff" format --check .
    check mypy "$bin/mypy"
    check imports "$bin/lint-imports" --no-cache
    check contract same_as_committed
    check prettier npm --prefix web run -s format:check
    check vitest npm --prefix web run -s test
    wait "$beside" || RESULT=1
  fi
  test_cluster
  "$bin/python" -m pytest -q -n "${VELVET_JOBS:-3}" --dist loadscope --no-loadscope-reorder "$@" || RESULT=1
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
