#include "gear/drawing.h"

#include <cairo.h>
#include <fcntl.h>
#include <librsvg/rsvg.h>
#include <poll.h>
#include <spawn.h>
#include <sys/mman.h>
#include <sys/resource.h>
#include <sys/wait.h>
#include <unistd.h>

#include <algorithm>
#include <cerrno>
#include <chrono>
#include <csignal>
#include <cstdlib>
#include <cstring>
#include <filesystem>
#include <stdexcept>

#include "spoken/say.h"

extern char** environ;

namespace easel {
namespace {

constexpr int kSide = 8192;  // pixels of a PNG
constexpr rlim_t kMemory = rlim_t(768) << 20, kProcessorSeconds = 5;
constexpr int kMilliseconds = 10'000;

struct Surface {
  cairo_surface_t* s;
  explicit Surface(cairo_surface_t* surface) : s(surface) {}
  ~Surface() { cairo_surface_destroy(s); }
  Surface(const Surface&) = delete;
  Surface& operator=(const Surface&) = delete;
};

std::vector<std::uint8_t> taken(cairo_surface_t* s) {
  cairo_surface_flush(s);
  if (cairo_surface_status(s) != CAIRO_STATUS_SUCCESS) throw std::runtime_error(say("There is no memory to draw it."));
  std::vector<std::uint8_t> out(size_t(kDrawingSize) * kDrawingSize);
  const unsigned char* data = cairo_image_surface_get_data(s);
  const int stride = cairo_image_surface_get_stride(s);
  for (int y = 0; y < kDrawingSize; ++y)
    for (int x = 0; x < kDrawingSize; ++x) {
      const unsigned char* c = data + size_t(y) * size_t(stride) + size_t(x) * 4;  // BGRX
      out[size_t(y) * kDrawingSize + size_t(x)] =
          std::uint8_t(std::min(255.f, 0.0722f * c[0] + 0.7152f * c[1] + 0.2126f * c[2] + 0.5f));
    }
  return out;
}

cairo_t* blackCanvas(cairo_surface_t* s) {
  cairo_t* c = cairo_create(s);
  cairo_set_source_rgb(c, 0, 0, 0);
  cairo_paint(c);
  return c;
}

std::vector<std::uint8_t> drawSvg(std::string_view bytes, const std::string& name) {
  GError* error = nullptr;
  RsvgHandle* handle = rsvg_handle_new_from_data(reinterpret_cast<const guint8*>(bytes.data()), bytes.size(), &error);
  if (!handle) {
    const std::string why = error ? error->message : "unknown";
    g_clear_error(&error);
    throw std::runtime_error(
        say("{} is no drawing that can be read ({}). Save it as plain SVG.", name, why.substr(0, 200)));
  }
  const Surface surface(cairo_image_surface_create(CAIRO_FORMAT_RGB24, kDrawingSize, kDrawingSize));
  cairo_t* c = blackCanvas(surface.s);
  const RsvgRectangle all{0, 0, kDrawingSize, kDrawingSize};
  const bool drawn = rsvg_handle_render_document(handle, c, &all, nullptr);
  cairo_destroy(c);
  g_object_unref(handle);
  if (!drawn) throw std::runtime_error(say("{} cannot be drawn. Save it as plain SVG with a size.", name));
  return taken(surface.s);
}

std::vector<std::uint8_t> drawPng(std::string_view bytes, const std::string& name) {
  // The size stands in the first chunk (ISO/IEC 15948, 11.2.2): looked at before anything is unpacked.
  const auto number = [&](size_t at) {
    std::uint32_t v = 0;
    for (size_t i = 0; i < 4; ++i) v = v << 8 | static_cast<unsigned char>(bytes[at + i]);
    return v;
  };
  const auto refuse = [&] {
    return std::runtime_error(
        say("{} is no PNG that can be read, or larger than {} pixels a side. Save it anew as PNG.", name, kSide));
  };
  if (bytes.size() < 24 || number(16) > kSide || number(20) > kSide) throw refuse();
  const Surface in(cairo_image_surface_create_from_png_stream(
      [](void* left, unsigned char* to, unsigned int n) {
        auto& from = *static_cast<std::string_view*>(left);
        if (n > from.size()) return CAIRO_STATUS_READ_ERROR;
        std::memcpy(to, from.data(), n);
        from.remove_prefix(n);
        return CAIRO_STATUS_SUCCESS;
      },
      &bytes));
  const int w = cairo_image_surface_get_width(in.s), h = cairo_image_surface_get_height(in.s);
  if (cairo_surface_status(in.s) != CAIRO_STATUS_SUCCESS || w < 1 || h < 1) throw refuse();
  const Surface surface(cairo_image_surface_create(CAIRO_FORMAT_RGB24, kDrawingSize, kDrawingSize));
  cairo_t* c = blackCanvas(surface.s);
  const double scale = double(kDrawingSize) / std::max(w, h);
  cairo_translate(c, (kDrawingSize - w * scale) / 2, (kDrawingSize - h * scale) / 2);
  cairo_scale(c, scale, scale);
  cairo_set_source_surface(c, in.s, 0, 0);
  cairo_paint(c);
  cairo_destroy(c);
  return taken(surface.s);
}

// Beside the program in the build and in an installed tree.
std::filesystem::path drawingProgram() {
  if (const char* named = std::getenv("EASEL_DRAW"); named && *named) return named;
  std::error_code none;
  const auto here = std::filesystem::read_symlink("/proc/self/exe", none).parent_path();
  for (const char* at : {"../draw/easel-draw", "../libexec/jolly-easel/easel-draw", "../../draw/easel-draw"})
    if (std::filesystem::exists(here / at, none)) return here / at;
  throw std::runtime_error(say("The program that draws cut-outs, easel-draw, is missing. Install Jolly Easel again."));
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

std::vector<std::uint8_t> draw(std::string_view bytes, DrawingKind kind, const std::string& name) {
  return kind == DrawingKind::Svg ? drawSvg(bytes, name) : drawPng(bytes, name);
}

std::vector<std::uint8_t> drawApart(std::string_view bytes, DrawingKind kind, const std::string& name) {
  const std::filesystem::path program = drawingProgram();
  const int in = ::memfd_create("drawing", MFD_CLOEXEC);
  Pipe input;
  input.ends[0] = in;
  Pipe output, said;
  if (in < 0 || ::pipe2(output.ends, O_CLOEXEC) != 0 || ::pipe2(said.ends, O_CLOEXEC) != 0)
    throw std::runtime_error(say("{} cannot be drawn: {}.", name, std::strerror(errno)));
  for (std::string_view left = bytes; !left.empty();) {
    const ssize_t n = ::write(in, left.data(), left.size());
    if (n <= 0) throw std::runtime_error(say("{} cannot be drawn: {}.", name, std::strerror(errno)));
    left.remove_prefix(size_t(n));
  }
  ::lseek(in, 0, SEEK_SET);

  posix_spawn_file_actions_t actions;
  posix_spawn_file_actions_init(&actions);
  posix_spawn_file_actions_adddup2(&actions, in, 0);
  posix_spawn_file_actions_adddup2(&actions, output.ends[1], 1);
  posix_spawn_file_actions_adddup2(&actions, said.ends[1], 2);
  std::string path = program.string(), what = kind == DrawingKind::Svg ? "svg" : "png", called = name;
  char* const arguments[] = {path.data(), what.data(), called.data(), nullptr};
  pid_t child = -1;
  const int failed = ::posix_spawn(&child, path.c_str(), &actions, nullptr, arguments, environ);
  posix_spawn_file_actions_destroy(&actions);
  if (failed) throw std::runtime_error(say("{} cannot be drawn: {}.", name, std::strerror(failed)));
  output.closeWriting();
  said.closeWriting();

  std::string picture, words;
  const auto end = std::chrono::steady_clock::now() + std::chrono::milliseconds(kMilliseconds);
  bool late = false;
  pollfd fds[2] = {{output.ends[0], POLLIN, 0}, {said.ends[0], POLLIN, 0}};
  while (fds[0].fd >= 0 || fds[1].fd >= 0) {
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
      std::string& to = k == 0 ? picture : words;
      if (n > 0 && to.size() < (1u << 20))
        to.append(part, size_t(n));
      else if (n <= 0 && errno != EINTR)
        fds[k].fd = -1;
    }
  }
  if (late) ::kill(child, SIGKILL);
  int status = 0;
  while (::waitpid(child, &status, 0) < 0 && errno == EINTR) {
  }
  constexpr const char* simpler = "Save it as a simpler drawing: plain shapes, no filters.";
  if (late || (WIFSIGNALED(status) && WTERMSIG(status) == SIGXCPU))
    throw std::runtime_error(say("{} takes too long to draw. {}", name, simpler));
  if (WIFSIGNALED(status) || (WIFEXITED(status) && WEXITSTATUS(status) > 2))
    throw std::runtime_error(say("{} cannot be drawn within {} MB. {}", name, kMemory >> 20, simpler));
  if (WEXITSTATUS(status) != 0 || picture.size() != size_t(kDrawingSize) * kDrawingSize)
    throw std::runtime_error(words.empty() ? say("{} cannot be drawn. {}", name, simpler)
                                           : words.substr(0, words.find('\n')));
  return {picture.begin(), picture.end()};
}

int drawingProcess(int argc, char** argv) {
  if (argc != 3) return 1;
  std::signal(SIGXFSZ, SIG_IGN);
  const auto limit = [](int what, rlim_t most) {
    const rlimit l{most, most};
    ::setrlimit(what, &l);
  };
#if !defined(__SANITIZE_ADDRESS__) && !defined(__SANITIZE_THREAD__)
  limit(RLIMIT_AS, kMemory);  // a sanitizer's own tables take terabytes of addresses
#endif
  limit(RLIMIT_CPU, kProcessorSeconds);
  limit(RLIMIT_FSIZE, 0);
  limit(RLIMIT_CORE, 0);
  try {
    std::string bytes;
    char part[65536];
    for (ssize_t n; (n = ::read(0, part, sizeof part)) > 0;) bytes.append(part, size_t(n));
    const auto picture = draw(bytes, std::strcmp(argv[1], "svg") == 0 ? DrawingKind::Svg : DrawingKind::Png, argv[2]);
    for (size_t done = 0; done < picture.size();) {
      const ssize_t n = ::write(1, picture.data() + done, picture.size() - done);
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
