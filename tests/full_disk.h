// A full disk: as long as it lives, no file of this process can grow.
#pragma once

#include <sys/resource.h>

#include <csignal>

namespace easel::test {

class FullDisk {
 public:
  FullDisk() {
    std::signal(SIGXFSZ, SIG_IGN);
    ::getrlimit(RLIMIT_FSIZE, &was_);
    rlimit none = was_;
    none.rlim_cur = 0;
    ::setrlimit(RLIMIT_FSIZE, &none);
  }
  ~FullDisk() { ::setrlimit(RLIMIT_FSIZE, &was_); }
  FullDisk(const FullDisk&) = delete;
  FullDisk& operator=(const FullDisk&) = delete;

 private:
  rlimit was_{};
};

}  // namespace easel::test
