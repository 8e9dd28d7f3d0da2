#include "files/atomic_file.h"

#include <dirent.h>
#include <fcntl.h>
#include <fmt/format.h>
#include <signal.h>
#include <sys/stat.h>
#include <unistd.h>

#include <algorithm>
#include <atomic>
#include <cerrno>
#include <cstdlib>
#include <cstring>
#include <stdexcept>
#include <type_traits>
#include <utility>
#include <vector>

#include "spoken/say.h"

namespace easel {
namespace {

namespace fs = std::filesystem;

class Descriptor {
 public:
  explicit Descriptor(int fd) : fd_(fd) {}
  ~Descriptor() {
    if (fd_ >= 0) ::close(fd_);
  }
  Descriptor(const Descriptor&) = delete;
  Descriptor& operator=(const Descriptor&) = delete;
  int get() const { return fd_; }
  bool ok() const { return fd_ >= 0; }

 private:
  int fd_;
};

// errno of what went wrong, 0 when nothing did.
int writeAll(int fd, std::string_view bytes) {
  while (!bytes.empty()) {
    const ssize_t n = ::write(fd, bytes.data(), bytes.size());
    if (n < 0 && errno == EINTR) continue;
    if (n < 0) return errno;
    bytes.remove_prefix(size_t(n));
  }
  return ::fsync(fd) != 0 ? errno : 0;
}

std::runtime_error refusal(const fs::path& file, int error) {
  return std::runtime_error(say("{} could not be saved: {}. Choose another folder, or free some space, and save again.",
                                file.string(), std::strerror(error)));
}

constexpr std::string_view kTemporary = ".easel-";

// ".NAME.easel-PID-COUNT": the name tells whose it is, so that what a killed process left can be told from what a
// living one is writing.
std::string temporaryPrefix(const fs::path& file) {
  return "." + file.filename().string().substr(0, 180) + std::string(kTemporary);
}

// Writing through a link replaces what it points to, not the link; that need not be there yet.
fs::path linkedTo(fs::path file) {
  std::error_code error;
  for (int links = 0; links < 40 && fs::is_symlink(file, error); ++links) {
    const fs::path to = fs::read_symlink(file, error);
    if (error) break;
    file = to.is_absolute() ? to : file.parent_path() / to;
  }
  return file;
}

fs::path folderOf(const fs::path& file) { return file.has_parent_path() ? file.parent_path() : fs::path("."); }

// A new name must reach the disk too. A folder that cannot be synced (some network drives) holds it anyway.
void syncFolderOf(const fs::path& file) {
  const Descriptor dir(::open(folderOf(file).c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC));
  if (dir.ok()) ::fsync(dir.get());
}

void clearLeftovers(const fs::path& folder, const std::string& prefix) {
  DIR* dir = ::opendir(folder.c_str());
  if (!dir) return;
  while (const dirent* entry = ::readdir(dir)) {
    const std::string_view name = entry->d_name;
    if (!name.starts_with(prefix)) continue;
    const long pid = std::strtol(entry->d_name + prefix.size(), nullptr, 10);
    if (pid > 0 && pid != ::getpid() && ::kill(pid_t(pid), 0) != 0 && errno == ESRCH)
      ::unlinkat(::dirfd(dir), entry->d_name, 0);
  }
  ::closedir(dir);
}

// A file with several names cannot be renamed over without losing them: the content is written into it, and until that
// is through the old content stands beside it.
void writeInPlace(const fs::path& file, std::string_view bytes) {
  const fs::path backup = keepBackup(file);  // a new file: removed below
  const Descriptor out(::open(file.c_str(), O_WRONLY | O_CLOEXEC));
  if (!out.ok()) throw refusal(file, errno);
  int error = writeAll(out.get(), bytes);
  if (!error && ::ftruncate(out.get(), off_t(bytes.size())) != 0) error = errno;
  if (error) {
    bool restored = false;
    try {
      const std::string was = readWholeFile(backup);
      restored = ::lseek(out.get(), 0, SEEK_SET) == 0 && writeAll(out.get(), was) == 0 &&
                 ::ftruncate(out.get(), off_t(was.size())) == 0;
    } catch (const std::runtime_error&) {
    }
    if (!restored)
      throw std::runtime_error(say("{} could not be saved: {}. What it held is in {}.", file.string(),
                                   std::strerror(error), backup.string()));
    ::unlink(backup.c_str());
    throw refusal(file, error);
  }
  ::unlink(backup.c_str());
}

// FNV-1a: changes are told by it, nothing secret is.
std::uint64_t digest(std::string_view bytes) {
  std::uint64_t h = 14695981039346656037u;
  for (const char c : bytes) h = (h ^ static_cast<unsigned char>(c)) * 1099511628211u;
  return h;
}

}  // namespace

void writeFileAtomically(const fs::path& file, std::string_view bytes, Privacy privacy) {
  const fs::path target = linkedTo(file);
  struct stat old {};
  const bool stands = ::stat(target.c_str(), &old) == 0;
  if (stands && !S_ISREG(old.st_mode))
    throw std::runtime_error(
        S_ISDIR(old.st_mode)
            ? say("{} is a folder, not an ordinary file. Choose another name.", file.string())
            : say("{} is a device or a pipe, not an ordinary file. Choose another name.", file.string()));
  if (stands && ::access(target.c_str(), W_OK) != 0) throw refusal(file, errno);
  if (stands && old.st_nlink > 1) return writeInPlace(target, bytes);

  const fs::path temporary = besideOf(target);
  const mode_t mode = privacy == Privacy::OwnerOnly ? 0600 : 0666;
  int error = 0;
  {
    const Descriptor out(::open(temporary.c_str(), O_WRONLY | O_CREAT | O_EXCL | O_NOFOLLOW | O_CLOEXEC, mode));
    if (!out.ok()) throw refusal(file, errno);
    error = writeAll(out.get(), bytes);
    if (!error && stands) {
      if (old.st_uid != ::geteuid() || old.st_gid != ::getegid()) {
        // Only root may give a file away; for others it becomes theirs, as with any editor.
        [[maybe_unused]] const int given = ::fchown(out.get(), old.st_uid, old.st_gid);
      }
      if (::fchmod(out.get(), privacy == Privacy::OwnerOnly ? 0600 : old.st_mode & 07777) != 0) error = errno;
    }
  }
  if (!error && ::rename(temporary.c_str(), target.c_str()) != 0) error = errno;
  if (error) {
    ::unlink(temporary.c_str());
    throw refusal(file, error);
  }
  syncFolderOf(target);
}

fs::path besideOf(const fs::path& file) {
  const std::string prefix = temporaryPrefix(file);
  clearLeftovers(folderOf(file), prefix);
  static std::atomic<unsigned> count{0};
  return folderOf(file) / fmt::format("{}{}-{}", prefix, ::getpid(), ++count);
}

void putInPlace(const fs::path& fresh, const fs::path& file) {
  int error = 0;
  {
    const Descriptor in(::open(fresh.c_str(), O_RDONLY | O_CLOEXEC));
    if (!in.ok() || ::fsync(in.get()) != 0) error = errno;
  }
  if (!error && ::rename(fresh.c_str(), file.c_str()) != 0) error = errno;
  if (error) throw refusal(file, error);
  syncFolderOf(file);
}

void requireOrdinary(const fs::path& file) {
  struct stat about {};
  if (::stat(file.c_str(), &about) != 0)
    throw std::runtime_error(say("{} cannot be read: {}.", file.string(), std::strerror(errno)));
  if (!S_ISREG(about.st_mode)) throw std::runtime_error(say("{} is not an ordinary file.", file.string()));
}

std::string readWholeFile(const fs::path& file, std::uintmax_t limit) {
  // Not blocking: opening a pipe would wait for whoever writes into it.
  const Descriptor in(::open(file.c_str(), O_RDONLY | O_CLOEXEC | O_NONBLOCK));
  struct stat about {};
  if (!in.ok() || ::fstat(in.get(), &about) != 0)
    throw std::runtime_error(say("{} cannot be read: {}.", file.string(), std::strerror(errno)));
  if (S_ISDIR(about.st_mode)) throw std::runtime_error(say("{} is a folder, not a file.", file.string()));
  if (!S_ISREG(about.st_mode))
    throw std::runtime_error(say("{} is a device or a pipe, not an ordinary file.", file.string()));
  const auto tooLarge = [&](std::uintmax_t size) {
    return std::runtime_error(
        say("{} is {} MB; a file of this kind has at most {} MB.", file.string(), size >> 20, limit >> 20));
  };
  if (std::uintmax_t(about.st_size) > limit) throw tooLarge(std::uintmax_t(about.st_size));
  std::string bytes;
  bytes.reserve(size_t(about.st_size));
  std::vector<char> part(1 << 16);
  for (;;) {
    const ssize_t n = ::read(in.get(), part.data(), part.size());
    if (n < 0 && errno == EINTR) continue;
    if (n < 0) throw std::runtime_error(say("{} cannot be read: {}.", file.string(), std::strerror(errno)));
    if (n == 0) return bytes;
    bytes.append(part.data(), size_t(n));
    if (bytes.size() > limit) throw tooLarge(bytes.size());
  }
}

fs::path keepBackup(const fs::path& file) {
  // What bears the name already is somebody's: another number is taken, and the name is held before it is written.
  constexpr int kMost = 1000;
  struct stat about {};
  if (::stat(file.c_str(), &about) != 0) return {};
  const std::string bytes = readWholeFile(file, std::uintmax_t(1) << 30);
  for (int n = 1; n <= kMost; ++n) {
    fs::path backup = file;
    backup += n == 1 ? std::string(".bak") : fmt::format(".bak{}", n);
    const Descriptor out(
        ::open(backup.c_str(), O_WRONLY | O_CREAT | O_EXCL | O_NOFOLLOW | O_CLOEXEC, about.st_mode & 0777));
    if (!out.ok() && errno == EEXIST) continue;
    if (!out.ok()) throw refusal(backup, errno);
    if (const int error = writeAll(out.get(), bytes)) {
      ::unlink(backup.c_str());
      throw refusal(backup, error);
    }
    return backup;
  }
  throw std::runtime_error(
      say("{} has {} backups beside it already. Remove some, and save again.", file.string(), kMost));
}

FileMark markOf(const fs::path& file) {
  FileMark mark;
  struct stat about {};
  if (::stat(file.c_str(), &about) != 0 || !S_ISREG(about.st_mode)) return mark;
  try {
    const std::string bytes = readWholeFile(file);
    mark.there = true;
    mark.size = bytes.size();
    mark.content = digest(bytes);
    mark.modified = std::int64_t(about.st_mtim.tv_sec) * 1'000'000'000 + about.st_mtim.tv_nsec;
  } catch (const std::runtime_error&) {
  }
  return mark;
}

std::string writeMark(const FileMark& m) {
  return fmt::format("{} {} {} {}", m.there ? 1 : 0, m.size, m.content, m.modified);
}

FileMark readMark(const std::string& line) {
  // Whole numbers of 64 bits, as writeMark() writes them: a double would lose their ends.
  std::string_view rest = line;
  const auto take = [&](auto& value) {
    while (!rest.empty() && rest.front() == ' ') rest.remove_prefix(1);
    const size_t digits = std::min(rest.find_first_not_of("0123456789"), rest.size());
    std::uint64_t n = 0;
    for (const char c : rest.substr(0, digits)) n = n * 10 + std::uint64_t(c - '0');
    rest.remove_prefix(digits);
    value = static_cast<std::remove_reference_t<decltype(value)>>(n);
    return digits > 0;
  };
  FileMark m;
  return take(m.there) && take(m.size) && take(m.content) && take(m.modified) ? m : FileMark{};
}

bool changedSince(const fs::path& file, const FileMark& then) {
  struct stat about {};
  const bool there = ::stat(file.c_str(), &about) == 0;
  if (there && then.there && std::uint64_t(about.st_size) == then.size &&
      std::int64_t(about.st_mtim.tv_sec) * 1'000'000'000 + about.st_mtim.tv_nsec == then.modified)
    return false;
  const FileMark now = markOf(file);
  return now.there != then.there || now.size != then.size || now.content != then.content;
}

}  // namespace easel
