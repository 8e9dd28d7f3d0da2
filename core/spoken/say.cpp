#include "spoken/say.h"

#include <memory>
#include <mutex>

namespace easel {
namespace {
std::mutex guard;
std::shared_ptr<const Translate>& inUse() {
  static auto& use = *new std::shared_ptr<const Translate>;
  return use;
}
}  // namespace

void speakThrough(Translate translate) {
  const std::lock_guard lock(guard);
  inUse() = translate ? std::make_shared<const Translate>(std::move(translate)) : nullptr;
}

std::string translated(std::string_view english) {
  std::shared_ptr<const Translate> translate;
  {
    const std::lock_guard lock(guard);
    translate = inUse();
  }
  std::string out = translate ? (*translate)(english) : std::string();
  return out.empty() ? std::string(english) : out;
}

std::string sayFilled(std::string_view english, fmt::format_args values) {
  const std::string text = translated(english);
  try {
    return fmt::vformat(text, values);
  } catch (const fmt::format_error&) {
    return fmt::vformat(english, values);
  }
}

}  // namespace easel
