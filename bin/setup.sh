# Sourced by the commands beside it: sees to it that what they need is installed. Everything it
# prints goes to standard error, so that a command's own output stays clean.

set -euo pipefail
ROOT="$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd -P)"
cd "$ROOT"

say() { printf '%s\n' "$*" >&2; }

need_node() {
  local version
  version="$(node -p 'process.versions.node' 2>/dev/null || true)"
  case "$version" in
    20.19.* | 20.[2-9]?.* | 2[2-9].* | [3-9]?.*) ;;
    *)
      say "Node.js 20.19 or newer is needed, found ${version:-none}."
      exit 1
      ;;
  esac
}

# Which of the wanted Debian packages are missing. Told by what they install, not by the package
# database, so that the same programs from elsewhere do as well.
missing_packages() {
  local wanted
  for wanted in "$@"; do
    case "$wanted" in
      postgresql-15) compgen -G '/usr/lib/postgresql/*/bin/initdb' >/dev/null || echo "$wanted" ;;
      chromium) [ -x /usr/bin/chromium ] || echo "$wanted" ;;
      pgbackrest) [ -x /usr/bin/pgbackrest ] || echo "$wanted" ;;
      pgbouncer) [ -x /usr/sbin/pgbouncer ] || echo "$wanted" ;;
      chromium-driver) [ -x /usr/bin/chromedriver ] || echo "$wanted" ;;
    esac
  done
}

# Installs the missing ones of these packages: as root, with sudo, or not at all but with the
# command to run.
need_packages() {
  local missing as_root
  mapfile -t missing < <(missing_packages "$@")
  [ "${#missing[@]}" -gt 0 ] || return 0
  if [ "$(id -u)" -eq 0 ]; then
    as_root=(env)
  elif sudo -n true 2>/dev/null || { [ -t 0 ] && command -v sudo >/dev/null; }; then
    as_root=(sudo)
  else
    say "These Debian packages are missing: ${missing[*]}. Run this as root, then try again:"
    say "  apt-get update && apt-get install -y --no-install-recommends ${missing[*]}"
    exit 1
  fi
  say "Installing ${missing[*]} …"
  # Without this, Debian would start a database cluster of its own beside ours.
  if [[ " ${missing[*]} " == *" postgresql-15 "* && ! -e /etc/postgresql-common ]]; then
    "${as_root[@]}" mkdir -p /etc/postgresql-common
    echo 'create_main_cluster = false' |
      "${as_root[@]}" tee /etc/postgresql-common/createcluster.conf >/dev/null
  fi
  "${as_root[@]}" apt-get update -qq >&2
  "${as_root[@]}" env DEBIAN_FRONTEND=noninteractive \
    apt-get install -y -qq --no-install-recommends "${missing[@]}" >&2
}

# Installs the npm packages that package-lock.json names, unless these are the ones installed.
need_modules() {
  local mark=node_modules/.installed-lock
  if ! cmp -s package-lock.json "$mark"; then
    say "Installing npm packages …"
    npm ci --ignore-scripts --no-audit --no-fund --loglevel=error >&2
    cp package-lock.json "$mark"
  fi
}

# Builds the web, unless nothing it is made of changed since.
need_web() {
  local built=web/dist/index.html
  if [ -e "$built" ] &&
    [ -z "$(find web/src web/index.html web/vite.config.ts core/src contract/src package-lock.json \
      -newer "$built" -print -quit)" ]; then
    return 0
  fi
  say "Building the web …"
  (cd web && "$ROOT/node_modules/.bin/vite" build --logLevel warn >&2)
}

# Builds the server, unless nothing it is made of changed since.
need_server() {
  local built=server/dist/main.js
  if [ -e "$built" ] &&
    [ -z "$(find server/src practice-bank/src core/src contract/src package-lock.json \
      -newer "$built" -print -quit)" ]; then
    return 0
  fi
  say "Building the server …"
  node --import tsx server/src/build/main.ts >&2
}

run_ts() { exec node --import tsx "$@"; }
run_built() { exec node --enable-source-maps "server/dist/$1.js" "${@:2}"; }
