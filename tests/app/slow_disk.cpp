#include "slow_disk.h"

#include <dlfcn.h>

#include <condition_variable>
#include <mutex>
#include <thread>

namespace easel::test {
namespace {

struct Disk {
  std::mutex guard;
  std::condition_variable wake;
  bool held = false, met = false;
  int waiting = 0;
  std::thread::id holder;
};
Disk& disk() {
  static Disk one;
  return one;
}

}  // namespace

HeldDisk::HeldDisk() {
  std::lock_guard lock(disk().guard);
  disk().held = true;
  disk().met = false;
  disk().holder = std::this_thread::get_id();
}
void HeldDisk::letGo() {
  {
    std::lock_guard lock(disk().guard);
    disk().held = false;
  }
  disk().wake.notify_all();
}
int HeldDisk::waiting() {
  std::lock_guard lock(disk().guard);
  return disk().waiting;
}
bool HeldDisk::metByHolder() {
  std::lock_guard lock(disk().guard);
  return disk().met;
}

int syncThrough(int fd) {
  {
    std::unique_lock lock(disk().guard);
    if (disk().held && disk().holder == std::this_thread::get_id()) {
      disk().met = true;
    } else {
      ++disk().waiting;
      disk().wake.wait(lock, [] { return !disk().held; });
      --disk().waiting;
    }
  }
  static const auto real = reinterpret_cast<int (*)(int)>(::dlsym(RTLD_NEXT, "fsync"));
  return real(fd);
}

}  // namespace easel::test

extern "C" int fsync(int fd) { return easel::test::syncThrough(fd); }
