#include "rendering/sharp.h"

#include <algorithm>
#include <cmath>

#include "plan/placement.h"

namespace easel {
namespace {

// How far smoothing and the scattering in skin reach at this size, so that a tile comes out as a part of the whole.
constexpr int kMargin = 32;

// Lights that the picture does not show need not be traced.
Plan shownOnly(Plan plan, const Show& show) {
  const auto last =
      std::find_if(plan.lights.begin(), plan.lights.end(), [&](const Light& l) { return l.id == show.light; });
  if (show.what == Show::What::UpTo && last != plan.lights.end()) plan.lights.erase(last + 1, plan.lights.end());
  std::erase_if(plan.lights, [&](const Light& l) {
    return show.what == Show::What::Ambient || (show.what == Show::What::Solo ? l.id != show.light : !l.on);
  });
  return plan;
}

}  // namespace

SharpPicture::SharpPicture(const Plan& plan, const Show& show, const SharpWish& wish)
    : plan_(shownOnly(plan, show)), show_(show), wish_(wish) {
  wish_.left = std::clamp(wish.left, 0, wish.width);
  wish_.top = std::clamp(wish.top, 0, wish.height);
  wish_.across = std::clamp(wish.across, 0, wish.width - wish_.left);
  wish_.down = std::clamp(wish.down, 0, wish.height - wish_.top);
  if (wish_.across < 1 || wish_.down < 1 || wish.width > kSharpest || wish.height > kSharpest) return;
  const int columns = (wish_.across + kTileSide - 1) / kTileSide, rows = (wish_.down + kTileSide - 1) / kTileSide;
  for (int r = 0; r < rows; ++r)
    for (int c = 0; c < columns; ++c) {
      const int x0 = wish_.across * c / columns, x1 = wish_.across * (c + 1) / columns;
      const int y0 = wish_.down * r / rows, y1 = wish_.down * (r + 1) / rows;
      tiles_.push_back({wish_.left + x0, wish_.top + y0, x1 - x0, y1 - y0});
    }
  // Where people look first: the face.
  Layers whole;
  whole.width = wish.width;
  whole.height = wish.height;
  whole.view = View{cameraPose(plan, double(wish.width) / wish.height), wish.width, wish.height};
  const Vec2 face = pixelOf(whole, facePoint(plan)).value_or(Vec2{float(wish.width) / 2, float(wish.height) / 2});
  const auto away = [&](const Place& p) {
    return std::hypot(double(p.left) + p.width / 2.0 - double(face.x), double(p.top) + p.height / 2.0 - double(face.y));
  };
  std::stable_sort(tiles_.begin(), tiles_.end(), [&](const Place& a, const Place& b) { return away(a) < away(b); });
}

std::optional<SharpTile> SharpPicture::next(const Interrupt& interrupt) {
  if (done()) return {};
  const Place& p = tiles_[at_];
  const int left = std::max(0, p.left - kMargin), top = std::max(0, p.top - kMargin);
  const int right = std::min(wish_.width, p.left + p.width + kMargin),
            bottom = std::min(wish_.height, p.top + p.height + kMargin);
  if (!begun_) {
    studio_.setOnlyLast(true);
    studio_.setPlan(plan_);
    studio_.setSize(right - left, bottom - top);
    studio_.setPart(left, top, wish_.width, wish_.height);
    begun_ = true;
  }
  for (;;) {
    const auto progress = studio_.improve(interrupt, kPasses);
    if (progress == ProgressiveRender::Progress::Done) break;
    if (progress == ProgressiveRender::Progress::Interrupted || interrupt.raised()) return {};
  }
  const Picture all = developPicture(studio_.layers(), *studio_.set(), show_);
  SharpTile tile{p.left, p.top, {p.width, p.height, {}}};
  tile.picture.rgba.resize(size_t(p.width) * size_t(p.height) * 4);
  for (int y = 0; y < p.height; ++y) {
    const size_t from = (size_t(y + p.top - top) * size_t(all.width) + size_t(p.left - left)) * 4;
    std::copy_n(all.rgba.begin() + long(from), size_t(p.width) * 4, tile.picture.rgba.begin() + long(y) * p.width * 4);
  }
  ++at_;
  begun_ = false;
  return tile;
}

}  // namespace easel
