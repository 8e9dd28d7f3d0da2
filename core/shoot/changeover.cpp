#include "shoot/changeover.h"

#include <algorithm>
#include <cmath>
#include <limits>

#include "gear/kit.h"
#include "gear/panel_kinds.h"
#include "plan/placement.h"
#include "shoot/supports.h"
#include "spoken/clock.h"
#include "spoken/say.h"

namespace easel {
namespace {

constexpr double kSame = 0.05;    // m; less is nothing that anybody moves
constexpr double kSameAngle = 2;  // degrees
constexpr double kSide = 3;       // m to where what is not used stands, common practice, no source

Vec3 on(double hour, double distance) { return towardsHour(hour) * float(distance); }
double apart(Vec3 a, Vec3 b) { return std::hypot(double(a.x - b.x), double(a.z - b.z)); }

std::string nameOf(const Light& l) {
  const Modifier* m = findModifier(l.modifier);
  return m ? m->name : l.modifier;
}
std::string nameOf(const Panel& p) {
  const PanelKind* k = findPanelKind(p.kind);
  return !p.name.empty() ? p.name : k ? k->name : p.kind;
}
std::string place(const Light& l, const Spelling& s) {
  return say("{} o'clock, {}, {} high", writeClock(l.hour), s.length(l.distance), s.length(l.height));
}
std::string place(const Panel& p, const Spelling& s) {
  return say("{} o'clock, {}, {} high", writeClock(p.hour), s.length(p.distance), s.length(p.above));
}

double swapSeconds(const std::string& id, const ShootTimes& t) {
  const Modifier* m = findModifier(id);
  if (!m) return t.swapBox;
  switch (m->family) {
    case ModifierFamily::Softbox:
    case ModifierFamily::Large:
      return t.swapBox;
    case ModifierFamily::Umbrella:
      return t.swapUmbrella;
    default:
      return t.swapReflector;
  }
}

int fittingsApart(const Fittings& a, const Fittings& b) {
  return int(a.gel != b.gel) + int(a.diffusion != b.diffusion) + int(std::abs(a.nd - b.nd) > 0.01) +
         int(std::abs(a.grid - b.grid) > 0.01) + int(a.deflector != b.deflector) + int(a.inner != b.inner) +
         int(!(a.doors == b.doors)) + int(a.pattern != b.pattern) +
         int(std::abs(a.zoom - b.zoom) > 1 || std::abs(a.spread - b.spread) > 1 || std::abs(a.focus - b.focus) > 0.1 ||
             std::abs(a.kelvin - b.kelvin) > 50);
}
int fittingsOn(const Fittings& a) { return fittingsApart(a, Fittings{}); }

// A light with what is asked again and again while the stands are paired.
struct Stood {
  const Light* light;
  bool boom;
};
std::vector<Stood> stoodIn(const Plan& plan) {
  std::vector<Stood> all;
  for (const Light& l : plan.lights)
    if (l.on) all.push_back({&l, wantsBoom(plan, l)});
  return all;
}
std::vector<const Panel*> boardsIn(const Plan& plan) {
  std::vector<const Panel*> all;
  for (const Panel& p : plan.panels)
    if (p.on) all.push_back(&p);
  return all;
}

struct Work {
  const ShootTimes& t;
  const Spelling& spelling;
  std::vector<Chore> chores;
  std::vector<std::string> stays;

  void add(Chore::Kind kind, double seconds, std::string sentence, double metres = 0, std::string from = {},
           std::string to = {}) {
    chores.push_back({kind, std::move(sentence), seconds, metres, std::move(from), std::move(to)});
  }

  // The one list of what turns a light into another; `tell` false: only its seconds.
  double becomes(const Stood& stood, const Stood& wanted, bool tell) {
    const Light &a = *stood.light, &b = *wanted.light;
    double seconds = 0;
    const auto chore = [&](Chore::Kind kind, double s, const auto& sentence, double metres = 0) {
      seconds += s;
      if (tell) add(kind, s, sentence(), metres, a.id, b.id);
    };
    const bool lens = onLens(a) || onLens(b);
    if (a.unit != b.unit)
      chore(Chore::Kind::Head, t.swapHead, [&] {
        const Unit* u = findUnit(b.unit);
        return say("{}: {} on the stand of {}.", b.id, u ? u->name : b.unit, a.id);
      });
    if (a.modifier != b.modifier)
      chore(Chore::Kind::Modifier, swapSeconds(a.modifier, t) / 2 + swapSeconds(b.modifier, t) / 2,
            [&] { return say("{}: {} off, {} on.", b.id, nameOf(a), nameOf(b)); });
    if (const int n = fittingsApart(a.fittings, b.fittings))
      chore(Chore::Kind::Fitting, n * t.fitting, [&] { return say("{}: change what is on it ({}).", b.id, n); });
    if (wanted.boom && !stood.boom)
      chore(Chore::Kind::Head, t.boom,
            [&] { return say("{}: onto a boom, with counterweight, safety line and sandbag.", b.id); });
    const Vec3 from = on(a.hour, a.distance), to = on(b.hour, b.distance);
    const double way = apart(from, to), up = std::abs(a.height - b.height);
    if (!lens && way > kSame)
      chore(
          Chore::Kind::Stand, t.moveStand + t.perMetre * way + (up > kSame ? t.height : 0),
          [&] {
            return a.id == b.id ? say("{}, {}: to {}.", b.id, nameOf(b), place(b, spelling))
                                : say("{}, {}: the stand of {} to {}.", b.id, nameOf(b), a.id, place(b, spelling));
          },
          way);
    else if (!lens && up > kSame)
      chore(Chore::Kind::Stand, t.height,
            [&] { return say("{}, {}: to {} high.", b.id, nameOf(b), spelling.length(b.height)); });
    else if (!lens && (std::abs(a.pan - b.pan) > kSameAngle || std::abs(a.tiltOffset - b.tiltOffset) > kSameAngle))
      chore(Chore::Kind::Stand, t.turn, [&] { return say("{}, {}: turn it on its stand.", b.id, nameOf(b)); });
    if (std::abs(a.power - b.power) > 0.04)
      chore(Chore::Kind::Power, t.setPower, [&] {
        const Unit* u = findUnit(b.unit);
        return say("{}: set {}.", b.id, u ? spelling.power(u->scale, b.power) : std::string());
      });
    return seconds;
  }
  double comes(const Stood& wanted) const {
    const Light& b = *wanted.light;
    return t.bring + (wanted.boom ? t.boom : 0) + swapSeconds(b.modifier, t) + fittingsOn(b.fittings) * t.fitting +
           t.setPower;
  }
  double goes() const { return t.takeAway; }

  double becomes(const Panel& a, const Panel& b, bool tell) {
    const double way = apart(on(a.hour, a.distance), on(b.hour, b.distance));
    const bool moved = way > kSame || std::abs(a.above - b.above) > kSame ||
                       std::abs(a.turn - b.turn) > 2 * kSameAngle || std::abs(a.tilt - b.tilt) > 2 * kSameAngle ||
                       std::abs(a.fold - b.fold) > 5 || a.front != b.front || a.pattern != b.pattern;
    if (!moved) return 0;
    const double s = t.movePanel + t.perMetre * way;
    if (tell) add(Chore::Kind::Board, s, say("{}: to {}.", nameOf(b), place(b, spelling)), way, a.id, b.id);
    return s;
  }
};

// Rows and columns filled up with "to the side" and "from the side", so that the matrix is square.
template <class Thing, class Become, class Come, class Go>
std::vector<int> paired(const std::vector<Thing>& a, const std::vector<Thing>& b, Become become, Come come, Go go) {
  const size_t n = a.size() + b.size();
  std::vector<std::vector<double>> cost(n, std::vector<double>(n, 0));
  for (size_t i = 0; i < n; ++i)
    for (size_t j = 0; j < n; ++j)
      cost[i][j] = i < a.size() && j < b.size() ? become(a[i], b[j])
                   : i < a.size()               ? go(a[i])
                   : j < b.size()               ? come(b[j])
                                                : 0.0;
  return leastAssignment(cost);
}

}  // namespace

int Changeover::moves() const {
  return int(std::count_if(chores.begin(), chores.end(), [](const Chore& c) {
    return c.kind != Chore::Kind::Power && c.kind != Chore::Kind::Meter && c.kind != Chore::Kind::Sitter;
  }));
}

std::vector<int> leastAssignment(const std::vector<std::vector<double>>& cost) {
  const size_t n = cost.size();
  constexpr double kFar = std::numeric_limits<double>::infinity();
  // Potentials of rows and columns; column 0 stands for "none".
  std::vector<double> u(n + 1, 0), v(n + 1, 0);
  std::vector<size_t> row(n + 1, 0), way(n + 1, 0);
  for (size_t i = 1; i <= n; ++i) {
    row[0] = i;
    size_t j0 = 0;
    std::vector<double> least(n + 1, kFar);
    std::vector<bool> used(n + 1, false);
    do {
      used[j0] = true;
      const size_t i0 = row[j0];
      double delta = kFar;
      size_t j1 = 0;
      for (size_t j = 1; j <= n; ++j) {
        if (used[j]) continue;
        const double reduced = cost[i0 - 1][j - 1] - u[i0] - v[j];
        if (reduced < least[j]) {
          least[j] = reduced;
          way[j] = j0;
        }
        if (least[j] < delta) {
          delta = least[j];
          j1 = j;
        }
      }
      for (size_t j = 0; j <= n; ++j)
        if (used[j]) {
          u[row[j]] += delta;
          v[j] -= delta;
        } else {
          least[j] -= delta;
        }
      j0 = j1;
    } while (row[j0] != 0);
    do {
      const size_t j1 = way[j0];
      row[j0] = row[j1];
      j0 = j1;
    } while (j0 != 0);
  }
  std::vector<int> out(n, 0);
  for (size_t j = 1; j <= n; ++j) out[row[j] - 1] = int(j - 1);
  return out;
}

Changeover changeover(const Plan* from, const Plan& to, const ShootTimes& times, const Spelling& spelling) {
  static const Plan nothing = [] {
    Plan p;
    p.lights.clear();
    return p;
  }();
  const Plan& before = from ? *from : nothing;
  Work w{times, spelling, {}, {}};

  if (from && !(before.room.width == to.room.width && before.room.depth == to.room.depth &&
                before.room.height == to.room.height))
    w.add(Chore::Kind::Room, times.room,
          say("Everything into the other room ({} x {}).", spelling.length(to.room.width),
              spelling.length(to.room.depth)));
  if (!from || before.backdrop.material != to.backdrop.material) {
    const BackdropMaterial* m = findBackdrop(to.backdrop.material);
    w.add(Chore::Kind::Backdrop, times.backdropChange,
          say("Backdrop: {} {} behind the sitter.", m ? m->name : to.backdrop.material,
              spelling.length(to.backdrop.distance)));
  } else if (std::abs(before.backdrop.distance - to.backdrop.distance) > 2 * kSame) {
    w.add(Chore::Kind::Backdrop, times.backdropMove,
          say("Backdrop to {} behind the sitter.", spelling.length(to.backdrop.distance)),
          std::abs(before.backdrop.distance - to.backdrop.distance));
  } else {
    w.stays.push_back(say("the backdrop"));
  }

  const std::vector<Stood> a = stoodIn(before), b = stoodIn(to);
  const auto lights = paired(
      a, b, [&](const Stood& x, const Stood& y) { return w.becomes(x, y, false); },
      [&](const Stood& y) { return w.comes(y); }, [&](const Stood&) { return w.goes(); });
  int metered = 0;
  // What goes makes room for what comes.
  for (size_t i = 0; i < a.size(); ++i)
    if (lights[i] >= int(b.size()))
      w.add(Chore::Kind::Stand, w.goes(), say("{}, {}: off and to the side.", a[i].light->id, nameOf(*a[i].light)),
            kSide, a[i].light->id);
  for (size_t i = 0; i < lights.size(); ++i) {
    const int j = lights[i];
    if (j >= int(b.size())) continue;
    const Light& light = *b[size_t(j)].light;
    if (i >= a.size()) {
      ++metered;
      w.add(Chore::Kind::Stand, w.comes(b[size_t(j)]),
            say("{}, {}: bring it to {}.", light.id, nameOf(light), place(light, spelling)), kSide, {}, light.id);
      continue;
    }
    const size_t chores = w.chores.size();
    const double seconds = w.becomes(a[i], b[size_t(j)], true);
    metered += seconds > 0;
    bool touched = false;
    for (size_t k = chores; k < w.chores.size(); ++k) touched |= w.chores[k].kind != Chore::Kind::Power;
    if (!touched) w.stays.push_back(nameOf(light));
  }

  const std::vector<const Panel*> pa = boardsIn(before), pb = boardsIn(to);
  constexpr double kOther = 1e5;  // another kind of board is another board
  const auto boards = paired(
      pa, pb, [&](const Panel* x, const Panel* y) { return x->kind == y->kind ? w.becomes(*x, *y, false) : kOther; },
      [&](const Panel*) { return times.bringPanel; }, [&](const Panel*) { return times.takePanel; });
  for (size_t i = 0; i < pa.size(); ++i)
    if (boards[i] >= int(pb.size()))
      w.add(Chore::Kind::Board, times.takePanel, say("{}: to the side.", nameOf(*pa[i])), kSide, pa[i]->id);
  for (size_t i = 0; i < boards.size(); ++i) {
    const int j = boards[i];
    if (j >= int(pb.size())) continue;
    const Panel& p = *pb[size_t(j)];
    if (i >= pa.size())
      w.add(Chore::Kind::Board, times.bringPanel, say("{}: bring it to {}.", nameOf(p), place(p, spelling)), kSide, {},
            p.id);
    else if (w.becomes(*pa[i], p, true) <= 0)
      w.stays.push_back(nameOf(p));
  }

  if (from && std::abs(before.sitter.eyeHeight - to.sitter.eyeHeight) > 2 * kSame)
    w.add(Chore::Kind::Sitter, times.seat, say("Sitter: eyes at {}.", spelling.length(to.sitter.eyeHeight)));
  if (!from || std::abs(before.camera.focalLength - to.camera.focalLength) > 0.5)
    w.add(Chore::Kind::Camera, times.lensChange, say("Lens: {:.0f} mm.", to.camera.focalLength));
  if (!from || std::abs(before.camera.distance - to.camera.distance) > 2 * kSame ||
      std::abs(before.camera.height - to.camera.height) > 2 * kSame)
    w.add(Chore::Kind::Camera, times.cameraMove,
          say("Camera: {} from the sitter, {} high.", spelling.length(to.camera.distance),
              spelling.length(to.camera.height)));
  const bool unsettled = !w.chores.empty();
  if (unsettled && !b.empty())
    w.add(Chore::Kind::Meter, metered * times.meterLight + times.meterAll,
          metered ? say("Meter again: {} alone, then everything on.", metered) : say("Meter with everything on."));
  Changeover out{std::move(w.chores), 0, std::move(w.stays)};
  for (const Chore& c : out.chores) out.seconds += c.seconds;
  return out;
}

}  // namespace easel
