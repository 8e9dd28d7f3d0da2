// Meshes of the user's own: Wavefront OBJ files, in metres, y up, for pieces of a set.
//
// They lie in the models folder of the data home and are named by their file name, so that a plan says "vice.obj"
// wherever it is opened. Faces count, materials and textures do not: the piece says its reflectance. Any thread.
#pragma once

#include <cstdint>
#include <filesystem>
#include <memory>
#include <string>
#include <vector>

#include "geometry/box.h"

namespace easel {

struct Model {
  std::vector<Vec3> position;            ///< m, its foot's middle at the origin
  std::vector<std::uint32_t> triangles;  ///< three places each
  Vec3 size;                             ///< across, up, front to back [m]
  static constexpr std::size_t kMostTriangles = 300'000;
  static constexpr double kLargest = 8;  ///< m, any way
};

/// Reads a file. Throws std::runtime_error with a sentence that says where and what to do: not OBJ, larger than 32 MB,
/// a line that is wrong, no faces, too many, a place that is no number, larger than kLargest.
Model readModel(const std::filesystem::path& file);
/// Of text, here and now; `name` for the sentences. readModel() does it in a process of its own: what a library makes
/// of a stranger's polygons can take for ever.
Model readModelText(const std::string& text, const std::string& name);
/// For the way from that process, of this machine's numbers. Throws std::runtime_error when it is none.
std::string packed(const Model& model);
Model unpackedModel(const std::string& bytes);

/// File names in the user's folder.
std::vector<std::string> models();
/// nullptr when there is none of that name, or it cannot be read. Read once, then kept until the file changes.
std::shared_ptr<const Model> findModel(const std::string& id);
/// Whether there is one of that name, as far as is known: looks at the file's time only, for the interface.
bool modelThere(const std::string& id);
/// Takes a file into the user's folder and gives back its id. Throws std::runtime_error with a sentence.
std::string importModel(const std::filesystem::path& file);
/// $XDG_DATA_HOME/jolly-easel/models, made when it is first written to.
std::filesystem::path modelFolder();

}  // namespace easel
