# A PostgreSQL cluster of our own, on loopback only. Sourced by bin/start and bin/test.
# As root the server runs as the user that Debian's package made, because PostgreSQL refuses to run as root.

as_postgres() {
  if [ "$(id -u)" = 0 ]; then runuser -u postgres -- "$@"; else "$@"; fi
}

# cluster_home NAME: where a cluster's files are. Under .data, or, where root's checkout is closed to the
# postgres user, under /var/lib/zigzag-lane.
cluster_home() {
  local home="$PWD/.data/$1"
  if [ "$(id -u)" = 0 ] && ! runuser -u postgres -- test -x "$PWD"; then
    home="/var/lib/zigzag-lane/$(printf '%s' "$PWD" | sha256sum | cut -c1-12)/$1"
  fi
  printf '%s' "$home"
}

# forget_dead_server HOME: after a crash the file that names the server may point at nothing, or at a process that has
# ended but was not yet taken off the process table; PostgreSQL would refuse to start because of it.
forget_dead_server() {
  local file="$1/data/postmaster.pid" pid
  pid="$(head -n 1 "$file" 2>/dev/null)" || return 0
  [ -n "$pid" ] || return 0
  if [ ! -d "/proc/$pid" ] || grep -q '^State:[[:space:]]*Z' "/proc/$pid/status" 2>/dev/null; then rm -f "$file"; fi
}

# wished_port HOME PORT: where the server of a cluster stood last, or PORT.
wished_port() { local last; last="$(cat "$1/port" 2>/dev/null || true)"; printf '%s' "${last:-$2}"; }

# start_cluster HOME PORT [EXTRA_OPTIONS]: makes the cluster at its first start. Where the port is taken the next one is
# tried; cluster_port tells which it became.
start_cluster() {
  local home="$1" port="$2" extra="${3:-}" pg
  pg="$(postgres_bin)"
  mkdir -p "$home"
  [ "$(id -u)" = 0 ] && chown postgres "$home"
  if [ ! -f "$home/data/PG_VERSION" ]; then
    say "Making a database cluster"
    [ -f "$home/password" ] || { (umask 077; head -c 24 /dev/urandom | base64 | tr -d '/+=' > "$home/password"); [ "$(id -u)" = 0 ] && chown postgres "$home/password"; }
    as_postgres "$pg/initdb" -D "$home/data" -U zigzag --pwfile="$home/password" --auth=scram-sha-256 -E UTF8 --locale=C.UTF-8 > "$home/initdb.log" 2>&1 || { cat "$home/initdb.log" >&2; fail "initdb failed."; }
  fi
  forget_dead_server "$home"
  as_postgres "$pg/pg_ctl" -D "$home/data" status >/dev/null 2>&1 && return 0
  # Workers of a server that was killed need a moment to notice and let go of its memory. The lock that bin/start holds is
  # not for the server to keep.
  local attempt
  for attempt in $(seq 1 40); do
    rm -f "$home/server.log"
    if as_postgres "$pg/pg_ctl" -D "$home/data" -w -l "$home/server.log" -o "-p $port -c listen_addresses=127.0.0.1 -c unix_socket_directories='$home' $extra" start >/dev/null 2>&1 9>&-; then
      printf '%s' "$port" > "$home/port"
      return 0
    fi
    if grep -q "Address already in use\|could not create any TCP/IP sockets" "$home/server.log" 2>/dev/null; then port=$((port + 1)); else sleep 0.5; fi
    [ "$attempt" -ge 12 ] && ! grep -q "Address already in use" "$home/server.log" 2>/dev/null && break
    forget_dead_server "$home"
  done
  tail -n 20 "$home/server.log" >&2
  fail "PostgreSQL did not start."
}

stop_cluster() {
  as_postgres "$(postgres_bin)/pg_ctl" -D "$1/data" -m fast -w stop >/dev/null 2>&1 || true
}

# The port that a running cluster listens on.
cluster_port() { sed -n 4p "$1/data/postmaster.pid" 2>/dev/null || true; }

# cluster_url HOME PORT DATABASE
cluster_url() { printf 'postgres://zigzag:%s@127.0.0.1:%s/%s' "$(cat "$1/password")" "$2" "$3"; }
