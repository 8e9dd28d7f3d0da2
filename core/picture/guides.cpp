#include "picture/guides.h"

#include <algorithm>

#include "threads/parallel.h"

namespace easel {

Guides::Guides(int w, int h) : width(w), height(h) {
  const size_t n = size_t(w) * size_t(h);
  for (auto* plane : {&px, &py, &pz, &nx, &ny, &nz, &spread}) plane->resize(n);
  surface.resize(n);
  pure.resize(n);
}

void Guides::set(size_t i, Vec3 p, Vec3 n, Surface shows, bool wholly) {
  px[i] = p.x;
  py[i] = p.y;
  pz[i] = p.z;
  nx[i] = n.x;
  ny[i] = n.y;
  nz[i] = n.z;
  surface[i] = std::int32_t(shows);
  pure[i] = wholly ? surface[i] : -1;
}

void Guides::takeHalf(const Guides& full) {
  inParallel(size_t(height), 8, [&](size_t first, size_t last) {
    for (int y = int(first); y < int(last); ++y)
      for (int x = 0; x < width; ++x) {
        const size_t from = full.at(std::min(2 * x, full.width - 1), std::min(2 * y + (x & 1), full.height - 1));
        set(at(x, y), full.position(from), full.normal(from), Surface(full.surface[from]), full.pure[from] >= 0);
      }
  });
}

void Guides::measure(Vec3 eye, float pixelAt1m) {
  inParallel(spread.size(), 8192, [&](size_t first, size_t last) {
    for (size_t i = first; i < last; ++i) spread[i] = pixelAt1m * length(position(i) - eye);
  });
}

void Guides::findEven() {
  even.resize(surface.size());
  inParallel(size_t(height), 8, [&](size_t first, size_t last) {
    for (int y = int(first); y < int(last); ++y)
      for (int x = 0; x < width; ++x) {
        const int x1 = std::min(x + 1, width - 1), y1 = std::min(y + 1, height - 1);
        const size_t i = at(x, y);
        bool same = true;
        for (const size_t j : {at(x1, y), at(x, y1), at(x1, y1)})
          same &= surface[j] == surface[i] && dot(normal(j), normal(i)) > 0.97f;
        even[i] = same;
      }
  });
}

}  // namespace easel
