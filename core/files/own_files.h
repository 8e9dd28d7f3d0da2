// Files of the user's own that plans name by their plain file name: cut-outs, meshes. Any thread.
#pragma once

#include <filesystem>
#include <map>
#include <memory>
#include <mutex>
#include <optional>
#include <stdexcept>
#include <string>

namespace easel {

/// A file name without a folder, not hidden, below 200 bytes.
bool isPlainName(const std::string& id);
/// ".svg", in small letters.
std::string lowerEnding(const std::filesystem::path& file);
/// When the file was written last; none: it is not there.
std::optional<std::filesystem::file_time_type> writtenAt(const std::filesystem::path& file);
/// Copies a file into a folder of the user's, which is made if need be. Throws std::runtime_error with a sentence.
void keepIn(const std::filesystem::path& folder, const std::filesystem::path& file);

/// What has been read of them, by id and time: once, until the file changes. What cannot be read is kept as null, so
/// that it is tried once.
template <class Thing>
class ReadFiles {
 public:
  enum class State { Usable, Unreadable, NotTried };
  /// As far as is known: never reads, and waits for nobody who does.
  State state(const std::string& id, std::filesystem::file_time_type when) const {
    const std::scoped_lock lock(guard_);
    const auto at = kept_.find(id);
    if (at == kept_.end() || at->second.when != when) return State::NotTried;
    return at->second.thing ? State::Usable : State::Unreadable;
  }
  /// `read()` gives the thing or throws std::runtime_error.
  template <class Read>
  std::shared_ptr<const Thing> get(const std::string& id, std::filesystem::file_time_type when, Read read) {
    {
      const std::scoped_lock lock(guard_);
      if (const auto at = kept_.find(id); at != kept_.end() && at->second.when == when) return at->second.thing;
    }
    // Outside the lock: it may take seconds, and others only want to know whether it is there.
    std::shared_ptr<const Thing> thing;
    try {
      thing = std::make_shared<const Thing>(read());
    } catch (const std::runtime_error&) {
    }
    const std::scoped_lock lock(guard_);
    // Another thread may have been quicker: one thing has one address.
    Kept& k = kept_[id];
    if (k.thing && k.when == when) return k.thing;
    k = {when, thing};
    return thing;
  }

 private:
  struct Kept {
    std::filesystem::file_time_type when;
    std::shared_ptr<const Thing> thing;
  };
  mutable std::mutex guard_;
  std::map<std::string, Kept> kept_;
};

}  // namespace easel
