// A disk that can be held: as long as it is, fsync() of this program waits. Linked into the test program, whose fsync()
// comes before the C library's.
#pragma once

#include <atomic>

namespace easel::test {

class HeldDisk {
 public:
  HeldDisk();
  ~HeldDisk() { letGo(); }
  HeldDisk(const HeldDisk&) = delete;
  HeldDisk& operator=(const HeldDisk&) = delete;
  void letGo();
  /// Threads that wait for it now.
  static int waiting();
  /// Whether the thread that holds it has met it itself: it is then let through.
  static bool metByHolder();
};

}  // namespace easel::test
