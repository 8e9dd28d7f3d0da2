// One fuzz target for each reader of foreign files; EASEL_FUZZ says which (tools/fuzz/CMakeLists.txt). At its end it
// says how many inputs its reader took: none would mean that the reader was never reached.
#include <cstdio>

#include "targets.h"

namespace {
struct Count {
  long taken = 0, all = 0;
  ~Count() { std::fprintf(stderr, "taken %ld of %ld\n", taken, all); }
} count;
}  // namespace

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, size_t size) {
  ++count.all;
  try {
    easel::fuzz::EASEL_FUZZ({reinterpret_cast<const char*>(data), size});
    ++count.taken;
  } catch (const std::runtime_error&) {
  } catch (const std::invalid_argument&) {
  }
  return 0;
}
