// How many processors a test program takes for itself.
#pragma once

#include <oneapi/tbb/global_control.h>

#include <algorithm>
#include <cstdlib>

namespace easel::test {

/// As many as $EASEL_TEST_PROCESSORS says, all when it says nothing. ctest runs a program on each processor; programs
/// that all spread over all of them get in each other's way.
class Processors {
  static size_t allowed() {
#ifdef __SANITIZE_THREAD__
    // The installed scheduler is built without the sanitizer, which cannot see that it hands work over in order. Each
    // of our own threads then works through its tasks alone: what is watched is what they share with each other.
    return 1;
#endif
    const char* said = std::getenv("EASEL_TEST_PROCESSORS");
    return said ? size_t(std::max(1, std::atoi(said))) : 1024;
  }
  const tbb::global_control control_{tbb::global_control::max_allowed_parallelism, allowed()};
};

}  // namespace easel::test
