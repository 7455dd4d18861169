# What the launch scripts share. Source it; it defines functions, and makes what they write ours alone.

umask 077
TOP=$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)
export NACHLAUF_HOME="${NACHLAUF_HOME:-$TOP/.nachlauf}"

say() { printf '%s\n' "$*" >&2; }

fail() {
  say "$*"
  exit 1
}

# The first JDK of 21 or newer: JAVA_HOME, then those beside each other in /usr/lib/jvm, newest first; sets JAVA_HOME and
# JDK_VERSION.
find_jdk() {
  local candidate version
  for candidate in ${JAVA_HOME:+"$JAVA_HOME"} $(ls -d /usr/lib/jvm/* 2>/dev/null | sort -rV); do
    [ -x "$candidate/bin/javac" ] || continue
    # a JDK says in a file what it is; asking it takes half a second, of every command
    version=$(sed -nE 's/^JAVA_VERSION="([0-9]+).*/\1/p' "$candidate/release" 2>/dev/null) || true
    [ -n "$version" ] || version=$("$candidate/bin/javac" -version 2>&1 | sed -nE 's/^javac ([0-9]+).*/\1/p')
    if [ "${version:-0}" -ge 21 ] 2>/dev/null; then
      export JAVA_HOME="$candidate"
      JDK_VERSION=$version
      return 0
    fi
  done
  fail "A JDK of version 21 or newer is needed: install one, or name its folder in JAVA_HOME."
}

# need_packages COMMAND PACKAGE [COMMAND PACKAGE …]: root installs what is missing, others are told the one line.
need_packages() {
  local missing=()
  while [ $# -gt 0 ]; do
    [ -n "$(eval "$1")" ] || missing+=("$2")
    shift 2
  done
  [ ${#missing[@]} -eq 0 ] && return 0
  if [ "$(id -u)" -ne 0 ]; then
    fail "Packages are missing. Please run: sudo apt-get update && sudo apt-get install -y ${missing[*]}"
  fi
  say "Installing ${missing[*]} …"
  # packages are for everybody on the machine
  (
    umask 022
    apt-get update -qq >&2
    DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends "${missing[@]}" >&2
  ) || fail "The packages ${missing[*]} could not be installed."
}

find_postgres() {
  ls -d /usr/lib/postgresql/*/bin 2>/dev/null | sort -rV | head -n 1
}


need_build_tools() {
  need_packages 'command -v mvn' maven 'command -v npm' npm
}

need_postgres() {
  need_packages find_postgres postgresql
  PG_BIN=$(find_postgres)
}

need_mariadb() {
  need_packages 'command -v mariadbd' mariadb-server-core 'command -v mariadb' mariadb-client-core
}

# The shell is Chromium without windows: a page costs it a third of the processor time.
need_chromium() {
  need_packages 'command -v chromium-headless-shell' chromium-headless-shell 'fc-list 2>/dev/null | grep -i dejavu' fonts-dejavu-core
}

# Builds service and client when a source is newer than the last build.
build_if_needed() {
  local stamp="$TOP/service/target/lib/.built"
  if [ -f "$stamp" ] && [ -z "$(find "$TOP" \( -name node_modules -o -name target -o -name .nachlauf -o -name .git -o -path "$TOP/acceptance" -o -path "$TOP/docs" \) -prune -o -type f -path '*/src/*' -newer "$stamp" -print -quit)" ]; then
    return 0
  fi
  need_build_tools
  find_jdk
  say "Building (some minutes the first time) …"
  open_home
  (cd "$TOP" && mvn -B -q -DskipTests -pl service,cli,standins -am package) >"$NACHLAUF_HOME/build.log" 2>&1 || {
    tail -n 40 "$NACHLAUF_HOME/build.log" >&2
    fail "The build failed; $NACHLAUF_HOME/build.log says more."
  }
  touch "$stamp"
}

port_is_free() { ! (exec 3<>"/dev/tcp/127.0.0.1/$1") 2>/dev/null; }

free_port() {
  local port=$1
  while ! port_is_free "$port"; do port=$((port + 1)); done
  echo "$port"
}

random_word() { od -An -N18 -tx1 /dev/urandom | tr -d ' \n'; }

# secret NAME: the secret of this name, made the first time, in a file that only we can read.
secret() {
  local file="$NACHLAUF_HOME/secrets/$1"
  if [ ! -s "$file" ]; then
    (umask 077 && mkdir -p "$NACHLAUF_HOME/secrets" && random_word >"$file")
  fi
  cat "$file"
}

# PostgreSQL refuses to run as root: then it runs as its own user.
as_database_user() {
  if [ "$(id -u)" -eq 0 ]; then
    (cd / && runuser -u postgres -- "$@")
  else
    "$@"
  fi
}

# The state folder: others don't see into it; where the database has a user of its own, that one gets through it.
open_home() {
  mkdir -p "$NACHLAUF_HOME"
  if [ "$(id -u)" -eq 0 ]; then chmod 711 "$NACHLAUF_HOME"; else chmod 700 "$NACHLAUF_HOME"; fi
}

# Where the cluster lives: under the state folder, or elsewhere when the database's user can't get there. Elsewhere is a
# folder of a name that nobody can foresee, and so prepare; the state folder remembers it.
cluster_folder() {
  local remembered="$NACHLAUF_HOME/cluster.folder"
  if [ -s "$remembered" ]; then
    cat "$remembered"
  elif [ "$(id -u)" -ne 0 ] || as_database_user test -x "$NACHLAUF_HOME"; then
    echo "$NACHLAUF_HOME/cluster"
  else
    mktemp -d /var/tmp/nachlauf-XXXXXXXXXX | tee "$remembered"
  fi
}

# create_cluster FOLDER: the administrator's password goes through a pipe to a file that only the database's user can read.
create_cluster() {
  mkdir -p "$1"
  if [ "$(id -u)" -eq 0 ]; then chown postgres "$1"; fi
  # shellcheck disable=SC2016 # expanded by the shell that is started
  secret admin | as_database_user bash -c '
    umask 077
    password=$(mktemp)
    trap "rm -f $password" EXIT
    cat >"$password"
    "$1/initdb" -D "$2" -U nachlauf_admin -A scram-sha-256 --pwfile="$password" -E UTF8 --locale=C.UTF-8' \
    initdb "$PG_BIN" "$1" >"$NACHLAUF_HOME/cluster-init.log" 2>&1 9>&- ||
    fail "The cluster could not be created; $NACHLAUF_HOME/cluster-init.log says why."
}

# Starts the private cluster on a free loopback port; sets PG_PORT. Safe to call twice, and by two at once.
start_cluster() {
  need_postgres
  open_home
  exec 9>"$NACHLAUF_HOME/cluster.lock"
  flock 9
  CLUSTER=$(cluster_folder)
  if ! as_database_user test -f "$CLUSTER/PG_VERSION"; then
    say "Creating a private PostgreSQL cluster …"
    create_cluster "$CLUSTER"
  fi
  if as_database_user "$PG_BIN/pg_ctl" -D "$CLUSTER" status >/dev/null 2>&1; then
    PG_PORT=$(sed -n 4p "$CLUSTER/postmaster.pid")
  else
    # connections name the port, so the cluster keeps the one it had
    PG_PORT=$(free_port "$(cat "$NACHLAUF_HOME/cluster.port" 2>/dev/null || echo 54320)")
    echo "$PG_PORT" >"$NACHLAUF_HOME/cluster.port"
    # we open the log: the database's user may not get there
    as_database_user "$PG_BIN/pg_ctl" -D "$CLUSTER" -w \
      -o "-c listen_addresses=127.0.0.1 -c port=$PG_PORT -c unix_socket_directories='' -c max_connections=60 -c shared_buffers=256MB -c max_wal_size=4GB" \
      start >>"$NACHLAUF_HOME/cluster.log" 2>&1 9>&- || fail "PostgreSQL did not start; $NACHLAUF_HOME/cluster.log says why."
    STARTED_CLUSTER=yes
  fi
  flock -u 9
}

stop_cluster() {
  if [ "${STARTED_CLUSTER:-}" = yes ]; then
    as_database_user "$PG_BIN/pg_ctl" -D "$CLUSTER" -m fast -w stop >/dev/null 2>&1 || true
    STARTED_CLUSTER=
  fi
}

# sql DATABASE [psql options]: as the cluster's administrator.
sql() {
  local database=$1
  shift
  PGPASSWORD=$(secret admin) "$PG_BIN/psql" -X -q -v ON_ERROR_STOP=1 -h 127.0.0.1 -p "$PG_PORT" -U nachlauf_admin -d "$database" "$@"
}

# ensure_database NAME OWNER: a role and a database of its own.
ensure_database() {
  local password
  password=$(secret "$2")
  sql postgres <<SQL
SELECT 'CREATE ROLE $2 LOGIN' WHERE NOT EXISTS (SELECT FROM pg_roles WHERE rolname = '$2') \gexec
ALTER ROLE $2 PASSWORD '$password';
SELECT 'CREATE DATABASE $1 OWNER $2' WHERE NOT EXISTS (SELECT FROM pg_database WHERE datname = '$1') \gexec
SQL
}

# Sets WARM to the options by which the service starts with what an earlier one learnt: its classes and, from Java 25 on, which of its
# code is worth compiling. The first one that ends leaves it behind, and takes longer to end; it is good for one build and one JDK.
warm_start() {
  local jdk cache
  WARM=() LEARNING=
  if [ -n "${NACHLAUF_NO_CACHE:-}" ]; then return 0; fi
  jdk=$({ cat "$JAVA_HOME/release" 2>/dev/null || true; } | cksum)
  cache="$NACHLAUF_HOME/service-${jdk%% *}.aot"
  if [ "$JDK_VERSION" -lt 25 ]; then
    WARM=(-XX:+AutoCreateSharedArchive "-XX:SharedArchiveFile=$NACHLAUF_HOME/service.jsa" -Xshare:auto)
  elif [ -s "$cache" ] && [ -z "$(find "$TOP/service/target/lib" -name '*.jar' -newer "$cache" -print -quit)" ]; then
    WARM=("-XX:AOTCache=$cache" "-Xlog:aot*=off")
  else
    rm -f "$NACHLAUF_HOME"/service*.aot* "$NACHLAUF_HOME/service.jsa"
    LEARNING=$cache
    WARM=("-XX:AOTCacheOutput=$cache.new" "-Xlog:aot*=off")
  fi
}

# Sets HEAP to the options of a heap of SIZE at most, in which a load takes little more memory than it needs: half of it is for what has
# just been made, with room to survive there until a batch is written. The rest is touched only by what a run keeps to its end. Left
# to itself, the collector fills all of SIZE with batches that were written long ago.
bounded_heap() {
  HEAP=(-XX:+UseParallelGC "-Xms$1" "-Xmx$1" -XX:NewRatio=1 -XX:SurvivorRatio=2 -XX:InitialTenuringThreshold=15 -XX:-UseAdaptiveSizePolicy)
}

# The options of the compiler. Left to itself, it takes methods into others until one compilation takes seconds, which a cold service on
# few cores spends while its first load waits; warm loads are about as quick with smaller ones.
COMPILER=(-XX:InlineSmallCode=500)

# Starts the service in the background and waits until it answers; sets SERVICE_PID and ADDRESS.
start_service() {
  find_jdk
  ensure_database nachlauf nachlauf
  local port
  port=$(free_port "${NACHLAUF_PORT:-8640}")
  ADDRESS="http://127.0.0.1:$port"
  warm_start
  bounded_heap "${NACHLAUF_HEAP:-320m}"
  (
    export NACHLAUF_PORT="$port" NACHLAUF_DB_URL="jdbc:postgresql://127.0.0.1:$PG_PORT/nachlauf" NACHLAUF_DB_USER=nachlauf
    NACHLAUF_DB_PASSWORD=$(secret nachlauf)
    export NACHLAUF_DB_PASSWORD
    exec "$JAVA_HOME/bin/java" "${WARM[@]}" "${HEAP[@]}" "${COMPILER[@]}" -Xlog:cds=off -Xlog:cds+dynamic=off -XX:+ExitOnOutOfMemoryError -Dspring.aot.enabled=true ${NACHLAUF_JAVA_OPTIONS:-} --enable-native-access=ALL-UNNAMED \
      -cp "$TOP/service/target/lib/*" dev.nachlauf.service.NachlaufService \
      >"$NACHLAUF_HOME/service.log" 2>&1
  ) &
  SERVICE_PID=$!
  local waited=0
  until [ "$(service_health "$port")" = up ]; do
    kill -0 "$SERVICE_PID" 2>/dev/null || { tail -n 5 "$NACHLAUF_HOME/service.log" >&2; fail "The service did not start; $NACHLAUF_HOME/service.log says why."; }
    waited=$((waited + 1))
    [ "$waited" -lt 600 ] || fail "The service did not get ready in two minutes; see $NACHLAUF_HOME/service.log."
    sleep 0.2
  done
  echo "$ADDRESS" >"$NACHLAUF_HOME/address"
}

# Says where the console is, with a link that opens it once.
say_console() {
  say "The console is up: $(NACHLAUF_SERVER="$ADDRESS" "$TOP/nachlauf" token link)"
  say "The link is good once, for ten minutes; ./nachlauf token link makes another. Stop with Ctrl-C."
}

service_health() {
  {
    exec 3<>"/dev/tcp/127.0.0.1/$1" || return 0
    printf 'GET /actuator/health HTTP/1.0\r\nHost: 127.0.0.1\r\n\r\n' >&3
    if head -n 1 <&3 | grep -q ' 200'; then echo up; fi
    exec 3>&-
  } 2>/dev/null
}

# Stays until stopped; a service that ends by itself, as it does when it runs out of memory, is started again.
keep_service_up() {
  local ended
  while true; do
    ended=0
    wait "$SERVICE_PID" || ended=$?
    say "The service ended with status $ended and is started again; $NACHLAUF_HOME/service.log says why."
    mv -f "$NACHLAUF_HOME/service.log" "$NACHLAUF_HOME/service-ended.log"
    sleep 1
    NACHLAUF_PORT="${ADDRESS##*:}" start_service
  done
}

stop_service() {
  if [ -n "${SERVICE_PID:-}" ]; then
    [ -z "${LEARNING:-}" ] || say "The service ends, and leaves behind what lets the next one start quickly (half a minute, this once) …"
    kill "$SERVICE_PID" 2>/dev/null || true
    # it ends by our signal, which is no failure
    wait "$SERVICE_PID" 2>/dev/null || true
    # one that was broken off in the middle of it leaves nothing that is used
    if [ -n "${LEARNING:-}" ] && [ -s "$LEARNING.new" ]; then mv "$LEARNING.new" "$LEARNING"; fi
    SERVICE_PID= LEARNING=
    rm -f "$NACHLAUF_HOME/address"
  fi
}
