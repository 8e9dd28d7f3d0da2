#include "picture/guides.h"

#include "transport/parallel.h"

namespace easel {

Guides::Guides(int w, int h) : width(w), height(h) {
  const size_t n = size_t(w) * size_t(h);
  for (auto* plane : {&px, &py, &pz, &nx, &ny, &nz, &spread}) plane->resize(n);
  surface.resize(n);
  pure.resize(n);
  even.resize(n);
}

void Guides::findEven() {
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
