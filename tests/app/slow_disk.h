// A disk that can be held: as long as it is, fsync() of this program waits; and who opens files. Linked into the test
// program, whose fsync() and open() come before the C library's.
#pragma once

#include <filesystem>
#include <set>
#include <string>
#include <vector>

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

/// Which files within some folders the thread that made this has opened since, or given another name, or removed.
class FilesOfThisThread {
 public:
  explicit FilesOfThisThread(std::vector<std::filesystem::path> folders);
  ~FilesOfThisThread();
  FilesOfThisThread(const FilesOfThisThread&) = delete;
  FilesOfThisThread& operator=(const FilesOfThisThread&) = delete;
  std::set<std::string> met() const;
};

}  // namespace easel::test
