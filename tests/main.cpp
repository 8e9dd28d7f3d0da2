// Tests of the core in whatever locale they are started: numbers must not care.
#include <gtest/gtest.h>

#include <clocale>

#ifdef __SANITIZE_THREAD__
#include <oneapi/tbb/global_control.h>
#endif

int main(int argc, char** argv) {
  std::setlocale(LC_ALL, "");
  ::testing::InitGoogleTest(&argc, argv);
#ifdef __SANITIZE_THREAD__
  // The installed scheduler is built without the sanitizer, which cannot see that it hands work over in order. Each of
  // our own threads then works through its tasks alone: what is watched is what they share with each other.
  const tbb::global_control alone(tbb::global_control::max_allowed_parallelism, 1);
#endif
  return RUN_ALL_TESTS();
}
