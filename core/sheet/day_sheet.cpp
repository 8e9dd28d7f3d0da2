#include "sheet/day_sheet.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <set>

#include "sheet/plan_sheet.h"
#include "shoot/cautions.h"
#include "spoken/say.h"

namespace easel {
namespace {

// The load of every circuit at every look, what is plugged in where, and what is wrong with it.
void addMains(std::vector<Block>& b, const Day& day, const Order& order, const Spelling& spelling) {
  b.push_back(Heading{say("Mains"), 2});
  Table mains;
  mains.columns = {{say("look"), 2},         {say("circuit"), 1.6},
                   {say("all the time"), 1}, {say("flashes recharging"), 1.2},
                   {say("breaker"), 1},      {say("plugged in"), 2.4}};
  std::set<std::string> said;
  std::vector<std::string> problems;
  for (const Turn& s : order.turns) {
    const DayLook& l = day.looks[s.look];
    const MainsLoad load = spreadOver(day.circuits, consumersOf(l.plan, day.pluggedIn), spelling);
    for (size_t c = 0; c < load.circuits.size(); ++c) {
      std::string what;
      for (const auto& p : load.plugs)
        if (p.circuit == int(c)) {
          const Socket& socket = day.circuits[c].sockets[size_t(p.socket)];
          what +=
              (what.empty() ? "" : "; ") + (socket.name.empty() ? say("{}: socket {}", p.consumer.what, p.socket + 1)
                                                                : say("{}: {}", p.consumer.what, socket.name));
        }
      mains.rows.push_back({l.name(), day.circuits[c].name, say("{:.0f} W", load.circuits[c].steady),
                            say("{:.0f} W", load.circuits[c].peak), say("{:.0f} W", load.circuits[c].most), what});
    }
    for (const std::string& p : load.problems)
      if (said.insert(p).second) problems.push_back(p);
  }
  if (!mains.rows.empty()) b.push_back(std::move(mains));
  for (const std::string& p : problems) b.push_back(Sentence{p, false});
  b.push_back(Sentence{loadCaution(), true});
}

}  // namespace

Pages dayPages(const Day& day, const Order& order, const std::vector<Picture>& prints, const Inventory& kit,
               const Spelling& spelling) {
  Pages pages;
  pages.title = day.title;
  pages.foot = say("Planned with Jolly Easel. Times are estimates: go by the clock.");
  auto& b = pages.blocks;
  b.push_back(Heading{day.title, 1});
  std::string when = day.date;
  if (!day.studio.empty()) when += (when.empty() ? "" : ", ") + day.studio;
  when += (when.empty() ? "" : ", ") + say("{} to {}", writeTime(day.start), writeTime(day.end));
  b.push_back(Sentence{when, false});
  if (!day.notes.empty()) b.push_back(Sentence{day.notes, false});
  for (const std::string& p : checkDay(day)) b.push_back(Sentence{p, false});
  if (!order.problem.empty()) b.push_back(Sentence{order.problem, false});

  Table t;
  t.columns = {{say("begins"), 0.8}, {say("look"), 2.4},    {say("sitter, outfit"), 1.8},
               {say("frames"), 0.8}, {say("set takes"), 1}, {say("ends"), 0.8}};
  for (const Turn& s : order.turns) {
    const DayLook& l = day.looks[s.look];
    std::string who;
    for (const std::string& name : l.sitters) who += (who.empty() ? "" : ", ") + name;
    if (!l.outfit.empty()) who += "; " + l.outfit;
    t.rows.push_back(
        {writeTimeAt(s.begin),
         say("{}. {}", l.id, l.name()) + (l.framing.empty() ? "" : "; " + l.framing) + (l.must ? "" : say(" (may)")),
         who, std::to_string(l.frames), writeSpan(s.change), writeTimeAt(s.end)});
  }
  b.push_back(std::move(t));
  if (order.late > 0) b.push_back(Sentence{say("{} late in all.", writeSpan(order.late)), false});
  if (prints.size() == order.turns.size() && !prints.empty()) {
    Prints p;
    p.height = 42;
    for (size_t i = 0; i < prints.size(); ++i)
      p.all.push_back(
          {prints[i], say("{} {}", writeTimeAt(order.turns[i].begin), day.looks[order.turns[i].look].name())});
    b.push_back(std::move(p));
  }

  b.push_back(Heading{say("From set to set"), 2});
  for (size_t i = 0; i < order.turns.size(); ++i) {
    const DayLook& l = day.looks[order.turns[i].look];
    b.push_back(Heading{say("{}. {}", l.id, l.name()), 3});
    const Changeover c =
        changeover(i ? &day.looks[order.turns[i - 1].look].plan : nullptr, l.plan, usualDay().times, spelling);
    Points points;
    for (const Chore& chore : c.chores) points.all.push_back({"", chore.sentence, {false}});
    if (!c.stays.empty()) {
      std::string stays;
      for (const std::string& one : c.stays) stays += (stays.empty() ? "" : ", ") + one;
      points.all.push_back({"", say("Stays: {}.", stays)});
    }
    b.push_back(std::move(points));
    if (!l.notes.empty()) b.push_back(Sentence{l.notes, true});
  }

  if (!day.sitters.empty()) {
    b.push_back(Heading{say("Who comes"), 2});
    Table who;
    who.columns = {{say("sitter")}, {say("comes")}, {say("leaves")}, {say("make-up")}, {say("notes"), 2}};
    for (const DaySitter& s : day.sitters)
      who.rows.push_back({s.name, writeTime(s.arrives), writeTime(s.leaves),
                          s.makeUp ? say("{} min", s.makeUp) : std::string(), s.notes});
    b.push_back(std::move(who));
  }

  addMains(b, day, order, spelling);

  Points cautions;
  std::set<std::string> ids;
  for (const DayLook& l : day.looks)
    for (const Caution& c : cautionsFor(l.plan, kit, day.pluggedIn, spelling))
      if (ids.insert(c.id).second) cautions.all.push_back({say("look {}", l.id), c.sentence});
  if (!cautions.all.empty()) {
    b.push_back(Heading{say("Cautions"), 2});
    b.push_back(std::move(cautions));
  }
  return pages;
}

Pages packingPages(const Day& day, const Inventory& kit, const Spelling& spelling) {
  Pages pages;
  pages.title = say("Packing: {}", day.title);
  pages.foot = say("Left box: packed. Right box: packed again to go home.");
  auto& b = pages.blocks;
  b.push_back(Heading{pages.title, 1});
  const auto items = packingFor(day, kit, spelling);
  std::optional<PackGroup> group;
  Points points;
  const auto close = [&] {
    if (!points.all.empty()) b.push_back(std::move(points));
    points = {};
  };
  for (const PackItem& i : items) {
    if (!group || *group != i.group) {
      close();
      group = i.group;
      b.push_back(Heading{packGroupName(i.group), 2});
    }
    const auto found = day.packed.find(i.key);
    const Packed ticks = found == day.packed.end() ? Packed{} : found->second;
    points.all.push_back({"",
                          say("{} x {}", i.count, i.name) + (i.why.empty() ? "" : " (" + i.why + ")") +
                              (!i.missing() ? std::string()
                               : *i.owned   ? say(". The kit has {}.", *i.owned)
                                            : say(". The kit has none.")),
                          {ticks.out, ticks.home}});
  }
  close();
  return pages;
}

std::vector<std::string> sheetNames(const Day& day) {
  std::vector<std::string> out;
  std::set<std::string> taken;
  for (const DayLook& l : day.looks) {
    const std::string words = fmt::format("{}-{}", l.id, l.name());
    std::string name = sheetFileName(words, "sheet", "pdf");
    for (int n = 2; !taken.insert(name).second; ++n) name = sheetFileName(words, fmt::format("{}_sheet", n), "pdf");
    out.push_back(name);
  }
  return out;
}

}  // namespace easel
