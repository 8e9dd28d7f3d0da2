// The checked variants of open() are inline functions that could not be defined here.
#undef _FORTIFY_SOURCE
#include "slow_disk.h"

#include <dirent.h>
#include <dlfcn.h>
#include <fcntl.h>

#include <atomic>
#include <condition_variable>
#include <cstdarg>
#include <cstdio>
#include <mutex>
#include <thread>
#include <utility>

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

namespace {

// Read by every thread that opens a file, also before main(): no object that needs a constructor.
std::atomic<bool> watched{false};
struct Watched {
  std::mutex guard;
  std::vector<std::filesystem::path> folders;
  std::thread::id thread;
  std::set<std::string> met;
};
Watched& files() {
  static Watched one;
  return one;
}

}  // namespace

FilesOfThisThread::FilesOfThisThread(std::vector<std::filesystem::path> folders) {
  std::lock_guard lock(files().guard);
  files().folders = std::move(folders);
  files().thread = std::this_thread::get_id();
  files().met.clear();
  watched = true;
}
FilesOfThisThread::~FilesOfThisThread() { watched = false; }
std::set<std::string> FilesOfThisThread::met() const {
  std::lock_guard lock(files().guard);
  return files().met;
}

void meet(const char* path) {
  if (!watched || !path) return;
  std::lock_guard lock(files().guard);
  if (std::this_thread::get_id() != files().thread) return;
  const std::string name = path;
  for (const auto& folder : files().folders)
    if (name.rfind(folder.string() + "/", 0) == 0) files().met.insert(name);
}

template <class F>
F next(const char* name) {
  return reinterpret_cast<F>(::dlsym(RTLD_NEXT, name));
}

}  // namespace easel::test

extern "C" {

int fsync(int fd) { return easel::test::syncThrough(fd); }

#define EASEL_OPEN(name)                                                          \
  int name(const char* path, int flags, ...) {                                    \
    static const auto real = easel::test::next<decltype(&::name)>(#name);         \
    easel::test::meet(path);                                                      \
    va_list more;                                                                 \
    va_start(more, flags);                                                        \
    const mode_t mode = flags & (O_CREAT | O_TMPFILE) ? va_arg(more, mode_t) : 0; \
    va_end(more);                                                                 \
    return real(path, flags, mode);                                               \
  }
EASEL_OPEN(open)
EASEL_OPEN(open64)
#define EASEL_PATH(type, name, second)                                    \
  type name(const char* path, second other) {                             \
    static const auto real = easel::test::next<decltype(&::name)>(#name); \
    easel::test::meet(path);                                              \
    return real(path, other);                                             \
  }
EASEL_PATH(FILE*, fopen, const char*)
EASEL_PATH(FILE*, fopen64, const char*)
DIR* opendir(const char* path) {
  static const auto real = easel::test::next<decltype(&::opendir)>("opendir");
  easel::test::meet((std::string(path) + "/").c_str());
  return real(path);
}
int rename(const char* from, const char* to) {
  static const auto real = easel::test::next<decltype(&::rename)>("rename");
  easel::test::meet(from);
  return real(from, to);
}
int unlink(const char* path) {
  static const auto real = easel::test::next<decltype(&::unlink)>("unlink");
  easel::test::meet(path);
  return real(path);
}

}  // extern "C"
