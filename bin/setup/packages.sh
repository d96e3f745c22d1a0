# Installs what is missing: Debian packages and npm packages by the lockfile. Sourced by bin/start and bin/test.

say() { printf '%s\n' "$*"; }
fail() { printf 'Cannot go on: %s\n' "$*" >&2; exit 1; }

need_node() {
  command -v node >/dev/null || fail "Node.js 20 or newer is needed."
  [ "$(node -p 'process.versions.node.split(".")[0]')" -ge 20 ] || fail "Node.js 20 or newer is needed, this is $(node --version)."
}

# install_debian PACKAGE...
install_debian() {
  local as_root=""
  if [ "$(id -u)" != 0 ]; then
    command -v sudo >/dev/null || fail "please have an administrator run: apt-get install $*"
    as_root="sudo"
  fi
  say "Installing from Debian: $*"
  $as_root apt-get update -qq >/dev/null 2>&1 || true
  DEBIAN_FRONTEND=noninteractive $as_root apt-get install -y -qq --no-install-recommends "$@" >/dev/null || fail "apt-get could not install: $*"
}

postgres_bin() {
  ls -d /usr/lib/postgresql/*/bin 2>/dev/null | sort -V | tail -n 1
}

need_postgres() {
  if [ -z "$(postgres_bin)" ]; then
    # Only the programs are wanted, not a cluster of Debian's own.
    [ "$(id -u)" = 0 ] && mkdir -p /etc/postgresql-common && [ ! -e /etc/postgresql-common/createcluster.conf ] &&
      echo "create_main_cluster = false" > /etc/postgresql-common/createcluster.conf
    install_debian postgresql
  fi
}

# Tests read files that the product wrote with another program than its own.
need_python() {
  command -v python3 >/dev/null || install_debian python3
  /usr/bin/python3 -c "import icalendar" 2>/dev/null || install_debian python3-icalendar
}

# The demo's repositories are made by it, and tests ask it what it takes.
need_git() {
  command -v git >/dev/null || install_debian git
}

need_xmllint() {
  command -v xmllint >/dev/null || install_debian libxml2-utils
}

need_chromium() {
  command -v chromium-headless-shell >/dev/null || install_debian chromium-headless-shell
}

# npm packages in the versions of the lockfile, again only when it changed. Not `npm ci`: a lockfile made where only this
# platform's optional packages can be looked up does not name those of other platforms, and `npm ci` refuses that.
need_npm_packages() {
  local mark=node_modules/.installed-lockfile
  if [ ! -f "$mark" ] || ! cmp -s package-lock.json "$mark"; then
    say "Installing npm packages"
    npm install --no-save --include=dev --no-audit --no-fund --loglevel=error || fail "npm could not install the packages."
    cp package-lock.json "$mark"
  fi
}

# built_from FOLDER HASH: whether what is in a folder was built from sources with this hash.
built_from() { [ -f "$1/built-from" ] && [ "$(cat "$1/built-from")" = "$2" ]; }

# hash_of PATH...: of all files, their names and contents.
hash_of() { find "$@" -type f -print0 | sort -z | xargs -0 sha256sum | sha256sum | cut -d' ' -f1; }

# build_app DIST: builds the pages into a folder, again only when a source changed.
build_app() {
  local dist="$1" now
  now="$(hash_of src demo next.config.ts package-lock.json tsconfig.json postcss.config.mjs)"
  built_from "$dist" "$now" && return 0
  say "Building the application"
  mkdir -p .data
  NEXT_DIST_DIR="$dist" NEXT_TELEMETRY_DISABLED=1 NODE_ENV=production node node_modules/next/dist/bin/next build > .data/build.log 2>&1 || { tail -n 40 .data/build.log >&2; fail "the build failed."; }
  echo "$now" > "$dist/built-from"
}

# build_programs DIST: compiles the application process, the worker, the stand-ins and the programs of bin, as build_app.
build_programs() {
  local dist="$1" now
  now="$(hash_of src demo standins bin package-lock.json tsconfig.json)"
  built_from "$dist" "$now" && return 0
  node bin/build.mjs "$dist" || fail "the programs could not be compiled."
  echo "$now" > "$dist/built-from"
}

# First free port at or above the one given.
free_port() {
  node -e 'const net=require("net");const go=p=>{const s=net.createServer();s.once("error",()=>go(p+1));s.listen(p,"127.0.0.1",()=>s.close(()=>console.log(p)))};go(Number(process.argv[1]))' "$1"
}
