// Long for one file: labels, search and improvement share the one step by which a day goes on.
#include "shoot/order.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <numeric>

#include "data/by_id.h"
#include "spoken/clock.h"
#include "spoken/say.h"

namespace easel {
namespace {

using Set = std::uint64_t;
constexpr Set bit(size_t i) { return Set(1) << i; }
constexpr double kEps = 1e-6;

// What of a day decides its order, by index instead of by name.
struct Rules {
  struct Look {
    double shoot = 0;  // s
    std::vector<size_t> sitters;
    Set before = 0;        // looks that have to come before
    Set sameBackdrop = 0;  // itself included
    bool first = false, last = false;
  };
  struct Sitter {
    double arrives = 0, leaves = 0, makeUp = 0;
    Set looks = 0;
  };
  std::vector<Look> looks;
  std::vector<Sitter> sitters;
  std::vector<std::pair<double, double>> breaks;
  double start = 0, end = 0;
  bool once = true;
  Set all = 0, firsts = 0, lasts = 0;

  Rules(const Day& day, const ShootTimes& times) {
    start = 60.0 * (day.start + day.setUp);
    end = 60.0 * day.end;
    once = day.backdropOnce;
    for (const DayBreak& b : day.breaks)
      if (b.to > b.from) breaks.emplace_back(60.0 * b.from, 60.0 * b.to);
    std::sort(breaks.begin(), breaks.end());
    for (const DaySitter& s : day.sitters) sitters.push_back({60.0 * s.arrives, 60.0 * s.leaves, 60.0 * s.makeUp, 0});
    for (size_t i = 0; i < day.looks.size(); ++i) {
      const DayLook& l = day.looks[i];
      Look r;
      r.shoot = times.settle + l.frames * day.secondsPerFrame;
      r.first = l.first;
      r.last = l.last;
      for (size_t s = 0; s < day.sitters.size(); ++s)
        if (std::find(l.sitters.begin(), l.sitters.end(), day.sitters[s].name) != l.sitters.end()) {
          r.sitters.push_back(s);
          sitters[s].looks |= bit(i);
        }
      for (size_t k = 0; k < day.looks.size(); ++k) {
        if (!l.after.empty() && day.looks[k].id == l.after && k != i) r.before |= bit(k);
        if (day.looks[k].plan.backdrop.material == l.plan.backdrop.material) r.sameBackdrop |= bit(k);
      }
      all |= bit(i);
      if (l.first) firsts |= bit(i);
      if (l.last) lasts |= bit(i);
      looks.push_back(std::move(r));
    }
  }

  // `wanted`: the looks that will be shot at all; what is dropped neither leads nor follows.
  bool may(Set done, int last, size_t next, Set wanted) const {
    const Look& l = looks[next];
    if (l.before & wanted & ~done) return false;
    if (l.last && (wanted & ~done & ~bit(next) & ~lasts)) return false;
    if (!l.first && (firsts & wanted & ~done)) return false;
    // Another backdrop goes up only when the last one has served all its looks.
    if (once && last >= 0 && !(looks[size_t(last)].sameBackdrop & bit(next)) &&
        (looks[size_t(last)].sameBackdrop & wanted & ~done))
      return false;
    return true;
  }
  // When work of so many seconds is done that begins then; nobody works in a break.
  double worked(double from, double seconds) const {
    double t = from;
    for (const auto& [a, b] : breaks) {
      if (t >= a && t < b) t = b;
      if (t < a && t + seconds > a) {
        seconds -= a - t;
        t = b;
      }
    }
    return t + seconds;
  }
  // When something that must not be interrupted can begin.
  double undisturbed(double from, double seconds) const {
    double t = from;
    for (const auto& [a, b] : breaks)
      if (t < b && t + seconds > a) t = b;
    return t;
  }
};

// How far a day has come by one way of ordering it.
struct Label {
  double late = 0, work = 0, time = 0, artist = 0;
  int parent = -1;  // label that it came from
  int last = -1;
  Set done = 0;

  bool beats(const Label& o) const {
    return late <= o.late + kEps && work <= o.work + kEps && time <= o.time + kEps && artist <= o.artist + kEps;
  }
};

struct Course {
  const Day& day;
  const DayCosts& costs;
  const Rules rules;

  Course(const Day& d, const DayCosts& c) : day(d), costs(c), rules(d, c.times()) {}

  Label begin(const Standing& standing) const {
    Label l;
    l.time = std::max(rules.start, standing.now);
    l.artist = 60.0 * day.start;
    for (const size_t i : standing.done) {
      l.done |= bit(i);
      l.last = int(i);
    }
    return l;
  }

  // The one step by which a day goes on: search, timing and improvement all take it.
  Label step(const Label& from, size_t next, Turn* turn = nullptr) const {
    const Rules::Look& look = rules.looks[next];
    Label l = from;
    const double change = costs.change(from.last, next);
    const double ready = rules.worked(from.time, change);
    double dressed = ready;
    std::string waitsFor;
    if (from.last >= 0 && day.looks[size_t(from.last)].outfit != day.looks[next].outfit)
      for (const size_t s : look.sitters)
        if (const double t = rules.worked(from.time, 60.0 * day.outfitMinutes);
            (rules.sitters[s].looks & bit(size_t(from.last))) && t > dressed) {
          dressed = t;
          if (turn)
            waitsFor = say("{}, changing clothes until {}", day.sitters[s].name, writeTime(int(std::ceil(t / 60))));
        }
    double here = dressed;
    for (const size_t s : look.sitters) {
      const Rules::Sitter& sitter = rules.sitters[s];
      double t = sitter.arrives;
      if (!(sitter.looks & from.done) && sitter.makeUp > 0)
        t = l.artist = std::max(l.artist, sitter.arrives) + sitter.makeUp;
      if (t > here) {
        here = t;
        if (turn)
          waitsFor = sitter.makeUp > 0 && !(sitter.looks & from.done)
                         ? say("{}, in make-up until {}", day.sitters[s].name, writeTime(int(std::ceil(t / 60))))
                         : say("{}, who comes at {}", day.sitters[s].name, writeTime(int(std::ceil(t / 60))));
      }
    }
    const double begins = rules.undisturbed(here, look.shoot), ends = begins + look.shoot;
    if (turn && begins > here) waitsFor = say("the end of the break at {}", writeTimeAt(begins));
    double late = 0;
    for (const size_t s : look.sitters) late += std::max(0.0, ends - rules.sitters[s].leaves);
    l.late += late;
    l.work += change;
    l.time = ends;
    l.done |= bit(next);
    l.last = int(next);
    if (turn) *turn = {next, change, from.time, begins, ends, begins - ready, waitsFor, late};
    return l;
  }
  double finalLate(const Label& l) const { return l.late + std::max(0.0, l.time - rules.end); }
  bool better(const Label& a, const Label& b) const {
    const double la = finalLate(a), lb = finalLate(b);
    if (std::abs(la - lb) > kEps) return la < lb;
    if (std::abs(a.work - b.work) > kEps) return a.work < b.work;
    return a.time < b.time - kEps;
  }
};

Order told(const Course& course, const std::vector<size_t>& looks, const Standing& standing) {
  Order out;
  Label l = course.begin(standing);
  for (const size_t i : looks) {
    Turn turn;
    if (l.last >= 0) out.moves += course.costs.moves(size_t(l.last), i);  // the first set is built, not moved
    l = course.step(l, i, &turn);
    out.turns.push_back(turn);
  }
  out.work = l.work;
  out.overrun = looks.empty() ? 0 : std::max(0.0, l.time - course.rules.end);
  out.late = l.late + out.overrun;
  return out;
}

// All labels that no other beats; `width` of a size at most.
struct Search {
  const Course& course;
  std::vector<Label> labels;
  std::vector<int> ends;  // labels at which everything is shot

  // Every way to shoot `wanted`. Sets of one size are done before those of the next.
  void run(const Label& start, Set wanted, size_t width) {
    labels.assign(1, start);
    std::vector<int> level{0};
    const size_t looks = course.rules.looks.size();
    while (!level.empty()) {
      std::map<std::pair<Set, int>, std::vector<int>> next;
      for (const int from : level) {
        const Label here = labels[size_t(from)];
        if (here.done == (wanted | start.done)) {
          ends.push_back(from);
          continue;
        }
        for (size_t i = 0; i < looks; ++i) {
          if (!(wanted & bit(i)) || (here.done & bit(i)) || !course.rules.may(here.done, here.last, i, wanted))
            continue;
          Label l = course.step(here, i);
          l.parent = from;
          auto& same = next[{l.done, l.last}];
          if (std::any_of(same.begin(), same.end(), [&](int k) { return labels[size_t(k)].beats(l); })) continue;
          std::erase_if(same, [&](int k) { return l.beats(labels[size_t(k)]); });
          same.push_back(int(labels.size()));
          labels.push_back(l);
        }
      }
      level.clear();
      for (const auto& [key, all] : next) level.insert(level.end(), all.begin(), all.end());
      if (level.size() > width) {
        std::nth_element(level.begin(), level.begin() + long(width), level.end(), [&](int a, int b) {
          if (course.better(labels[size_t(a)], labels[size_t(b)])) return true;
          if (course.better(labels[size_t(b)], labels[size_t(a)])) return false;
          return a < b;
        });
        level.resize(width);
      }
    }
  }
  std::vector<size_t> way(int label) const {
    std::vector<size_t> out;
    for (; labels[size_t(label)].parent >= 0; label = labels[size_t(label)].parent)
      out.push_back(size_t(labels[size_t(label)].last));
    std::reverse(out.begin(), out.end());
    return out;
  }
  std::optional<int> best() const {
    std::optional<int> out;
    for (const int k : ends)
      if (!out || course.better(labels[size_t(k)], labels[size_t(*out)])) out = k;
    return out;
  }
};

// The end of a way through the day; empty when a rule forbids it.
std::optional<Label> through(const Course& course, const Label& start, const std::vector<size_t>& way, Set wanted) {
  Label l = start;
  for (const size_t i : way) {
    if (!course.rules.may(l.done, l.last, i, wanted)) return {};
    l = course.step(l, i);
  }
  return l;
}

// One look or a run of up to three elsewhere, a stretch turned round: as long as something helps.
void improve(const Course& course, const Label& start, std::vector<size_t>& way, Set wanted) {
  const auto n = way.size();
  auto now = through(course, start, way, wanted);
  if (!now) return;
  const auto tried = [&](const std::vector<size_t>& other) {
    const auto l = through(course, start, other, wanted);
    if (!l || !course.better(*l, *now)) return false;
    now = l;
    way = other;
    return true;
  };
  for (bool changed = true; changed;) {
    changed = false;
    for (size_t length = 1; length <= 3 && length < n; ++length)
      for (size_t a = 0; a + length <= n; ++a)
        for (size_t to = 0; to + length <= n; ++to) {
          if (to == a) continue;
          std::vector<size_t> other = way;
          const std::vector<size_t> run(other.begin() + long(a), other.begin() + long(a + length));
          other.erase(other.begin() + long(a), other.begin() + long(a + length));
          other.insert(other.begin() + long(to), run.begin(), run.end());
          changed |= tried(other);
        }
    for (size_t a = 0; a + 1 < n; ++a)
      for (size_t b = a + 2; b <= n; ++b) {
        std::vector<size_t> other = way;
        std::reverse(other.begin() + long(a), other.begin() + long(b));
        changed |= tried(other);
      }
  }
}

Set doneOf(const Standing& standing) {
  Set out = 0;
  for (const size_t i : standing.done) out |= bit(i);
  return out;
}

std::optional<std::vector<size_t>> bestWay(const Course& course, const Standing& standing, Set wanted,
                                           size_t exactUpTo) {
  const Label start = course.begin(standing);
  const bool exact = size_t(__builtin_popcountll(wanted)) <= exactUpTo;
  Search search{course, {}, {}};
  search.run(start, wanted, exact ? SIZE_MAX : 3000);
  const auto best = search.best();
  if (!best) return {};
  std::vector<size_t> way = search.way(*best);
  if (!exact) improve(course, start, way, wanted);
  return way;
}

}  // namespace

DayCosts::DayCosts(const Day& day, const ShootTimes& times, double pace) : times_(times), pace_(pace) {
  const size_t n = day.looks.size();
  first_.assign(n, 0);
  between_.assign(n, std::vector<double>(n, 0));
  moves_.assign(n, std::vector<int>(n, 0));
  for (size_t j = 0; j < n; ++j) {
    arrive(day, j);
    for (size_t i = 0; i < n; ++i)
      if (i != j) pass(day, i, j);
  }
}

void DayCosts::arrive(const Day& day, size_t to) {
  first_[to] = changeover(nullptr, day.looks[to].plan, times_).seconds;
}
void DayCosts::pass(const Day& day, size_t from, size_t to) {
  const Changeover c = changeover(&day.looks[from].plan, day.looks[to].plan, times_);
  between_[from][to] = c.seconds;
  moves_[from][to] = c.moves();
}

DayCosts DayCosts::with(const Day& changed, size_t look, const std::vector<size_t>& order, int before) const {
  DayCosts out = *this;
  for (size_t i = 0; i < order.size(); ++i) {
    const int from = i ? int(order[i - 1]) : before;
    if (order[i] == look && from < 0) out.arrive(changed, look);
    if (from >= 0 && (order[i] == look || size_t(from) == look)) out.pass(changed, size_t(from), order[i]);
  }
  return out;
}

Order timed(const Day& day, const DayCosts& costs, const std::vector<size_t>& looks, const Standing& standing) {
  return told(Course(day, costs), looks, standing);
}

Order wholeDay(const Day& day, double pace) {
  std::vector<size_t> all(day.looks.size());
  std::iota(all.begin(), all.end(), size_t(0));
  return timed(day, DayCosts(day, usualDay().times, pace), all);
}

std::string whatPreventsAnOrder(const Day& day) {
  if (day.looks.size() > kMostLooks)
    return say("{} looks are more than a day can hold: {} at most. Split it into two days.", day.looks.size(),
               kMostLooks);
  return day.looks.empty() || day.end <= day.start ? checkDay(day).front() : std::string();
}

Order bestOrder(const Day& day, const DayCosts& costs, const Standing& standing, size_t exactUpTo) {
  Order out;
  out.problem = whatPreventsAnOrder(day);
  if (!out.problem.empty()) return out;
  const Course course(day, costs);
  const Set wanted = course.rules.all & ~doneOf(standing);
  const auto way = bestWay(course, standing, wanted, exactUpTo);
  if (!way) {
    out.problem =
        say("No order keeps all that has to hold: look at what has to be first, last or after another, and at "
            "backdrops that go up only once.");
    return out;
  }
  out = told(course, *way, standing);
  out.exact = way->size() <= exactUpTo;
  return out;
}

// The plan with that light where another one stood.
static Plan leftStanding(Plan plan, const std::string& letter, const Light& stood) {
  Light* moved = plan.light(letter);
  moved->hour = stood.hour;
  moved->distance = stood.distance;
  moved->height = stood.height;
  moved->pan = stood.pan;
  moved->tiltOffset = stood.tiltOffset;
  return plan;
}

std::vector<Relief> reliefs(const Day& day, const DayCosts& costs, const Order& order, const Standing& standing,
                            const Spelling& spelling) {
  std::vector<Relief> out;
  if (order.late <= kEps || order.turns.empty()) return out;
  const Course course(day, costs);
  const double ends = order.turns.back().end;
  const auto offer = [&](Relief r, const Order& o, const std::string& what) {
    r.saves = ends - (o.turns.empty() ? order.turns.front().from : o.turns.back().end);
    r.late = o.late;
    if (o.late > order.late - 30 && r.saves < 30) return;
    r.sentence = what + " " +
                 (r.late <= kEps ? say("Saves {}; then nobody is late.", writeSpan(r.saves))
                                 : say("Saves {}; {} late are left.", writeSpan(r.saves), writeSpan(r.late)));
    out.push_back(std::move(r));
  };
  // Looks that may go: one, then pairs.
  std::vector<size_t> may;
  for (const Turn& s : order.turns)
    if (!day.looks[s.look].must) may.push_back(s.look);
  const Set wanted = course.rules.all & ~doneOf(standing);
  const auto dropping = [&](const std::vector<size_t>& gone) {
    Set left = wanted;
    std::string names;
    for (const size_t i : gone) {
      left &= ~bit(i);
      names += (names.empty() ? "" : say(" and ")) + say("{}, {}", day.looks[i].id, day.looks[i].name());
    }
    // Many looks take seconds to order: then the rest stays in the order that it has.
    std::optional<std::vector<size_t>> way;
    if (order.turns.size() <= kExactLooks) {
      way = bestWay(course, standing, left, kExactLooks);
    } else {
      way.emplace();
      for (const Turn& s : order.turns)
        if (left & bit(s.look)) way->push_back(s.look);
    }
    if (way)
      offer({Relief::Kind::Drop, gone, {}, {}, 0, 0, 0, {}}, told(course, *way, standing), say("Drop {}.", names));
  };
  for (const size_t i : may) dropping({i});
  const bool one = std::any_of(out.begin(), out.end(), [](const Relief& r) { return r.late <= kEps; });
  if (!one && may.size() <= 8)
    for (size_t a = 0; a < may.size(); ++a)
      for (size_t b = a + 1; b < may.size(); ++b) dropping({may[a], may[b]});

  // The same order with one look made simpler.
  std::vector<size_t> way;
  for (const Turn& s : order.turns) way.push_back(s.look);
  const int stands = standing.done.empty() ? -1 : int(standing.done.back());
  const auto simpler = [&](Relief r, size_t at, const Plan& plan, const std::string& what) {
    Day other = day;
    other.looks[at].plan = plan;
    r.plan = plan;
    offer(std::move(r), timed(other, costs.with(other, at, way, stands), way, standing), what);
  };
  for (size_t k = 0; k < order.turns.size(); ++k) {
    const size_t at = order.turns[k].look;
    const DayLook& look = day.looks[at];
    const int before = k ? int(order.turns[k - 1].look) : stands;
    for (const Light& l : look.plan.lights) {
      if (!l.on) continue;
      if (l.role != Role::Key && look.plan.lights.size() > 1) {
        Plan p = look.plan;
        std::erase_if(p.lights, [&](const Light& x) { return x.id == l.id; });
        simpler({Relief::Kind::LeaveOut, {at}, l.id, {}, 0, 0, 0, {}}, at, p,
                say("{}: leave out {} ({}).", look.name(), l.id, nameOr(findModifier(l.modifier), l.modifier)));
      }
      if (before >= 0)
        for (const Light& stood : day.looks[size_t(before)].plan.lights)
          if (stood.on && stood.unit == l.unit && stood.modifier == l.modifier && stood.role == l.role &&
              (std::abs(stood.hour - l.hour) > 0.05 || std::abs(stood.distance - l.distance) > 0.05)) {
            const Plan p = leftStanding(look.plan, l.id, stood);
            simpler({Relief::Kind::LeaveStanding, {at}, l.id, {}, 0, 0, 0, {}}, at, p,
                    say("{}: leave {} where it stands for {}, at {} o'clock and {}.", look.name(), l.id,
                        day.looks[size_t(before)].name(), writeClock(stood.hour), spelling.length(stood.distance)));
          }
    }
    if (look.frames > 12) {
      Day other = day;
      other.looks[at].frames = std::max(10, look.frames / 2);
      Relief r{Relief::Kind::FewerFrames, {at}, {}, {}, other.looks[at].frames, 0, 0, {}};
      offer(std::move(r), timed(other, costs, way, standing),
            say("{}: {} frames instead of {}.", look.name(), other.looks[at].frames, look.frames));
    }
  }
  // What is enough stands first: a simpler look before one that is not shot; then what saves most.
  std::stable_sort(out.begin(), out.end(), [](const Relief& a, const Relief& b) {
    const bool enoughA = a.late <= kEps, enoughB = b.late <= kEps;
    if (enoughA != enoughB) return enoughA;
    if (enoughA && (a.kind == Relief::Kind::Drop) != (b.kind == Relief::Kind::Drop))
      return b.kind == Relief::Kind::Drop;
    if (enoughA && a.looks.size() != b.looks.size()) return a.looks.size() < b.looks.size();
    return a.late != b.late ? a.late < b.late : a.saves > b.saves;
  });
  return out;
}

std::vector<std::string> whyThisOrder(const Day& day, const Order& order, const ShootTimes& times) {
  std::vector<std::string> out;
  for (size_t k = 0; k < order.turns.size(); ++k) {
    const DayLook& look = day.looks[order.turns[k].look];
    std::vector<std::string> why;
    if (look.first) why.push_back(say("it has to be first"));
    if (look.last) why.push_back(say("it has to be last"));
    if (!look.after.empty()) why.push_back(say("it has to come after {}", look.after));
    if (k) {
      const DayLook& before = day.looks[order.turns[k - 1].look];
      const Changeover c = changeover(&before.plan, look.plan, times);
      std::string stays;
      std::map<std::string, int> count;
      for (const std::string& s : c.stays) ++count[s];
      for (const auto& [name, n] : count)
        stays += (stays.empty() ? "" : ", ") + (n > 1 ? fmt::format("{} x {}", n, name) : name);
      if (!stays.empty())
        why.push_back(count.size() + size_t(count.begin()->second) > 2 ? say("{} stay", stays)
                                                                       : say("{} stays", stays));
    }
    for (const std::string& name : look.sitters)
      if (const DaySitter* s = day.sitter(name)) {
        // Only where leaving presses: the next hour.
        if (s->leaves * 60.0 - order.turns[k].end < 3600 && s->leaves < day.end)
          why.push_back(say("{} leaves at {}", s->name, writeTime(s->leaves)));
        if (k == 0 && s->makeUp > 0 && order.turns[k].waits <= 0) why.push_back(say("{} is made up by then", s->name));
      }
    const std::string all = fmt::format("{}", fmt::join(why, "; "));
    out.push_back(all.empty() ? std::string()
                  : k         ? say("{} before {}: {}.", day.looks[order.turns[k - 1].look].id, look.id, all)
                              : say("{} first: {}.", look.id, all));
  }
  return out;
}

}  // namespace easel
