#!/bin/sh
# The formatting of every file, and clang-tidy's few rules (.clang-tidy) on what has changed since REV (default: the commit
# before); --all on everything, a quarter of an hour. Ends with status 1 and the places.
set -u
cd "$(dirname "$0")/.." || exit 1
since=${1:-HEAD~1}
git ls-files 'app/*.cpp' 'app/*.h' 'core/*.cpp' 'core/*.h' 'cli/*.cpp' 'cli/*.h' 'tests/*.cpp' 'tests/*.h' 'bench/*.cpp' 'tools/*.cpp' 'tools/*.h' 'apart/*.cpp' 'standins/*.cpp' 'standins/*.h' |
  xargs clang-format --dry-run -Werror || { echo "clang-format -i on these files mends it" >&2; exit 1; }
if [ "$since" = --all ]; then files=$(git ls-files 'core/*.cpp' 'app/*.cpp' 'cli/*.cpp' 'standins/hidden_studio.cpp' 'standins/shared_state.cpp')
else files=$(git diff --name-only --diff-filter=d "$since" -- 'core/*.cpp' 'app/*.cpp' 'cli/*.cpp' 'standins/hidden_studio.cpp' 'standins/shared_state.cpp' 2>/dev/null | head -n 12); fi
[ -n "$files" ] || exit 0
# A configuration of its own: the compiler's precompiled headers and joined files are not for it.
mkdir -p build
cmake -S . -B build/tidy -G Ninja -DCMAKE_BUILD_TYPE=Release -DCMAKE_EXPORT_COMPILE_COMMANDS=ON \
  -DCMAKE_DISABLE_PRECOMPILE_HEADERS=ON -DEASEL_UNITY=OFF -DEASEL_TESTS=OFF -DEASEL_BENCH=OFF >build/tidy.log 2>&1 ||
  { cat build/tidy.log >&2; exit 1; }
# What the resource and signal compilers make is included by the application's files.
# shellcheck disable=SC2086
echo $files | tr ' ' '\n' | xargs -P 2 -n 2 clang-tidy -p build/tidy --quiet --extra-arg=-Wno-unknown-warning-option
