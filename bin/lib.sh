# Set-up shared by bin/start and bin/test: Node.js, Debian packages, npm packages, build.
# Sourced; expects $root and that `set -eu` is on.

say() { printf '%s\n' "$*" >&2; }
die() { say "$@"; exit 1; }

check_node() {
  command -v node >/dev/null || die "Node.js is missing. Install Node.js 20.19 or newer (Debian: apt-get install nodejs npm), then run this again."
  node -e '
    const [major, minor] = process.versions.node.split(".").map(Number)
    process.exit((major === 20 && minor >= 19) || (major === 22 && minor >= 12) || major > 22 ? 0 : 1)
  ' || die "Node.js $(node --version) is too old. Install 20.19 or newer (22: 22.12 or newer), then run this again."
}

# What is installed, built and stored lies in the project's own folder.
check_writable() {
  { mkdir -p "${QUILL_VAR:-$root/var}" && [ -w "$root" ] && [ -w "${QUILL_VAR:-$root/var}" ]; } 2>/dev/null || die "Nothing can be written in $root." \
    $'\n'"Orator Quill installs, builds and stores everything there: change its permissions, or copy it to a disk that can be written to, then run this again."
}

has_postgres() { compgen -G '/usr/lib/postgresql/*/bin/initdb' >/dev/null; }
has_library() { compgen -G "/usr/lib/*/$1" >/dev/null; }

# Installs Debian packages; with neither root nor sudo it says exactly what to run.
install_debian() {
  local as=()
  if [ "$(id -u)" -ne 0 ]; then
    if command -v sudo >/dev/null && sudo -n true 2>/dev/null; then
      as=(sudo)
    else
      die "These Debian packages are missing: $*" \
        $'\n'"Run this as root, then start again:" \
        $'\n'"  apt-get update && apt-get install -y --no-install-recommends $*"
    fi
  fi
  say "Installing Debian packages: $*"
  export DEBIAN_FRONTEND=noninteractive
  local apt=("${as[@]}" apt-get -o DPkg::Lock::Timeout=550 -qq)
  "${apt[@]}" update >&2
  case " $* " in
    *' postgresql '*)
      # Without this, Debian starts a cluster of its own on port 5432.
      "${apt[@]}" install -y --no-install-recommends postgresql-common >&2
      if [ -f /etc/postgresql-common/createcluster.conf ]; then
        "${as[@]}" sed -i 's/^#\? *create_main_cluster *=.*/create_main_cluster = false/' /etc/postgresql-common/createcluster.conf
      fi
      ;;
  esac
  "${apt[@]}" install -y --no-install-recommends "$@" >&2
}

# What the checks against other programs and other people's documents need.
ensure_references() {
  local missing=() package
  command -v pandoc >/dev/null || missing+=(pandoc)
  command -v python3 >/dev/null || missing+=(python3)
  dpkg -s python3-icu >/dev/null 2>&1 || missing+=(python3-icu)
  command -v pdftotext >/dev/null || missing+=(poppler-utils)
  [ -d /usr/lib/libreoffice/program ] && command -v soffice >/dev/null || missing+=(libreoffice-writer-nogui)
  for package in developers-reference debian-policy live-manual-epub debian-faq flac mp3val opus-tools sox mediainfo python3-mutagen cuetools; do
    dpkg -s "$package" >/dev/null 2>&1 || missing+=("$package")
  done
  [ ${#missing[@]} -eq 0 ] || install_debian "${missing[@]}"
}

# ensure_debian [chromium]
ensure_debian() {
  local missing=()
  has_postgres || missing+=(postgresql)
  has_library libespeak-ng.so.1 || missing+=(espeak-ng)
  has_library libflite.so.1 || missing+=(flite)
  command -v ffmpeg >/dev/null || missing+=(ffmpeg)
  has_library libmp3lame.so.0 || missing+=(libmp3lame0)
  has_library libmpg123.so.0 || missing+=(libmpg123-0)
  has_library libsoxr.so.0 || missing+=(libsoxr0)
  # Spelling dictionaries, by which words that none has are found in scripts of these languages.
  local package
  for package in hunspell hunspell-cs hunspell-da hunspell-de-de hunspell-es hunspell-fr-classical hunspell-it hunspell-nl hunspell-no hunspell-pl hunspell-pt-br hunspell-pt-pt hunspell-ru hunspell-sv; do
    dpkg -s "$package" >/dev/null 2>&1 || missing+=("$package")
  done
  if [ "${1:-}" = chromium ] && [ ! -x /usr/bin/chromium ]; then missing+=(chromium); fi
  [ ${#missing[@]} -eq 0 ] || install_debian "${missing[@]}"
}

# Installs npm packages from the lock file when it has changed since.
ensure_npm() {
  local stamp="$root/node_modules/.lock-stamp" want
  want="$(sha256sum < "$root/package-lock.json") $(node --version)"
  if [ ! -f "$stamp" ] || [ "$(cat "$stamp")" != "$want" ]; then
    say "Installing npm packages"
    (cd "$root" && npm ci --no-audit --no-fund --loglevel=error >&2)
    printf '%s' "$want" > "$stamp"
  fi
}

ensure_build() { (cd "$root" && NUXT_TELEMETRY_DISABLED=1 node scripts/build.mjs >&2); }
