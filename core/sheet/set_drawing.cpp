// One drawing in two views; what they share is most of it.
#include "sheet/set_drawing.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <numeric>

#include "exposure/stops.h"
#include "plan/panels.h"
#include "plan/placement.h"
#include "spoken/clock.h"
#include "spoken/say.h"

namespace easel {
namespace {

using Tone = Canvas::Tone;
using Points2 = std::vector<std::pair<double, double>>;

constexpr double kScales[] = {10, 12.5, 15, 20, 25, 30, 40, 50, 60, 75, 100, 150, 200};
constexpr double kTag = 2.8;       // mm, type of the tags
constexpr double kAcross = 40;     // mm of a tag over the side view: "7 ft 10 in high, 44° down"
constexpr double kFullTags = 120;  // mm of width from which tags say more than the letter
constexpr double kTall = 118;      // mm that a view may be high on a wide paper

struct Bounds {
  double x0 = 1e9, y0 = 1e9, x1 = -1e9, y1 = -1e9;
  void add(double x, double y) {
    x0 = std::min(x0, x);
    x1 = std::max(x1, x);
    y0 = std::min(y0, y);
    y1 = std::max(y1, y);
  }
};

// Studio to the plane of the view: x to the right, y down the paper, both in metres.
std::pair<double, double> onPlane(SetView view, Vec3 p) {
  return view == SetView::Above ? std::pair{double(p.x), double(p.z)} : std::pair{double(p.z), -double(p.y)};
}

struct Drawn {
  std::string letter;
  std::vector<std::string> said;  ///< lines of the tag under its letter
  Vec3 at;
  std::vector<Vec3> outline;  ///< closed
  Vec3 axis;                  ///< where it points; zero: nowhere
  bool board = false, on = true;
};

std::vector<Drawn> thingsOf(const Plan& plan, SetView view, const Spelling& spelling) {
  std::vector<Drawn> all;
  for (const Light& l : plan.lights) {
    Drawn t;
    t.letter = l.id;
    t.on = l.on;
    const LightPose pose = lightPose(plan, l);
    t.at = pose.centre;
    t.axis = pose.frame.n;
    const Modifier* m = findModifier(l.modifier);
    const float w = m ? float(m->width) / 2 : 0.15f, h = m ? float(std::max(m->height, 0.02)) / 2 : 0.15f,
                d = m ? float(std::max(0.08, m->depth)) : 0.2f;
    const Vec3 side = view == SetView::Above ? pose.frame.u * w : pose.frame.v * h;
    const Vec3 behind = pose.frame.n * -d;
    t.outline = {t.at - side, t.at + side, t.at + side * 0.35f + behind, t.at - side * 0.35f + behind};
    if (view == SetView::Above) {
      t.said = {say("{} o'clock, {}", writeClock(l.hour), spelling.length(l.distance))};
      if (const std::string turned = featherSaid(l); !turned.empty()) t.said.push_back(turned);
    } else {
      t.said = {say("{} high, {}", spelling.length(double(t.at.y)), tiltSaid(plan, l))};
    }
    all.push_back(std::move(t));
  }
  for (size_t i = 0; i < plan.panels.size(); ++i) {
    const Panel& p = plan.panels[i];
    if (!p.on) continue;
    Drawn t;
    t.board = true;
    t.letter = p.id;
    Vec3 middle{0, 0, 0};
    const auto leaves = outlinesOf(p);
    for (const Leaf& leaf : leaves) {
      for (const Vec3& corner : leaf.corners()) t.outline.push_back(corner);
      middle = middle + leaf.centre * (1.f / float(leaves.size()));
    }
    t.at = middle;
    const PanelKind* kind = findPanelKind(p.kind);
    t.said = {view == SetView::Above ? say("{} o'clock, {}", writeClock(p.hour), spelling.length(p.distance))
                                     : say("{} high", spelling.length(p.above))};
    if (view == SetView::Above) t.said.insert(t.said.begin(), kind ? kind->name : p.kind);
    all.push_back(std::move(t));
  }
  return all;
}

struct Frame2 {
  double mmPerMetre = 20, scale = 50;
  double x = 0, y = 0;                           ///< of the studio's origin on the drawing
  double width = 0, height = 0;                  ///< of the whole drawing, tags included
  double left = 0, top = 0, wide = 0, high = 0;  ///< of the view itself
  bool fullTags = true;

  std::pair<double, double> operator()(std::pair<double, double> p) const {
    return {x + p.first * mmPerMetre, y + p.second * mmPerMetre};
  }
};

Bounds boundsOf(const Plan& plan, SetView view) {
  Bounds b;
  const auto add = [&](Vec3 p) {
    const auto [x, y] = onPlane(view, p);
    b.add(x, y);
  };
  for (const Drawn& t : thingsOf(plan, view, {}))
    for (const Vec3& corner : t.outline) add(corner);
  add(cameraPose(plan).eye + Vec3{0, 0, 0.3f});
  add({-0.35f, 0, 0});
  add({0.35f, float(plan.sitter.eyeHeight) + 0.25f, 0});
  const float half = float(plan.backdrop.width) / 2, back = -float(plan.backdrop.distance);
  add({-half, 0, back});
  add({half, float(std::min(plan.backdrop.height, plan.room.height)), back});
  b.x0 -= 0.15;
  b.x1 += 0.15;
  b.y0 -= 0.15;
  b.y1 += 0.15;
  return b;
}

double tagWidth(double width) { return width >= kFullTags ? 35 : 7; }
// Lines of a tag and the room that it takes in a column.
double tagHeight(const Drawn& t, bool full) { return (full ? 1 + double(t.said.size()) : 1) * 1.25 * kTag + 1.6; }

Frame2 frameOf(const Plan& plan, SetView view, double width) {
  Frame2 f;
  f.width = width;
  f.fullTags = width >= kFullTags;
  f.scale = scaleOfSet(plan, width);
  f.mmPerMetre = 1000 / f.scale;
  const Bounds b = boundsOf(plan, view);
  const auto things = thingsOf(plan, view, {});
  f.wide = (b.x1 - b.x0) * f.mmPerMetre;
  f.high = (b.y1 - b.y0) * f.mmPerMetre;
  f.left = (width - f.wide) / 2;
  const double bar = 7;
  if (view == SetView::Above) {
    // Half of the tags on either side.
    double column = 0, all = 0, most = 0;
    for (const Drawn& t : things) {
      all += tagHeight(t, f.fullTags);
      most = std::max(most, tagHeight(t, f.fullTags));
    }
    column = all / 2 + most;
    f.top = std::max(1.0, (column - f.high) / 2);
    f.height = std::max(f.high + 1, column) + bar;
  } else {
    const double across = f.fullTags ? kAcross : 8;
    const double rows = std::ceil(double(things.size()) * across / width);
    f.top = rows * (f.fullTags ? 2 : 1) * 1.25 * kTag + rows * 1.6 + 5;
    f.height = f.top + f.high + bar;
  }
  f.x = f.left - b.x0 * f.mmPerMetre;
  f.y = f.top - b.y0 * f.mmPerMetre;
  return f;
}

struct Draw {
  Canvas& c;
  const Plan& plan;
  SetView view;
  const Spelling& spelling;
  double x0, y0;
  Frame2 f;

  std::pair<double, double> at(Vec3 p) const {
    const auto [x, y] = f(onPlane(view, p));
    return {x0 + x, y0 + y};
  }
  Points2 at(const std::vector<Vec3>& all) const {
    Points2 out;
    for (const Vec3& p : all) out.push_back(at(p));
    return out;
  }
  void line(Vec3 a, Vec3 b, double thick, bool dashed = false) const {
    const auto [ax, ay] = at(a);
    const auto [bx, by] = at(b);
    c.line(ax, ay, bx, by, thick, dashed);
  }
  // A line that goes no further than the view.
  void within(Vec3 a, Vec3 b, double thick, bool dashed) const {
    const double left = x0 + f.left, right = left + f.wide, top = y0 + f.top, bottom = top + f.high;
    auto [ax, ay] = at(a);
    auto [bx, by] = at(b);
    double from = 0, to = 1;
    const auto clip = [&](double p, double q) {
      if (p == 0) return q >= 0;
      const double r = q / p;
      if (p < 0)
        from = std::max(from, r);
      else
        to = std::min(to, r);
      return from <= to;
    };
    const double dx = bx - ax, dy = by - ay;
    if (!clip(-dx, ax - left) || !clip(dx, right - ax) || !clip(-dy, ay - top) || !clip(dy, bottom - ay)) return;
    c.line(ax + from * dx, ay + from * dy, ax + to * dx, ay + to * dy, thick, dashed);
  }

  void room() const {
    const Room& r = plan.room;
    const float w = float(r.width) / 2, back = -float(r.behind), front = float(r.depth - r.behind), h = float(r.height);
    c.tone(Tone::Faint);
    if (view == SetView::Above) {
      const Vec3 a{-w, 0, back}, b{w, 0, back}, d{w, 0, front}, e{-w, 0, front};
      within(a, b, 0.4, false);
      within(b, d, 0.4, false);
      within(d, e, 0.4, false);
      within(e, a, 0.4, false);
    } else {
      within({0, 0, -20}, {0, 0, 20}, 0.4, false);
      within({0, h, back}, {0, h, front}, 0.4, false);
      within({0, 0, back}, {0, h, back}, 0.4, false);
    }
  }
  void backdrop() const {
    const float w = float(plan.backdrop.width) / 2, back = -float(plan.backdrop.distance),
                h = float(plan.backdrop.height);
    c.tone(Tone::Ink);
    if (view == SetView::Above)
      line({-w, 0, back}, {w, 0, back}, 0.7);
    else
      line({0, 0, back}, {0, std::min(h, float(plan.room.height)), back}, 0.7);
  }
  void sitter() const {
    const float eyes = float(plan.sitter.eyeHeight);
    c.tone(Tone::Ink);
    if (view == SetView::Above) {
      const float a = radians(float(plan.sitter.turn));
      const auto turned = [&](float x, float z) {
        return Vec3{x * std::cos(a) + z * std::sin(a), 0, z * std::cos(a) - x * std::sin(a)};
      };
      std::vector<Vec3> shoulders, head;
      for (int k = 0; k < 32; ++k) {
        const float t = float(k) * kPiF / 16;
        shoulders.push_back({0.22f * std::cos(t), 0, 0.11f * std::sin(t) - 0.03f});
        head.push_back(turned(0.08f * std::cos(t), 0.1f * std::sin(t) + 0.02f));
      }
      c.path(at(shoulders), true, 0.25);
      c.tone(Tone::Ground);
      c.path(at(head), true, 0.25, true);
      c.tone(Tone::Ink);
      c.path(at(head), true, 0.3);
      c.path(at(std::vector<Vec3>{turned(-0.02f, 0.118f), turned(0, 0.145f), turned(0.02f, 0.118f)}), false, 0.3);
      c.tone(Tone::Faint);
      for (int hour = 1; hour <= 12; ++hour) {
        const Vec3 d = towardsHour(hour);
        line(d * 0.42f, d * (hour % 3 == 0 ? 0.52f : 0.47f), hour % 3 == 0 ? 0.4 : 0.25);
      }
    } else {
      std::vector<Vec3> head, body;
      for (int k = 0; k < 32; ++k) {
        const float t = float(k) * kPiF / 16;
        head.push_back({0, eyes + 0.01f + 0.12f * std::sin(t), 0.02f + 0.095f * std::cos(t)});
      }
      body = {{0, eyes - 0.12f, -0.03f},
              {0, eyes - 0.22f, -0.1f},
              {0, std::max(0.05f, eyes - 0.8f), -0.13f},
              {0, std::max(0.05f, eyes - 0.8f), 0.13f},
              {0, eyes - 0.22f, 0.1f},
              {0, eyes - 0.12f, 0.05f}};
      c.path(at(body), true, 0.25);
      c.tone(Tone::Ground);
      c.path(at(head), true, 0.25, true);
      c.tone(Tone::Ink);
      c.path(at(head), true, 0.3);
      c.path(at(std::vector<Vec3>{{0, eyes - 0.01f, 0.113f}, {0, eyes - 0.045f, 0.145f}, {0, eyes - 0.05f, 0.11f}}),
             false, 0.3);
      c.tone(Tone::Faint);
      within({0, eyes, -20}, {0, eyes, 20}, 0.2, true);
    }
  }
  void camera() const {
    const CameraPose pose = cameraPose(plan);
    const Vec3 back = pose.frame.n;
    const Vec3 side = view == SetView::Above ? pose.frame.u : pose.frame.v;
    c.tone(Tone::Ink);
    c.path(at({pose.eye + side * 0.04f, pose.eye - side * 0.04f, pose.eye - side * 0.07f + back * 0.18f,
               pose.eye + side * 0.07f + back * 0.18f}),
           true, 0.35);
    // What it sees, as far as the backdrop.
    const float half = pose.tanHalfHeight * (view == SetView::Above ? float(plan.camera.frame) : 1);
    const float way = float(plan.camera.distance + plan.backdrop.distance);
    c.tone(Tone::Faint);
    for (const float s : {-1.f, 1.f}) within(pose.eye, pose.eye - back * way + side * (s * half * way), 0.15, false);
  }
  void thing(const Drawn& t) const {
    c.tone(t.on ? Tone::Ink : Tone::Soft);
    if (t.board) {
      for (size_t i = 0; i + 3 < t.outline.size(); i += 4)
        c.path(at(std::vector<Vec3>(t.outline.begin() + long(i), t.outline.begin() + long(i + 4))), true, 0.45);
    } else {
      c.tone(Tone::Ground);
      c.path(at(t.outline), true, 0.3, true);
      c.tone(t.on ? Tone::Ink : Tone::Soft);
      c.path(at(t.outline), true, 0.3);
      // The front is what gives light.
      line(t.outline[0], t.outline[1], 0.8);
      c.tone(Tone::Accent);
      within(t.at, t.at + t.axis * length(t.at - facePoint(plan)), 0.2, true);
    }
    const auto [x, y] = at(t.at);
    c.tone(Tone::Ink);
    c.disc(x, y, 0.5);
  }

  void tag(const Drawn& t, double x, double y, double anchor) const {
    c.tone(Tone::Ink);
    c.text(x, y + kTag, 1.15 * kTag, t.letter, anchor, FontWeight::Bold);
    if (!f.fullTags) return;
    for (size_t i = 0; i < t.said.size(); ++i)
      c.text(x, y + kTag + (double(i) + 1) * 1.25 * kTag, kTag, t.said[i], anchor);
  }
  // Above: the nearer half to the left goes into the left column, each column in the order of the paper.
  void tagsAbove(const std::vector<Drawn>& all) const {
    std::vector<size_t> order(all.size());
    std::iota(order.begin(), order.end(), size_t(0));
    std::stable_sort(order.begin(), order.end(),
                     [&](size_t a, size_t b) { return at(all[a].at).first < at(all[b].at).first; });
    double sum = 0, leftSum = 0;
    for (const Drawn& t : all) sum += tagHeight(t, f.fullTags);
    std::vector<size_t> columns[2];
    for (const size_t i : order) {
      // By where it stands, unless a column is full.
      const double h = tagHeight(all[i], f.fullTags);
      const bool left = leftSum + h <= sum / 2 + h / 2 && leftSum + h / 2 <= sum / 2;
      columns[left ? 0 : 1].push_back(i);
      if (left) leftSum += h;
    }
    for (int side = 0; side < 2; ++side) {
      auto& column = columns[side];
      std::stable_sort(column.begin(), column.end(),
                       [&](size_t a, size_t b) { return at(all[a].at).second < at(all[b].at).second; });
      double room = f.height - 7, below = 0;
      for (const size_t i : column) below += tagHeight(all[i], f.fullTags);
      double y = 0;
      for (const size_t i : column) {
        const double h = tagHeight(all[i], f.fullTags);
        below -= h;
        const auto [tx, ty] = at(all[i].at);
        y = std::clamp(ty - y0 - h / 2, y, std::max(y, room - below - h));
        const double x = side == 0 ? x0 : x0 + f.width;
        tag(all[i], x, y0 + y, side);
        c.tone(Tone::Faint);
        double edge = x;
        const double letter = c.textWidth(1.15 * kTag, all[i].letter, FontWeight::Bold);
        edge += side == 0 ? letter + 1 : -letter - 1;
        c.line(edge, y0 + y + 0.6 * kTag, tx, ty, 0.15);
        y += h;
      }
    }
  }
  void tagsBeside(const std::vector<Drawn>& all) const {
    std::vector<size_t> order(all.size());
    std::iota(order.begin(), order.end(), size_t(0));
    std::stable_sort(order.begin(), order.end(),
                     [&](size_t a, size_t b) { return at(all[a].at).first < at(all[b].at).first; });
    const double across = f.fullTags ? kAcross : 8, high = (f.fullTags ? 2 : 1) * 1.25 * kTag + 1.6;
    const size_t rows = size_t(std::ceil(double(all.size()) * across / f.width));
    for (size_t r = 0; r < rows; ++r) {
      std::vector<size_t> row;
      for (size_t k = r; k < order.size(); k += rows) row.push_back(order[k]);
      double x = 0, after = double(row.size()) * across;
      for (const size_t i : row) {
        after -= across;
        const auto [tx, ty] = at(all[i].at);
        x = std::clamp(tx - x0 - across / 2, x, std::max(x, f.width - after - across));
        const double y = y0 + double(r) * high;
        tag(all[i], x0 + x, y, 0);
        c.tone(Tone::Faint);
        c.line(x0 + x + 1, y + high - 1.4, tx, ty, 0.15);
        x += across;
      }
    }
  }
  void bar() const {
    const double y = y0 + f.height - 3.5, metre = f.mmPerMetre;
    c.tone(Tone::Ink);
    c.line(x0, y, x0 + metre, y, 0.4);
    c.line(x0, y - 1, x0, y + 1, 0.3);
    c.line(x0 + metre, y - 1, x0 + metre, y + 1, 0.3);
    c.text(x0 + metre + 2, y + 1, kTag,
           view == SetView::Above ? say("1 m, scale 1:{:g}, from above", f.scale)
                                  : say("1 m, scale 1:{:g}, from the side", f.scale));
  }
  void all() const {
    const auto things = thingsOf(plan, view, spelling);
    room();
    camera();
    backdrop();
    // The faces that are lit stand over the lines of sight.
    for (const Drawn& t : things) thing(t);
    sitter();
    view == SetView::Above ? tagsAbove(things) : tagsBeside(things);
    bar();
  }
};

}  // namespace

std::string tiltSaid(const Plan& plan, const Light& l) {
  const double down = downTilt(plan, l);
  return std::abs(down) < 0.5 ? say("level") : down > 0 ? say("{:.0f}° down", down) : say("{:.0f}° up", -down);
}
std::string featherSaid(const Light& l) {
  if (std::abs(l.pan) < 0.5) return {};
  if (std::abs(l.pan) > 120) return say("turned to the backdrop");
  return l.pan > 0 ? say("feathered {:.0f}° clockwise", l.pan) : say("feathered {:.0f}° anticlockwise", -l.pan);
}

double scaleOfSet(const Plan& plan, double width) {
  const Bounds above = boundsOf(plan, SetView::Above), side = boundsOf(plan, SetView::Side);
  const double tall = width >= kFullTags ? kTall : 0.8 * width;
  for (const double s : kScales) {
    const double mm = 1000 / s;
    if ((above.x1 - above.x0) * mm <= width - 2 * tagWidth(width) - 4 && (above.y1 - above.y0) * mm <= tall &&
        (side.x1 - side.x0) * mm <= width - 2 && (side.y1 - side.y0) * mm <= tall)
      return s;
  }
  // A set as wide as a hall on a small paper.
  return std::ceil(1000 * std::max({above.x1 - above.x0, above.y1 - above.y0, side.x1 - side.x0}) / (width * 0.5) /
                   50) *
         50;
}

std::vector<std::pair<double, double>> drawnLights(const Plan& plan, SetView view, double width) {
  const Frame2 f = frameOf(plan, view, width);
  std::vector<std::pair<double, double>> out;
  for (const Light& l : plan.lights) out.push_back(f(onPlane(view, lightPose(plan, l).centre)));
  return out;
}

Drawing drawnSet(const Plan& plan, SetView view, const Spelling& spelling) {
  std::string said = view == SetView::Above ? say("The set from above.") : say("The set from the side.");
  for (const Drawn& t : thingsOf(plan, view, spelling)) {
    said += " " + t.letter + ":";
    for (const std::string& s : t.said) said += " " + s + ";";
  }
  return {[plan, view](double width) { return frameOf(plan, view, width).height; },
          [plan, view, spelling](Canvas& canvas, double x, double y, double width, double) {
            Draw{canvas, plan, view, spelling, x, y, frameOf(plan, view, width)}.all();
          },
          said};
}

Drawing drawnLadder(const Plan& plan, const Answers& answers, const Spelling& spelling) {
  constexpr double kRow = 6.5, kHead = 8;
  const size_t rows = answers.lights.size();
  const auto draw = [plan, answers, spelling](Canvas& c, double x, double y, double width, double) {
    // Whole stops about the target aperture, as far as anything reaches that matters.
    double least = -3, most = 1;
    for (const LightAnswer& a : answers.lights) {
      const Light* l = plan.light(a.id);
      least = std::min({least, std::floor(a.stopsFromWorking), l ? std::floor(l->targetStops) : 0});
      most = std::max({most, std::ceil(a.stopsFromWorking), l ? std::ceil(l->targetStops) : 0});
      if (a.apertureLowest > 0)
        least = std::min(least, std::floor(aperturesApart(a.apertureLowest, plan.camera.aperture)));
      if (a.apertureFull > 0) most = std::max(most, std::ceil(aperturesApart(a.apertureFull, plan.camera.aperture)));
    }
    least = std::max(least, -7.0);
    most = std::min(most, 5.0);
    const double left = x + 8, wide = width - 12;
    const auto at = [&](double stops) {
      return left + wide * (std::clamp(stops, least, most) - least) / (most - least);
    };
    c.tone(Tone::Soft);
    for (double s = least; s <= most; ++s) {
      const std::string name = spelling.aperture(plan.camera.aperture * std::exp2(s / 2));
      if ((most - least) * 13 <= wide || int(s) % 2 == 0)
        c.text(at(s), y + 3, 2.6, name, 0.5, s == 0 ? FontWeight::Bold : FontWeight::Regular);
    }
    for (double s = least; s <= most; ++s) {
      c.tone(s == 0 ? Tone::Ink : Tone::Faint);
      c.line(at(s), y + kHead - 3, at(s), y + kHead + kRow * double(answers.lights.size()), s == 0 ? 0.4 : 0.15);
    }
    for (size_t i = 0; i < answers.lights.size(); ++i) {
      const LightAnswer& a = answers.lights[i];
      const Light* l = plan.light(a.id);
      const double mid = y + kHead + (double(i) + 0.5) * kRow;
      const auto stopsOf = [&](double f) { return f > 0 ? aperturesApart(f, plan.camera.aperture) : least; };
      c.tone(Tone::Ink);
      c.text(x, mid + 1.3, 3.5, a.id, 0, FontWeight::Bold);
      c.tone(Tone::Faint);
      c.line(at(stopsOf(a.apertureLowest)), mid, at(stopsOf(a.apertureFull)), mid, 1.6);
      c.tone(Tone::Ink);
      const double target = at(l ? l->targetStops : 0);
      c.path({{target - 1.3, mid - 2.6}, {target + 1.3, mid - 2.6}, {target, mid - 0.4}}, true, 0.3, true);
      c.tone(Tone::Accent);
      c.disc(at(a.stopsFromWorking), mid, 1.1);
    }
  };
  std::string said = say("Stop ladder.");
  for (const LightAnswer& a : answers.lights) said += " " + a.id + ": " + spelling.aperture(a.aperture) + ".";
  return {[rows](double) { return kHead + kRow * double(rows) + 1; }, draw, said};
}

}  // namespace easel
