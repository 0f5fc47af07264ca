#!/usr/bin/env bash
# Installs the Debian packages named (where their programs are missing) and the
# npm packages of the lock file (where they are missing or stale).
set -euo pipefail
cd "$(dirname "$(readlink -f "$0")")/.."

say() { printf '%s\n' "$*" >&2; }

if ! command -v node >/dev/null || [ "$(node -p 'process.versions.node.split(".")[0]')" -lt 20 ]; then
  say 'Node.js 20 or later is needed and was not found; install it and run this again.'
  exit 1
fi

present() {
  case "$1" in
    postgresql) compgen -G '/usr/lib/postgresql/*/bin/initdb' >/dev/null ;;
    *) command -v "$1" >/dev/null ;;
  esac
}

missing=()
for package in "$@"; do present "$package" || missing+=("$package"); done

# Other starters of this same folder wait here, so that nothing is installed twice at once.
mkdir -p .data
exec 9>.data/install.lock
flock 9

stamp=node_modules/.installed-for
wanted=$(sha256sum package-lock.json | cut -d' ' -f1)
npm_installing=
if [ "$(cat "$stamp" 2>/dev/null || true)" != "$wanted" ]; then
  say 'Installing npm packages by the lock file; this takes a minute or two.'
  npm ci --no-audit --no-fund --loglevel=error >&2 &
  npm_installing=$!
  trap 'kill "$npm_installing" 2>/dev/null || true' EXIT
fi

if [ ${#missing[@]} -gt 0 ]; then
  say "Installing Debian packages: ${missing[*]}"
  as_root=()
  if [ "$(id -u)" -ne 0 ]; then
    if ! command -v sudo >/dev/null || ! sudo -n true 2>/dev/null; then
      say "Not allowed to install packages here. As root, run:  apt-get update && apt-get install -y ${missing[*]}"
      exit 1
    fi
    as_root=(sudo -n)
  fi
  "${as_root[@]}" apt-get update -qq >&2
  "${as_root[@]}" env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends "${missing[@]}" >&2
fi

if [ -n "$npm_installing" ]; then
  wait "$npm_installing"
  trap - EXIT
  printf '%s' "$wanted" >"$stamp"
fi
