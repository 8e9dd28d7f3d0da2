// One fuzz target for each reader of foreign files; EASEL_FUZZ says which (tools/fuzz/CMakeLists.txt).
#include "targets.h"

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, size_t size) {
  try {
    easel::fuzz::EASEL_FUZZ({reinterpret_cast<const char*>(data), size});
  } catch (const std::runtime_error&) {
  } catch (const std::invalid_argument&) {
  }
  return 0;
}
