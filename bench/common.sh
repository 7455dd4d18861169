# What the measurements share; sourced after tools/common.sh.

B="$TOP/bench"
TAKEN="$NACHLAUF_HOME/taken.tsv"
export NACHLAUF_FOLDERS="$NACHLAUF_HOME-data"

# Cluster, register and the loader's secret.
begin_bench() {
  trap 'stop_service; stop_cluster' EXIT
  build_if_needed
  mkdir -p "$NACHLAUF_HOME-data"
  start_cluster
  ensure_database register register_loader
  NACHLAUF_SECRET_REGISTER=$(secret register_loader)
  export NACHLAUF_SECRET_REGISTER PGOPTIONS="-c client_min_messages=error"
}

loader() {
  PGPASSWORD="$NACHLAUF_SECRET_REGISTER" "$PG_BIN/psql" -X -q -v ON_ERROR_STOP=1 -h 127.0.0.1 -p "$PG_PORT" -U register_loader "$@"
}

# A fresh register from a template.
fresh() {
  sql postgres -c 'DROP DATABASE IF EXISTS register WITH (FORCE)' -c "CREATE DATABASE register OWNER register_loader TEMPLATE $1" -c CHECKPOINT
}

# The service, with its usual heap unless NACHLAUF_HEAP says another, and the connections that the jobs of the measurements name; files lie
# in the folder that is given.
start_product() {
  start_service
  export NACHLAUF_SERVER="$ADDRESS"
  local connections
  connections=$(mktemp -d)
  # without the marks of the demo's tables: these are others
  sed "s|\${PG_PORT}|$PG_PORT|; /^marks:/,\$d" "$TOP/demo-data/connections/register.yaml" >"$connections/register.yaml"
  sed "s|\${DEMO_FILES}|$1|; s|wardens-inbox|tills|" "$TOP/demo-data/connections/wardens-inbox.yaml" >"$connections/tills.yaml"
  "$TOP/nachlauf" connection save "$connections"/*.yaml
  rm -rf "$connections"
}

# A command of the client that may end with rejects; what it prints is kept.
nachlauf() {
  local status=0
  "$TOP/nachlauf" --output json "$@" >"$NACHLAUF_HOME/last-run.json" || status=$?
  [ "$status" -eq 0 ] || [ "$status" -eq 3 ] || fail "nachlauf $* failed; see $NACHLAUF_HOME/service.log."
}

last_id() { sed -E 's/^\{"id":([0-9]+).*/\1/' "$NACHLAUF_HOME/last-run.json"; }

# The machine's processor time so far, in hundredths of a second: used here, and wanted here while the host gave it to others.
processor_time() { awk '/^cpu / { print $2 + $3 + $4, $9 }' /proc/stat; }

# Seconds that a command takes; $NACHLAUF_HOME/taken holds how much of the wanted processor time the host gave to others, in per cent.
seconds() {
  local start end before
  before=$(processor_time)
  start=$(date +%s.%N)
  "$@" >&2 || fail "$* failed, so its time says nothing."
  end=$(date +%s.%N)
  echo "$before $(processor_time)" | awk '{ used = $3 - $1; taken = $4 - $2; printf "%d\n", 100 * taken / (used + taken + 1) }' >"$NACHLAUF_HOME/taken"
  echo "$start $end" | awk '{ printf "%.2f", $2 - $1 }'
}

# quiet_seconds BEFORE COMMAND…: sets TIME to the seconds that the command takes after BEFORE. A shared machine has hours in which its host
# gives most of it to others: a time of which more than a tenth was taken is measured anew, twice at most and in the measurement's first hour
# (PATIENCE, in seconds), and the quietest counts. What was taken of it, and how often it was measured, goes to $TAKEN.
quiet_seconds() {
  local before=$1 least=101 time taken try
  shift
  for try in 1 2 3; do
    $before >&2
    time=$(seconds "$@")
    taken=$(cat "$NACHLAUF_HOME/taken")
    if [ "$taken" -lt "$least" ]; then least=$taken TIME=$time; fi
    [ "$least" -gt 10 ] && [ "$SECONDS" -lt "${PATIENCE:-3600}" ] || break
  done
  printf '%s\t%s\n' "$least" "$try" >>"$TAKEN"
}

# Leaves behind what lets a service start quickly, unless an earlier one has: by one that loads 100,000 stays six times.
learn() {
  local data turn
  find_jdk
  warm_start
  [ -n "$LEARNING" ] || return 0
  data=$(stays_of 100000)
  start_product "$data"
  "$TOP/nachlauf" job save "$B/stays.yaml"
  for turn in 1 2 3 4 5 6; do
    [ $((turn % 2)) = 0 ] || fresh stays_empty
    nachlauf run start stays --follow --file "$data/stays.csv"
  done
  stop_service
}

# Stays of so many rows, and the same with a tenth of them changed; the answer is their folder.
stays_of() {
  local folder="$NACHLAUF_HOME-data/$1"
  mkdir -p "$folder"
  [ -s "$folder/stays.csv" ] || python3 "$B/generate_stays.py" --rows "$1" --seed 7 --bad 1 --out "$folder/stays.csv"
  [ -s "$folder/changed.csv" ] || python3 "$B/generate_stays.py" --seed 8 --bad 1 --change-from "$folder/stays.csv" --change-percent 10 --out "$folder/changed.csv"
  echo "$folder"
}

# Two templates of the register: stays_empty, and stays_loaded with a file loaded by the script.
make_templates() {
  sql postgres -c 'DROP DATABASE IF EXISTS stays_loaded' -c 'DROP DATABASE IF EXISTS stays_empty' -c 'DROP DATABASE IF EXISTS register WITH (FORCE)' \
    -c 'CREATE DATABASE stays_empty OWNER register_loader'
  loader -d stays_empty -f "$B/reference/schema.sql"
  fresh stays_empty
  script "$1"
  loader -d register -c 'DROP TABLE IF EXISTS staging, staging_typed, calendar' -c 'TRUNCATE stay_reject' -c 'VACUUM ANALYZE'
  sql postgres -c 'ALTER DATABASE register RENAME TO stays_loaded' -c 'CREATE DATABASE register OWNER register_loader TEMPLATE stays_empty'
}

script() {
  loader -d register -v B="$B" -v RPC=1.1 -f "$B/reference/expert_tuned.sql" <"$1"
}

# Puts a section that begins with "## NAME" into docs/performance.md, in the place of the one that is there.
put_section() {
  local page="$TOP/docs/performance.md"
  awk -v name="## $1" -v file="$2" '
    $0 == name { while ((getline line < file) > 0) print line; print ""; skipping = 1; put = 1; next }
    /^## / { skipping = 0 }
    !skipping { print }
    END { if (!put) { print ""; while ((getline line < file) > 0) print line } }' "$page" >"$NACHLAUF_HOME/page.md"
  cp "$NACHLAUF_HOME/page.md" "$page"
}
