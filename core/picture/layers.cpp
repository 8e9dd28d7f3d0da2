#include "picture/layers.h"

#include <array>
#include <cmath>

#include "colour/colour.h"
#include "picture/develop.h"
#include "plan/lens.h"
#include "plan/sync.h"

namespace easel {
namespace {

std::vector<WeightedLayer> weigh(const Layers& layers, const PlacedSet& set, const Show& show) {
  std::vector<WeightedLayer> out;
  const Camera& cam = set.camera;
  const auto gain = float(gainOf(cam));
  bool past = false;
  for (const PlacedLight& placed : set.lights) {
    const Light& l = placed.light;
    const auto at = layers.lights.find(l.id);
    const bool wanted = show.what == Show::What::All    ? l.on
                        : show.what == Show::What::Solo ? l.id == show.light
                        : show.what == Show::What::UpTo ? l.on && !past
                                                        : false;
    if (show.what == Show::What::UpTo && l.id == show.light) past = true;
    if (!wanted || !placed.lamp || at == layers.lights.end() || !at->second) continue;
    const bool hidden = show.curtains && syncOf(placed.lamp->unit, cam) == Sync::Band;
    out.push_back({at->second.get(), placed.lamp->light(cam) * gain, hidden});
  }
  if (layers.ambient && show.what != Show::What::Solo)
    out.push_back({layers.ambient.get(),
                   lightColour(set.ambient.kelvin, cam.whiteBalance) * (float(set.ambientExposure()) * gain)});
  return out;
}

// Where the shutter's second curtain has been faster than the flash.
Curtain curtainOf(const Layers& layers, const PlacedSet& set) {
  Curtain c;
  const View& v = layers.view;
  const bool part = v.wholeWidth > 0;
  const int wide = part ? v.wholeWidth : layers.width, high = part ? v.wholeHeight : layers.height;
  c.across = curtainsCross(set.camera);
  const int n = c.across ? layers.width : layers.height, first = part ? (c.across ? v.left : v.top) : 0;
  for (int i = 0; i < n; ++i)
    c.open.push_back(
        float(openAt(set.camera, double(wide) / high, (double(first + i) + 0.5) / double(c.across ? wide : high))));
  return c;
}

// The 8-bit code of a linear value, within 0.2 of a code.
std::uint8_t codeOf(float linear) {
  static const auto codes = [] {
    std::array<std::uint8_t, 16385> t{};
    for (size_t i = 0; i < t.size(); ++i)
      t[i] = std::uint8_t(std::lround(255 * srgbEncode(double(i) / double(t.size() - 1))));
    return t;
  }();
  return codes[size_t(std::lround(linear * float(codes.size() - 1)))];
}

}  // namespace

Picture developPicture(const Layers& layers, const PlacedSet& set, const Show& show, int reduce) {
  Picture p;
  develop(weigh(layers, set, show), layers.width, layers.height, p.rgba, curtainOf(layers, set));
  p.width = layers.width;
  p.height = layers.height;
  if (reduce <= 1) return p;
  // A mean of codes would be darker than what the eye sees from further away.
  const std::array<float, 256>& linear = linearOfCodes();
  Picture small;
  small.width = p.width / reduce;
  small.height = p.height / reduce;
  small.rgba.resize(size_t(small.width) * size_t(small.height) * 4);
  for (int y = 0; y < small.height; ++y)
    for (int x = 0; x < small.width; ++x)
      for (int c = 0; c < 4; ++c) {
        float sum = 0;
        for (int dy = 0; dy < reduce; ++dy)
          for (int dx = 0; dx < reduce; ++dx)
            sum +=
                linear[p.rgba[(size_t(y * reduce + dy) * size_t(p.width) + size_t(x * reduce + dx)) * 4 + size_t(c)]];
        small.rgba[(size_t(y) * size_t(small.width) + size_t(x)) * 4 + size_t(c)] =
            codeOf(sum / float(reduce * reduce));
      }
  return small;
}

void linearPicture(const Layers& layers, const PlacedSet& set, const Show& show, std::vector<float> planes[3]) {
  combineLinear(weigh(layers, set, show), layers.width, layers.height, planes, curtainOf(layers, set));
}

std::optional<SurfacePoint> surfaceAt(const Layers& layers, double px, double py) {
  if (!layers.scene) return {};
  return layers.scene->intersect(layers.view.camera.eye, layers.view.direction(float(px), float(py)), 1);
}

std::optional<SurfacePoint> bareAt(const Scene& scene, const View& view, double px, double py) {
  return scene.intersect(view.camera.eye, view.direction(float(px), float(py)), 1, -1, Colours::None);
}

std::optional<Vec2> pixelOf(const View& view, Vec3 point) {
  if (view.height <= 0) return {};
  const auto p = view.place(point);
  if (!p || p->x < 0 || p->y < 0 || p->x >= float(view.width) || p->y >= float(view.height)) return {};
  return p;
}

SpotReading readPixel(const Layers& layers, const PlacedSet& set, double px, double py) {
  const auto hit = surfaceAt(layers, px, py);
  if (!hit) return {};
  return readSpot(*layers.scene, set, hit->position + hit->facet * 5e-4f, hit->normal, hit->surface);
}

}  // namespace easel
