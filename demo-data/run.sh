# The demo's own steps; sourced by ./demo after tools/common.sh.

# The mails that the office gets.
MAILS=$NACHLAUF_HOME/mails

# Documents of the demo hold places of this machine: they are filled in, never kept with the project.
fill_in() {
  sed -e "s|\${DEMO_FILES}|$TOP/demo-data/files|" -e "s|\${DEMO_OUTBOX}|$TOP/demo-data/outbox|" -e "s|\${PG_PORT}|$PG_PORT|" -e "s|\${SFTP_PORT}|$SFTP_PORT|" \
    -e "s|\${FTP_PORT}|$FTP_PORT|" -e "s|\${HOST_KEY}|$HOST_KEY|" -e "s|\${CERTIFICATE}|$CERTIFICATE|" \
    -e "s|\${MAIL_PORT}|$MAIL_PORT|" -e "s|\${MAIL_CERTIFICATE}|$MAIL_CERTIFICATE|" "$1"
}

# The partners' file drop by SFTP and FTP, and the office's mail server, on loopback; sets DROP_PID, ports and fingerprints.
start_drop() {
  local facts="$NACHLAUF_HOME/drop"
  rm -rf "$facts" "$MAILS"
  NACHLAUF_SECRET_DROP=$(secret drop)
  export NACHLAUF_SECRET_DROP
  "$JAVA_HOME/bin/java" -Xmx128m -cp "$TOP/standins/target/lib/*" dev.nachlauf.standins.DemoSystems \
    "$TOP/demo-data/files/drop" guides "$MAILS" "$facts" >"$NACHLAUF_HOME/drop.log" 2>&1 &
  DROP_PID=$!
  local waited=0
  until [ -f "$facts" ]; do
    kill -0 "$DROP_PID" 2>/dev/null || fail "The file drop did not start; $NACHLAUF_HOME/drop.log says why."
    waited=$((waited + 1))
    [ "$waited" -lt 300 ] || fail "The file drop did not get ready in a minute; see $NACHLAUF_HOME/drop.log."
    sleep 0.2
  done
  . "$facts"
}

stop_drop() {
  if [ -n "${DROP_PID:-}" ]; then
    kill "$DROP_PID" 2>/dev/null || true
    wait "$DROP_PID" 2>/dev/null || true
    DROP_PID=
  fi
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
  {
    "$TOP/nachlauf" connection save "$folder"/*.yaml
    "$TOP/nachlauf" crosswalk save "$TOP"/demo-data/crosswalks/*.yaml
    "$TOP/nachlauf" pieces save "$TOP"/demo-data/pieces/*.yaml
    "$TOP/nachlauf" job save "$TOP"/demo-data/jobs/*.yaml
  } >"$NACHLAUF_HOME/demo-saved.log"
  rm -rf "$folder"
  say "Saved $(wc -l <"$NACHLAUF_HOME/demo-saved.log") documents: connections, crosswalks, pieces and jobs."
}

# A section opens with what it shows and why that matters.
section() {
  say ""
  say "$1"
}

# The lines that matter here; none of them is no failure.
only() {
  grep -E "$1" || true
}

# try COMMAND WHY: what to do next.
try() {
  say "$(printf '  %-48s %s' "$1" "$2")"
}

# A run that ends with rejects ends with status 3: that is what the demo wants to show.
told() {
  local status=0
  "$TOP/nachlauf" "$@" --follow || status=$?
  [ "$status" -eq 0 ] || [ "$status" -eq 3 ] || fail "The demo's run failed (status $status)."
}

load() {
  told run start "$@"
}

# The newest mail that the office has got, without its head.
newest_mail() {
  local mail
  mail=$(find "$MAILS" -name '*.eml' -printf '%T@ %p\n' | sort -n | tail -n 1 | cut -d ' ' -f 2)
  tr -d '\r' <"$mail" | sed '1,/^$/d'
}

# A run that a limit holds ends with status 1, and waits for a decision.
held() {
  local status=0
  "$TOP/nachlauf" run start "$@" --follow || status=$?
  [ "$status" -eq 1 ] || fail "The demo's run was to be held (status $status)."
}

count() {
  sql register -At -c "SELECT count(*) FROM $1"
}

# What was planned against the register that was there before is of no use any more.
discard_held() {
  local run
  for run in $("$TOP/nachlauf" --output json run list --limit 200 | sed -nE 's/^\{"id":([0-9]+),.*"state":"held".*/\1/p'); do
    "$TOP/nachlauf" run discard "$run" >&2
  done
}

last_run() {
  "$TOP/nachlauf" --output json run list --limit 1 | sed -E 's/^\{"id":([0-9]+).*/\1/'
}
