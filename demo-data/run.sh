# The demo's own steps; sourced by ./demo after tools/common.sh.

# Documents of the demo hold places of this machine: they are filled in, never kept with the project.
fill_in() {
  sed -e "s|\${DEMO_FILES}|$TOP/demo-data/files|" -e "s|\${PG_PORT}|$PG_PORT|" "$1"
}

create_register() {
  ensure_database register register_loader
  PGPASSWORD=$(secret register_loader) "$PG_BIN/psql" -X -q -v ON_ERROR_STOP=1 -h 127.0.0.1 -p "$PG_PORT" -U register_loader -d register \
    -c 'SET client_min_messages = warning' -f "$TOP/demo-data/register.sql"
}

save_demo() {
  local folder
  folder=$(mktemp -d)
  for document in "$TOP"/demo-data/connections/*.yaml; do
    fill_in "$document" >"$folder/$(basename "$document")"
  done
  "$TOP/nachlauf" connection save "$folder"/*.yaml
  rm -rf "$folder"
  "$TOP/nachlauf" job save "$TOP"/demo-data/jobs/*.yaml
}

# A run that ends with rejects ends with status 3: that is what the demo wants to show.
load() {
  local status=0
  "$TOP/nachlauf" run start hut-list --follow "$@" || status=$?
  [ "$status" -eq 0 ] || [ "$status" -eq 3 ] || fail "The demo's run failed (status $status)."
}

count_huts() {
  sql register -At -c 'SELECT count(*) FROM hut'
}

last_run() {
  "$TOP/nachlauf" --output json run list --limit 1 | sed -E 's/^\{"id":([0-9]+).*/\1/'
}
