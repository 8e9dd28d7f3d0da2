#include "formats/atomic_file.h"

#include <fcntl.h>
#include <fmt/format.h>
#include <sys/stat.h>
#include <unistd.h>

#include <cerrno>
#include <cstdlib>
#include <cstring>
#include <fstream>
#include <stdexcept>
#include <vector>

namespace easel {

void writeFileAtomically(const std::filesystem::path& file, std::string_view bytes) {
  auto refuse = [&](int error) -> std::runtime_error {
    return std::runtime_error(
        fmt::format("{} could not be saved: {}. Choose another folder, or free the place, and save again.",
                    file.string(), std::strerror(error)));
  };
  // Writing through a link replaces what it points to, not the link.
  std::error_code ignored;
  const auto target =
      std::filesystem::is_symlink(file, ignored) ? std::filesystem::weakly_canonical(file, ignored) : file;
  std::string name = target.string() + ".XXXXXX";
  std::vector<char> temporary(name.begin(), name.end());
  temporary.push_back('\0');
  const int fd = ::mkstemp(temporary.data());
  if (fd < 0) throw refuse(errno);
  size_t done = 0;
  int error = 0;
  while (done < bytes.size()) {
    const ssize_t n = ::write(fd, bytes.data() + done, bytes.size() - done);
    if (n < 0 && errno == EINTR) continue;
    if (n < 0) {
      error = errno;
      break;
    }
    done += size_t(n);
  }
  if (!error && ::fchmod(fd, 0644) != 0) error = errno;
  if (!error && ::fsync(fd) != 0) error = errno;
  ::close(fd);
  if (!error && ::rename(temporary.data(), target.c_str()) != 0) error = errno;
  if (error) {
    ::unlink(temporary.data());
    throw refuse(error);
  }
}

std::string readWholeFile(const std::filesystem::path& file, std::uintmax_t limit) {
  std::error_code error;
  if (std::filesystem::is_directory(file, error))
    throw std::runtime_error(fmt::format("{} is a folder, not a file.", file.string()));
  const auto size = std::filesystem::file_size(file, error);
  if (error) throw std::runtime_error(fmt::format("{} cannot be read: {}.", file.string(), error.message()));
  if (size > limit)
    throw std::runtime_error(
        fmt::format("{} is {} MB; a file of this kind has at most {} MB.", file.string(), size >> 20, limit >> 20));
  std::ifstream f(file, std::ios::binary);
  std::string bytes(size, '\0');
  if (!f || (size && !f.read(bytes.data(), std::streamsize(size))))
    throw std::runtime_error(fmt::format("{} cannot be read: {}.", file.string(), std::strerror(errno)));
  return bytes;
}

}  // namespace easel
