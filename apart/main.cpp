// easel-apart KIND NAME MEMORY SECONDS: reads one file of another program from its input, within limits; started by the
// other programs.
#include "files/apart.h"
#include "gear/drawing.h"
#include "gear/model.h"
#include "sheet/attached.h"

#ifdef __SANITIZE_ADDRESS__
// Under the sanitizer addresses cannot be limited; what is in memory can.
extern "C" const char* __asan_default_options() { return "hard_rss_limit_mb=1024"; }
#endif

int main(int argc, char** argv) {
  using namespace easel;
  const auto drawn = [](DrawingKind kind) {
    return [kind](const std::string& bytes, const std::string& name) {
      const auto picture = draw(bytes, kind, name);
      return std::string(picture.begin(), picture.end());
    };
  };
  return apartProcess(
      argc, argv,
      {{"svg", drawn(DrawingKind::Svg)},
       {"png", drawn(DrawingKind::Png)},
       {"obj", [](const std::string& bytes, const std::string& name) { return packed(readModelText(bytes, name)); }},
       {"pdf", [](const std::string& bytes, const std::string&) { return packedAttachment(bytes); }}});
}
