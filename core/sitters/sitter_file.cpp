#include "sitters/sitter_file.h"

#include <fcntl.h>
#include <sys/file.h>
#include <unistd.h>

#include <algorithm>
#include <array>
#include <cerrno>
#include <cstdlib>
#include <cstring>
#include <fstream>
#include <initializer_list>
#include <map>
#include <mutex>
#include <stdexcept>

#include "files/atomic_file.h"
#include "files/places.h"
#include "sitters/colouring.h"
#include "sitters/eyes.h"
#include "sitters/people.h"
#include "spoken/say.h"

namespace easel {
namespace {

constexpr std::array<char, 8> kMagic = {'E', 'A', 'S', 'E', 'L', 'S', 'I', 'T'};

std::uint32_t crc32(const char* data, size_t n) {
  static const auto table = [] {
    std::array<std::array<std::uint32_t, 256>, 8> t{};
    for (std::uint32_t i = 0; i < 256; ++i) {
      std::uint32_t c = i;
      for (int k = 0; k < 8; ++k) c = c & 1 ? 0xEDB88320u ^ (c >> 1) : c >> 1;
      t[0][i] = c;
    }
    for (std::uint32_t i = 0; i < 256; ++i)
      for (int k = 1; k < 8; ++k) t[k][i] = t[0][t[k - 1][i] & 255] ^ (t[k - 1][i] >> 8);
    return t;
  }();
  std::uint32_t c = ~0u;
  auto byte = [&](size_t i) { return std::uint32_t(static_cast<unsigned char>(data[i])); };
  size_t i = 0;
  for (; i + 8 <= n; i += 8) {  // eight bytes a step: the files are megabytes and start-up waits for this
    c ^= byte(i) | byte(i + 1) << 8 | byte(i + 2) << 16 | byte(i + 3) << 24;
    c = table[7][c & 255] ^ table[6][(c >> 8) & 255] ^ table[5][(c >> 16) & 255] ^ table[4][c >> 24] ^
        table[3][byte(i + 4)] ^ table[2][byte(i + 5)] ^ table[1][byte(i + 6)] ^ table[0][byte(i + 7)];
  }
  for (; i < n; ++i) c = table[0][(c ^ byte(i)) & 255] ^ (c >> 8);
  return ~c;
}

struct Out {
  std::string bytes;
  void raw(const void* p, size_t n) { bytes.append(static_cast<const char*>(p), n); }
  template <class T>
  void value(const T& v) {
    raw(&v, sizeof v);
  }
  void text(const std::string& s) {
    value(std::uint32_t(s.size()));
    raw(s.data(), s.size());
  }
  template <class T>
  void array(const std::vector<T>& v) {
    value(std::uint64_t(v.size()));
    raw(v.data(), v.size() * sizeof(T));
  }
};

struct In {
  const std::string& bytes;
  size_t at = 0;
  void raw(void* p, size_t n) {
    if (n > bytes.size() - at) throw std::runtime_error(say("it ends too early"));
    std::copy_n(bytes.data() + at, n, static_cast<char*>(p));  // not memcpy(): an empty array has no address
    at += n;
  }
  template <class T>
  T value() {
    T v;
    raw(&v, sizeof v);
    return v;
  }
  std::string text() {
    std::string s(checked(value<std::uint32_t>(), 1), '\0');
    raw(s.data(), s.size());
    return s;
  }
  size_t checked(std::uint64_t n, size_t each) {
    if (n > (bytes.size() - at) / each) throw std::runtime_error(say("a count in it is too large"));
    return size_t(n);
  }
  template <class T>
  std::vector<T> array() {
    std::vector<T> v(checked(value<std::uint64_t>(), sizeof(T)));
    raw(v.data(), v.size() * sizeof(T));
    return v;
  }
};

void demandMesh(size_t n, std::initializer_list<size_t> sizes, const std::vector<std::uint32_t>& triangles) {
  if (triangles.size() % 3 != 0 || std::any_of(sizes.begin(), sizes.end(), [&](size_t s) { return s != n; }))
    throw std::runtime_error(say("a mesh does not fit together"));
  if (std::any_of(triangles.begin(), triangles.end(), [&](std::uint32_t i) { return i >= n; }))
    throw std::runtime_error(say("a mesh names a vertex that is not there"));
}

void put(Out& o, const std::vector<Morph>& all) {
  o.value(std::uint32_t(all.size()));
  for (const Morph& m : all) {
    o.text(m.expression);
    o.array(m.vertex);
    o.array(m.shift);
    o.array(m.normal);
  }
}
// Of a mesh with so many vertices.
std::vector<Morph> morphs(In& in, size_t vertices) {
  std::vector<Morph> all(in.checked(in.value<std::uint32_t>(), 8));
  for (Morph& m : all) {
    m.expression = in.text();
    m.vertex = in.array<std::uint32_t>();
    m.shift = in.array<Vec3>();
    m.normal = in.array<Vec3>();
    if (m.shift.size() != m.vertex.size() || m.normal.size() != m.vertex.size() ||
        std::any_of(m.vertex.begin(), m.vertex.end(), [&](std::uint32_t i) { return i >= vertices; }))
      throw std::runtime_error(say("a mesh names a vertex that is not there"));
  }
  return all;
}

[[noreturn]] void refuse(const std::filesystem::path& file, const std::string& why) {
  throw std::runtime_error(
      say("The sitter file {} cannot be used: {}. Run ./run-demo once with the network on; it fetches and "
          "bakes the sitters.",
          file.string(), why));
}

}  // namespace

std::filesystem::path sitterFolder() {
  if (const char* own = std::getenv("EASEL_SITTERS"); own && *own) return own;
  if (const char* cache = std::getenv("XDG_CACHE_HOME"); cache && *cache)
    return std::filesystem::path(cache) / "jolly-easel" / "sitters";
  return homeFolder() / ".cache" / "jolly-easel" / "sitters";
}

void writeSitter(const std::filesystem::path& file, const Sitter& s) {
  Out o;
  o.text(s.id);
  o.text(s.name);
  o.text(s.recipe);
  o.text(s.hairStyle);
  o.value(s.hips);
  o.value(s.soles);
  o.value(s.hairTint);
  o.value(s.skinTint);
  o.value(s.landmarks);
  o.value(std::uint32_t(s.textures.size()));
  for (const Texture& t : s.textures) {
    o.value(std::int32_t(t.width));
    o.value(std::int32_t(t.height));
    o.array(t.rgba);
  }
  o.value(std::uint32_t(s.parts.size()));
  for (const MeshPart& p : s.parts) {
    o.value(p.surface);
    o.value(p.garment);
    o.text(p.wear);
    o.text(p.of);
    o.value(p.texture);
    o.value(p.relief);
    o.array(p.position);
    o.array(p.normal);
    o.array(p.uv);
    o.array(p.headWeight);
    o.array(p.binding);
    o.array(p.triangles);
    put(o, p.morphs);
  }
  o.array(s.joints.of);
  o.value(s.joints.hip);
  o.value(s.joints.knee);
  o.array(s.ground.position);
  o.array(s.ground.normal);
  o.array(s.ground.scalp);
  o.array(s.ground.beard);
  o.array(s.ground.headWeight);
  put(o, s.ground.morphs);
  o.array(s.ground.triangles);
  for (const DistanceField* f : {&s.headField, &s.bodyField}) {
    o.value(f->low);
    o.value(f->cell);
    o.value(f->nx);
    o.value(f->ny);
    o.value(f->nz);
    o.array(f->values);
  }
  Out whole;
  whole.raw(kMagic.data(), kMagic.size());
  whole.value(kSitterFileVersion);
  whole.value(std::uint64_t(o.bytes.size()));
  whole.value(crc32(o.bytes.data(), o.bytes.size()));
  whole.bytes += o.bytes;
  writeFileAtomically(file, whole.bytes);
}

Sitter readSitter(const std::filesystem::path& file) {
  std::ifstream f(file, std::ios::binary | std::ios::ate);
  if (!f) refuse(file, say("it is not there or cannot be read"));
  const auto size = size_t(f.tellg());
  std::string head(24, '\0');
  f.seekg(0);
  if (size < 24 || !f.read(head.data(), 24) || std::memcmp(head.data(), kMagic.data(), 8) != 0)
    refuse(file, say("it is not a baked sitter"));
  std::uint32_t version, crc;
  std::uint64_t length;
  std::memcpy(&version, head.data() + 8, 4);
  std::memcpy(&length, head.data() + 12, 8);
  std::memcpy(&crc, head.data() + 20, 4);
  if (version != kSitterFileVersion)
    refuse(file, say("it has version {} and this program reads {}", version, kSitterFileVersion));
  if (length != size - 24) refuse(file, say("it is cut off"));
  std::string bytes(length, '\0');
  f.read(bytes.data(), std::streamsize(length));
  if (!f || crc32(bytes.data(), bytes.size()) != crc) refuse(file, say("its checksum is wrong"));

  try {
    In in{bytes};
    Sitter s;
    s.id = in.text();
    s.name = in.text();
    s.recipe = in.text();
    s.hairStyle = in.text();
    s.hips = in.value<float>();
    s.soles = in.value<float>();
    s.hairTint = in.value<Vec3>();
    s.skinTint = in.value<Vec3>();
    s.landmarks = in.value<Landmarks>();
    s.textures.resize(in.checked(in.value<std::uint32_t>(), 8));
    for (Texture& t : s.textures) {
      t.width = in.value<std::int32_t>();
      t.height = in.value<std::int32_t>();
      t.rgba = in.array<std::uint8_t>();
      if (t.width < 1 || t.height < 1 || t.rgba.size() != size_t(t.width) * size_t(t.height) * 4)
        throw std::runtime_error(say("a texture has the wrong size"));
    }
    s.parts.resize(in.checked(in.value<std::uint32_t>(), 8));
    for (MeshPart& p : s.parts) {
      p.surface = in.value<Surface>();
      p.garment = in.value<Garment>();
      p.wear = in.text();
      p.of = in.text();
      p.texture = in.value<std::int32_t>();
      p.relief = in.value<std::int32_t>();
      p.position = in.array<Vec3>();
      p.normal = in.array<Vec3>();
      p.uv = in.array<Vec2>();
      p.headWeight = in.array<float>();
      p.binding = in.array<Binding>();
      p.triangles = in.array<std::uint32_t>();
      const size_t n = p.position.size();
      p.morphs = morphs(in, n);
      demandMesh(n, {p.normal.size(), p.uv.size(), p.headWeight.size()}, p.triangles);
      const bool bound = std::all_of(p.binding.begin(), p.binding.end(), [](const Binding& b) {
        return std::all_of(b.bone.begin(), b.bone.end(), [](std::uint8_t k) { return k < Bones::kAll; });
      });
      if (std::max(p.texture, p.relief) >= int(s.textures.size()) || !bound ||
          (!p.binding.empty() && p.binding.size() != n))
        throw std::runtime_error(say("a mesh does not fit together"));
    }
    s.joints.of = in.array<Vec3>();
    s.joints.hip = in.value<std::array<Vec3, 2>>();
    s.joints.knee = in.value<std::array<Vec3, 2>>();
    if (!s.joints.of.empty() && s.joints.of.size() != size_t(Bones::kAll))
      throw std::runtime_error(say("it has the wrong number of joints"));
    HairGround& g = s.ground;
    g.position = in.array<Vec3>();
    g.normal = in.array<Vec3>();
    g.scalp = in.array<float>();
    g.beard = in.array<float>();
    g.headWeight = in.array<float>();
    g.morphs = morphs(in, g.position.size());
    g.triangles = in.array<std::uint32_t>();
    demandMesh(g.position.size(), {g.normal.size(), g.scalp.size(), g.beard.size(), g.headWeight.size()}, g.triangles);
    for (DistanceField* f : {&s.headField, &s.bodyField}) {
      f->low = in.value<Vec3>();
      f->cell = in.value<float>();
      f->nx = in.value<std::int32_t>();
      f->ny = in.value<std::int32_t>();
      f->nz = in.value<std::int32_t>();
      f->values = in.array<std::int8_t>();
      if (!f->sound() || !(f->cell > 0)) throw std::runtime_error(say("a field of distances has the wrong size"));
    }
    s.faceReflectance = faceReflectance(s);
    s.chinFront = frontOfChin(s);
    s.sockets = socketsOf(s);
    return s;
  } catch (const std::runtime_error& e) {
    refuse(file, e.what());
  }
}

std::shared_ptr<const Sitter> loadSitter(const std::string& id) {
  static std::mutex guard;
  static std::map<std::string, std::weak_ptr<const Sitter>> loaded;
  const std::string file = (sitterFolder() / (id + ".sitter")).string();
  std::lock_guard lock(guard);
  if (auto kept = loaded[file].lock()) return kept;
  if (!std::filesystem::exists(file) && bakingOf(sitterFolder()).goesOn)
    throw std::runtime_error(say("This sitter is still being prepared. The picture comes as soon as that is done."));
  auto fresh = std::make_shared<const Sitter>(readSitter(file));
  loaded[file] = fresh;
  return fresh;
}

namespace {
std::filesystem::path lockOf(const std::filesystem::path& folder) { return folder / "baking.lock"; }
}  // namespace

BakingLock::BakingLock(const std::filesystem::path& folder)
    : path_(lockOf(folder)), file_(::open(path_.c_str(), O_RDWR | O_CREAT | O_CLOEXEC, 0600)) {
  if (file_ < 0) throw std::runtime_error(say("{} cannot be written", path_.string()));
  while (::flock(file_, LOCK_EX) != 0 && errno == EINTR) {
  }
}
// The file goes, so that who watches the folder learns of it. A third program that comes in between may bake beside the
// one that waited: files are replaced as a whole, and who is there is not baked again.
BakingLock::~BakingLock() {
  ::unlink(path_.c_str());
  ::close(file_);
}

Baking bakingOf(const std::filesystem::path& folder) {
  Baking b;
  for (const Person& person : sitterCatalogue()) {
    std::error_code ignored;
    b.there += std::filesystem::exists(folder / (person.id + ".sitter"), ignored);
    ++b.all;
  }
  if (const int file = ::open(lockOf(folder).c_str(), O_RDONLY | O_CLOEXEC); file >= 0) {
    b.goesOn = ::flock(file, LOCK_SH | LOCK_NB) != 0 && errno == EWOULDBLOCK;
    ::close(file);
  }
  return b;
}

}  // namespace easel
