#include "gear/profile.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <stdexcept>

#include "spoken/say.h"

namespace easel {
namespace {

// Sums over a sphere stay finite far below what a double holds; a searchlight has 1e9.
constexpr double kBrightest = 1e12;

void ascending(const std::vector<double>& a, const char* what) {
  for (size_t i = 0; i < a.size(); ++i)
    if (!std::isfinite(a[i]) || (i > 0 && a[i] <= a[i - 1]))
      throw std::invalid_argument(say("The {} angles do not ascend at number {}.", what, i + 1));
}
// Index and share of the upper neighbour.
std::pair<size_t, double> between(const std::vector<double>& a, double v) {
  if (a.size() == 1 || v <= a.front()) return {0, 0};
  if (v >= a.back()) return {a.size() - 2, 1};
  const auto i = size_t(std::upper_bound(a.begin(), a.end(), v) - a.begin()) - 1;
  return {i, (v - a[i]) / (a[i + 1] - a[i])};
}

}  // namespace

AngularProfile::AngularProfile(std::vector<double> vertical, std::vector<double> horizontal,
                               std::vector<std::vector<double>> candela)
    : vertical_(std::move(vertical)), horizontal_(std::move(horizontal)), candela_(std::move(candela)) {
  if (vertical_.empty() || horizontal_.empty() || candela_.size() != horizontal_.size())
    throw std::invalid_argument(
        say("A profile needs at least one vertical and one horizontal angle, and a row for each."));
  ascending(vertical_, "vertical");
  ascending(horizontal_, "horizontal");
  for (const auto& row : candela_) {
    if (row.size() != vertical_.size())
      throw std::invalid_argument(say("A row has {} values for {} vertical angles.", row.size(), vertical_.size()));
    for (double v : row) {
      if (!(v >= 0 && v <= kBrightest))
        throw std::invalid_argument(say("An intensity is negative, no number, or above {:g} candela.", kBrightest));
      peak_ = std::max(peak_, v);
    }
  }
  if (!(peak_ > 0)) throw std::invalid_argument(say("All intensities are zero: it gives no light."));
  forward_ = integrate(90);
  all_ = integrate(180);
}

double AngularProfile::at(double v, double h) const {
  if (v > vertical_.back() + 1e-9 || v < vertical_.front() - 1e-9) return 0;
  h = std::fmod(std::fmod(h, 360) + 360, 360);
  const double last = horizontal_.back();
  if (last < 359 && last > 0) {
    if (last <= 180 + 1e-9 && h > 180) h = 360 - h;  // symmetric about the plane C0-C180
    if (last <= 90 + 1e-9 && h > 90) h = 180 - h;    // and about C90-C270
  }
  // Named one by one: a structured binding cannot be captured before C++20, nor by clang 14 at all.
  const auto vertical = between(vertical_, v), horizontal = between(horizontal_, h);
  const size_t i = vertical.first, j = horizontal.first;
  const double fi = vertical.second, fj = horizontal.second;
  auto row = [&](size_t k) {
    const auto& r = candela_[k];
    return r.size() == 1 ? r[0] : r[i] + (r[i + 1] - r[i]) * fi;
  };
  return candela_.size() == 1 ? row(0) : row(j) + (row(j + 1) - row(j)) * fj;
}

double AngularProfile::integrate(double toDegrees) const {
  constexpr int nv = 1440, nh = 72;
  constexpr double rad = std::numbers::pi / 180;
  double sum = 0;
  const double step = toDegrees / nv;
  for (int i = 0; i < nv; ++i) {
    const double v = (i + 0.5) * step;
    double ring = 0;
    const int around = horizontal_.size() == 1 ? 1 : nh;
    for (int k = 0; k < around; ++k) ring += at(v, (k + 0.5) * 360.0 / around);
    sum += ring / around * std::sin(v * rad);
  }
  return sum * step * rad * 2 * std::numbers::pi;
}

}  // namespace easel
