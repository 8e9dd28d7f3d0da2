#include "files/apart.h"

#include <fcntl.h>
#include <fmt/format.h>
#include <poll.h>
#include <spawn.h>
#include <sys/mman.h>
#include <sys/resource.h>
#include <sys/wait.h>
#include <unistd.h>

#include <cerrno>
#include <chrono>
#include <csignal>
#include <cstdlib>
#include <cstring>
#include <filesystem>
#include <new>
#include <stdexcept>

#include "spoken/number.h"
#include "spoken/say.h"

extern char** environ;

namespace easel {
namespace {

// Beside the program in the build and in an installed tree.
std::filesystem::path program() {
  if (const char* named = std::getenv("EASEL_APART"); named && *named) return named;
  std::error_code none;
  const auto here = std::filesystem::read_symlink("/proc/self/exe", none).parent_path();
  for (const char* at : {"../apart/easel-apart", "../libexec/jolly-easel/easel-apart", "../../apart/easel-apart"})
    if (std::filesystem::exists(here / at, none)) return here / at;
  throw std::runtime_error(
      say("The program that reads files of other programs, easel-apart, is missing. Install Jolly Easel again."));
}

struct Pipe {
  int ends[2] = {-1, -1};
  ~Pipe() {
    for (const int e : ends)
      if (e >= 0) ::close(e);
  }
  void closeWriting() {
    ::close(ends[1]);
    ends[1] = -1;
  }
};

}  // namespace

std::string readApart(const std::string& kind, std::string_view bytes, const std::string& name,
                      const ApartLimits& limits) {
  const auto refused = [&](int error) {
    return std::runtime_error(say("{} cannot be read: {}.", name, std::strerror(error)));
  };
  const std::filesystem::path reader = program();
  Pipe input, output, said;
  const int in = input.ends[0] = ::memfd_create("foreign", MFD_CLOEXEC);
  if (in < 0 || ::pipe2(output.ends, O_CLOEXEC) != 0 || ::pipe2(said.ends, O_CLOEXEC) != 0) throw refused(errno);
  for (std::string_view left = bytes; !left.empty();) {
    const ssize_t n = ::write(in, left.data(), left.size());
    if (n <= 0) throw refused(errno);
    left.remove_prefix(size_t(n));
  }
  ::lseek(in, 0, SEEK_SET);

  posix_spawn_file_actions_t actions;
  posix_spawn_file_actions_init(&actions);
  posix_spawn_file_actions_adddup2(&actions, in, 0);
  posix_spawn_file_actions_adddup2(&actions, output.ends[1], 1);
  posix_spawn_file_actions_adddup2(&actions, said.ends[1], 2);
  std::string words[] = {reader.string(), kind, name, fmt::format("{}", limits.memory),
                         fmt::format("{}", limits.processorSeconds)};
  char* arguments[std::size(words) + 1] = {};
  for (size_t i = 0; i < std::size(words); ++i) arguments[i] = words[i].data();
  pid_t child = -1;
  const int failed = ::posix_spawn(&child, words[0].c_str(), &actions, nullptr, arguments, environ);
  posix_spawn_file_actions_destroy(&actions);
  if (failed) throw refused(failed);
  output.closeWriting();
  said.closeWriting();

  std::string made, sentence;
  const auto end = std::chrono::steady_clock::now() + std::chrono::milliseconds(limits.milliseconds);
  bool late = false, much = false;
  pollfd fds[2] = {{output.ends[0], POLLIN, 0}, {said.ends[0], POLLIN, 0}};
  while (!much && (fds[0].fd >= 0 || fds[1].fd >= 0)) {
    const auto left = std::chrono::duration_cast<std::chrono::milliseconds>(end - std::chrono::steady_clock::now());
    const int ready = left.count() > 0 ? ::poll(fds, 2, int(left.count())) : 0;
    if (ready < 0 && errno == EINTR) continue;
    if (ready <= 0) {
      late = true;
      break;
    }
    for (int k = 0; k < 2; ++k) {
      if (!(fds[k].revents & (POLLIN | POLLHUP | POLLERR))) continue;
      char part[65536];
      const ssize_t n = ::read(fds[k].fd, part, sizeof part);
      if (n > 0 && k == 0) {
        much = made.size() + size_t(n) > limits.output;
        if (!much) made.append(part, size_t(n));
      } else if (n > 0) {
        if (sentence.size() < 4096) sentence.append(part, size_t(n));
      } else if (errno != EINTR || n == 0) {
        fds[k].fd = -1;
      }
    }
  }
  if (late || much) ::kill(child, SIGKILL);
  int status = 0;
  while (::waitpid(child, &status, 0) < 0 && errno == EINTR) {
  }
  if (late || (WIFSIGNALED(status) && WTERMSIG(status) == SIGXCPU))
    throw std::runtime_error(say("{} takes too long to read. {}", name, limits.advice));
  if (much) throw std::runtime_error(say("{} holds more than a file of its kind can. {}", name, limits.advice));
  if (WIFSIGNALED(status) || (WIFEXITED(status) && WEXITSTATUS(status) > 2))
    throw std::runtime_error(say("{} cannot be read within {} MB. {}", name, limits.memory >> 20, limits.advice));
  if (WEXITSTATUS(status) != 0)
    throw std::runtime_error(sentence.empty() ? say("{} cannot be read. {}", name, limits.advice)
                                              : sentence.substr(0, sentence.find('\n')));
  return made;
}

int apartProcess(int argc, char** argv, const std::map<std::string, ApartReader>& readers) {
  if (argc != 5) return 1;
  const auto reader = readers.find(argv[1]);
  const auto memory = wholeNumber(argv[3]), seconds = wholeNumber(argv[4]);
  if (reader == readers.end() || !memory || !seconds) return 1;
  std::signal(SIGXFSZ, SIG_IGN);
  const auto limit = [](auto what, double most) {
    const rlimit l{rlim_t(most), rlim_t(most)};
    ::setrlimit(what, &l);
  };
#if !defined(__SANITIZE_ADDRESS__) && !defined(__SANITIZE_THREAD__)
  limit(RLIMIT_AS, *memory);  // a sanitizer's own tables take terabytes of addresses
#endif
  limit(RLIMIT_CPU, *seconds);
  limit(RLIMIT_FSIZE, 0);
  limit(RLIMIT_CORE, 0);
  try {
    std::string bytes;
    char part[65536];
    for (ssize_t n; (n = ::read(0, part, sizeof part)) > 0;) bytes.append(part, size_t(n));
    const std::string made = reader->second(bytes, argv[2]);
    for (size_t done = 0; done < made.size();) {
      const ssize_t n = ::write(1, made.data() + done, made.size() - done);
      if (n <= 0) return 1;
      done += size_t(n);
    }
    return 0;
  } catch (const std::bad_alloc&) {
    return 3;
  } catch (const std::exception& e) {
    const std::string_view words = e.what();
    return ::write(2, words.data(), words.size()) < 0 ? 1 : 2;
  }
}

}  // namespace easel
