// What is asked of every reader of foreign files, by the fuzzers and by the tests of their corpus: what it takes must
// be written and read again as the same thing; what it refuses must be one of its own sentences.
#pragma once

#include <sys/mman.h>
#include <unistd.h>

#include <cmath>
#include <cstdint>
#include <cstdlib>
#include <filesystem>
#include <stdexcept>
#include <string>
#include <string_view>

#include "formats/catalogue.h"
#include "formats/day_json.h"
#include "formats/ies_file.h"
#include "formats/kit_json.h"
#include "formats/own_looks.h"
#include "formats/photograph.h"
#include "formats/plan_json.h"
#include "formats/wish_json.h"
#include "gear/drawing.h"
#include "gear/model.h"
#include "journal/journal.h"
#include "plan/check.h"
#include "run/said_reading.h"
#include "sheet/attached.h"
#include "sheet/packed_plan.h"
#include "shoot/forecast.h"
#include "sitters/sitter_file.h"
#include "wire/link.h"

namespace easel::fuzz {

inline void require(bool holds) {
  if (!holds) std::abort();
}

inline void plan(std::string_view text) {
  const Plan p = readPlanText(text);
  require(readPlanText(writePlanText(p)) == p);
  checkPlan(p);
}

inline void kit(std::string_view text) {
  const Inventory k = readKitText(text);
  const std::string once = writeKitText(k);
  require(writeKitText(readKitText(once)) == once);
}

// A day that is taken is also reckoned, with all that stands and hangs in it.
inline void day(std::string_view text) {
  const Day d = readDayText(text);
  require(readDayText(writeDayText(d)) == d);
  if (d.looks.size() <= 6) forecast(d, {});
}

inline void packed(std::string_view text) {
  const Plan p = unpackedPlan(text);
  unpackedPlan(packedPlan(p));
}

inline void attached(std::string_view bytes) { attachedTo(bytes, ".json"); }

// Gear, roles, looks, people and shooting days' lists of the user's own.
inline void data(std::string_view text) { whatItBrings(text); }

inline void wish(std::string_view text) { readWishText(text, "/nowhere"); }

inline void ies(std::string_view text) {
  const IesFile f = readIesText(text);
  const Modifier m = modifierFromIes(f, "own-fuzz", "Fuzz");
  readIesText(writeIesText(m, 1000, 100));
  Inventory k;
  k.ownModifiers.push_back(m);
  readKitText(writeKitText(k));
}

// Drawn here and not apart: the sanitizers look at this process. libraries' own aborts are why the program draws apart.
inline void pattern(std::string_view bytes) {
  draw(bytes, bytes.substr(0, 4) == "\x89PNG" ? DrawingKind::Png : DrawingKind::Svg, "fuzz");
}

// Own looks are plans that are kept under a name that a stranger may have given.
inline void look(std::string_view bytes) {
  static const struct Home {
    std::string name = (std::filesystem::temp_directory_path() / "easel-fuzz-XXXXXX").string();
    Home() { require(::mkdtemp(name.data()) != nullptr); }
    ~Home() {
      std::error_code none;
      std::filesystem::remove_all(name, none);
    }
  } home;
  ::setenv("XDG_DATA_HOME", home.name.c_str(), 1);
  const size_t cut = bytes.find('\n');
  if (cut == std::string_view::npos || cut > 200) return;
  const OwnLook kept = keepAsLook(readPlanText(bytes.substr(cut + 1)), std::string(bytes.substr(0, cut)));
  require(loadPlan(kept.file).title == kept.name);
  forgetLook(kept);
}

inline void sitter(std::string_view bytes) {
  const int fd = ::memfd_create("sitter", 0);
  require(fd >= 0 && ::write(fd, bytes.data(), bytes.size()) == ssize_t(bytes.size()));
  const auto file = std::filesystem::path("/proc/self/fd") / std::to_string(fd);
  try {
    readSitter(file);
  } catch (...) {
    ::close(fd);
    throw;
  }
  ::close(fd);
}

// Whatever a device sends, both ends stand: nothing is thrown, and what they make of it can be sent again.
inline void wire(std::string_view bytes) {
  ProgramLink program;
  DeviceLink device(DeviceKind::Meter, "fuzz", {"read"});
  program.take(device.out());
  program.ask("read", {}, {});
  const size_t half = bytes.size() / 2;
  for (const std::string_view part : {bytes.substr(0, half), bytes.substr(half)}) {
    for (const WireEvent& e : program.take(part)) {
      const std::string line = writeMessage(e.message);
      if (e.kind == WireEvent::Kind::Told) require(writeMessage(readMessage(line)) == line);
    }
    for (const WireEvent& e : device.take(part))
      if (e.kind == WireEvent::Kind::Asked) device.answer(e.id, e.message.values);
  }
  program.take(device.out());
  program.overdue(WireTime::max());
  require(program.gone().empty());
}

// A session that is taken into a journal comes out of it as it went in.
inline void session(std::string_view text) {
  Journal journal(":memory:");
  const std::string once = journal.json(journal.import(text));
  Journal again(":memory:");
  require(again.json(again.import(once)) == once);
}

// What is taken can be put up: every corner is a place, within the size that is told.
inline void model(std::string_view text) {
  const Model m = readModelText(std::string(text), "fuzz.obj");
  require(!m.triangles.empty() && m.triangles.size() % 3 == 0);
  for (const std::uint32_t at : m.triangles) {
    require(at < m.position.size());
    const Vec3 p = m.position[at];
    require(std::abs(p.x) <= Model::kLargest && p.y >= -1e-3f && p.y <= Model::kLargest + 1e-3f &&
            std::abs(p.z) <= Model::kLargest);
  }
}

inline void said(std::string_view text) { require(saidAperture(text) > 0); }

inline void photograph(std::string_view bytes) {
  const int fd = ::memfd_create("photograph", 0);
  require(fd >= 0 && ::write(fd, bytes.data(), bytes.size()) == ssize_t(bytes.size()));
  try {
    against(settingsOfPhotograph(std::filesystem::path("/proc/self/fd") / std::to_string(fd)), Plan{});
  } catch (...) {
    ::close(fd);
    throw;
  }
  ::close(fd);
}

}  // namespace easel::fuzz
