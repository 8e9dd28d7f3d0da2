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

namespace {

// Empty: no language, or it does not know the text.
std::string lookedUp(std::string_view english, int count) {
  std::shared_ptr<const Translate> translate;
  {
    const std::lock_guard lock(guard);
    translate = inUse();
  }
  return translate ? (*translate)(english, count) : std::string();
}

std::string filled(const std::string& text, std::string_view english, fmt::format_args values) {
  try {
    return fmt::vformat(text, values);
  } catch (const fmt::format_error&) {
    return fmt::vformat(english, values);
  }
}

}  // namespace

std::string translated(std::string_view english) {
  std::string out = lookedUp(english, kNoCount);
  return out.empty() ? std::string(english) : out;
}

std::string sayFilled(std::string_view english, fmt::format_args values) {
  return filled(translated(english), english, values);
}

std::string sayCounted(int count, std::string_view one, std::string_view many, fmt::format_args values) {
  const std::string_view english = count == 1 ? one : many;
  const std::string known = lookedUp(many, count);
  return filled(known.empty() ? std::string(english) : known, english, values);
}

std::string eitherOf(const std::vector<std::string>& all) {
  std::string said;
  for (size_t i = 0; i < all.size(); ++i)
    said = i == 0 ? all[i] : i + 1 == all.size() ? say("{} or {}", said, all[i]) : say("{}, {}", said, all[i]);
  return said;
}

}  // namespace easel
