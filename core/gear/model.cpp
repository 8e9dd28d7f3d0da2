#include "gear/model.h"

#include <tiny_obj_loader.h>

#include <algorithm>
#include <cmath>
#include <cstring>
#include <sstream>
#include <stdexcept>

#include "files/apart.h"
#include "files/atomic_file.h"
#include "files/json_front.h"
#include "files/own_files.h"
#include "files/places.h"
#include "spoken/say.h"

namespace easel {
namespace {

constexpr std::uintmax_t kLargestFile = 32u << 20;  // bytes

bool isObj(const std::filesystem::path& file) { return lowerEnding(file) == ".obj"; }

// The library takes "1e999" and words for numbers; a line with a place that is none is told by its number.
void requireNumbers(const std::string& text, const std::string& name) {
  // As the library has it: lines end with either sign, and may be indented.
  std::string levelled = text;
  std::replace(levelled.begin(), levelled.end(), '\r', '\n');
  std::istringstream in(levelled);
  std::string line;
  for (int number = 1; std::getline(in, line); ++number) {
    line.erase(0, line.find_first_not_of(" \t"));
    if (line.size() > 20'000)
      throw std::runtime_error(
          say("{}, line {}: it is longer than a line of such a file can be. Export it again.", name, number));
    if (!line.starts_with("v ") && !line.starts_with("v\t")) continue;
    std::istringstream words(line.substr(2));
    words.imbue(std::locale::classic());
    for (int c = 0; c < 3; ++c) {
      double v = 0;
      if (!(words >> v) || !std::isfinite(v) || std::abs(v) > 1e6)
        throw std::runtime_error(
            say("{}, line {}: a place needs three numbers. Correct it, or export it again.", name, number));
    }
  }
}

}  // namespace

Model readModelText(const std::string& text, const std::string& name) {
  requireNumbers(text, name);
  tinyobj::attrib_t all;
  std::vector<tinyobj::shape_t> shapes;
  std::vector<tinyobj::material_t> materials;
  std::string warning, error;
  std::istringstream in(text);
  in.imbue(std::locale::classic());
  bool read = false;
  try {
    read = tinyobj::LoadObj(&all, &shapes, &materials, &warning, &error, &in, nullptr, true, false);
  } catch (const std::exception& e) {
    error = e.what();
  }
  if (!read) {
    std::replace(error.begin(), error.end(), '\n', ' ');
    throw std::runtime_error(say("{} is not a usable OBJ file: {}. Export it again.", name, foreign(error)));
  }
  Model m;
  const size_t places = all.vertices.size() / 3;
  for (const tinyobj::shape_t& s : shapes)
    for (size_t i = 0; i + 2 < s.mesh.indices.size(); i += 3)
      for (size_t k = 0; k < 3; ++k) {
        const int at = s.mesh.indices[i + k].vertex_index;
        if (at < 0 || size_t(at) >= places)
          throw std::runtime_error(
              say("{}: a face names place {}, and there are {}. Export it again.", name, at + 1, places));
        m.triangles.push_back(std::uint32_t(at));
      }
  if (m.triangles.empty())
    throw std::runtime_error(say("{} has no faces: nothing of it would be seen. Export it as a mesh.", name));
  if (m.triangles.size() / 3 > Model::kMostTriangles)
    throw std::runtime_error(say("{} has {} triangles, and {} are the most. Export it coarser.", name,
                                 m.triangles.size() / 3, Model::kMostTriangles));
  Box box;
  for (const std::uint32_t i : m.triangles)
    box.take({float(all.vertices[i * 3]), float(all.vertices[i * 3 + 1]), float(all.vertices[i * 3 + 2])});
  m.size = box.high - box.low;
  const double most = double(std::max({m.size.x, m.size.y, m.size.z}));
  if (!(most <= Model::kLargest && most >= 0.005))
    throw std::runtime_error(
        say("{} is {:.3g} m large. Files count in metres here, up to {:.0f}: scale it and export it "
            "again.",
            name, most, Model::kLargest));
  const Vec3 foot{(box.low.x + box.high.x) / 2, box.low.y, (box.low.z + box.high.z) / 2};
  m.position.reserve(places);
  for (size_t i = 0; i < places; ++i)
    m.position.push_back(
        Vec3{float(all.vertices[i * 3]), float(all.vertices[i * 3 + 1]), float(all.vertices[i * 3 + 2])} - foot);
  return m;
}

Model readModel(const std::filesystem::path& file) {
  const std::string name = file.filename().string();
  if (!isObj(file)) throw std::runtime_error(say("{} is not an OBJ file. Export the thing as Wavefront OBJ.", name));
  const std::string text = readWholeFile(file, kLargestFile);
  ApartLimits limits;
  limits.advice = say("Export it coarser, in triangles.");
  return unpackedModel(readApart("obj", text, name, limits));
}

std::string packed(const Model& m) {
  std::string out;
  const auto put = [&](const auto* values, size_t count) {
    out.append(reinterpret_cast<const char*>(values), count * sizeof *values);
  };
  const std::uint32_t counts[] = {std::uint32_t(m.position.size()), std::uint32_t(m.triangles.size())};
  put(counts, 2);
  put(&m.size, 1);
  put(m.position.data(), m.position.size());
  put(m.triangles.data(), m.triangles.size());
  return out;
}

Model unpackedModel(const std::string& bytes) {
  std::string_view left = bytes;
  const auto take = [&](auto* values, size_t count) {
    const size_t size = count * sizeof *values;
    if (size > left.size()) throw std::runtime_error(say("A mesh did not arrive complete. Try again."));
    std::copy_n(left.data(), size, reinterpret_cast<char*>(values));
    left.remove_prefix(size);
  };
  Model m;
  std::uint32_t counts[2] = {};
  take(counts, 2);
  take(&m.size, 1);
  if (counts[0] > left.size() || counts[1] > left.size() || counts[1] / 3 > Model::kMostTriangles)
    throw std::runtime_error(say("A mesh did not arrive complete. Try again."));
  m.position.resize(counts[0]);
  m.triangles.resize(counts[1]);
  take(m.position.data(), m.position.size());
  take(m.triangles.data(), m.triangles.size());
  for (const std::uint32_t i : m.triangles)
    if (i >= m.position.size()) throw std::runtime_error(say("A mesh did not arrive complete. Try again."));
  return m;
}

std::filesystem::path modelFolder() { return ownFolder() / "models"; }

std::vector<std::string> models() {
  std::vector<std::string> out;
  std::error_code ignored;
  for (const auto& entry : std::filesystem::directory_iterator(modelFolder(), ignored))
    if (isObj(entry.path())) out.push_back(entry.path().filename().string());
  std::sort(out.begin(), out.end());
  return out;
}

namespace {
ReadFiles<Model> known;
}

std::shared_ptr<const Model> findModel(const std::string& id) {
  if (!isPlainName(id)) return nullptr;
  const auto when = writtenAt(modelFolder() / id);
  return when ? known.get(id, *when, [&] { return readModel(modelFolder() / id); }) : nullptr;
}

bool modelThere(const std::string& id) {
  if (!isPlainName(id)) return false;
  const auto when = writtenAt(modelFolder() / id);
  return when && known.state(id, *when) != ReadFiles<Model>::State::Unreadable;
}

std::string importModel(const std::filesystem::path& file) {
  readModel(file);  // refuse what cannot be used before anything is written
  const std::string id = file.filename().string();
  if (!isPlainName(id)) throw std::runtime_error(say("A model needs a plain file name. Rename the file."));
  keepIn(modelFolder(), file);
  return id;
}

}  // namespace easel
