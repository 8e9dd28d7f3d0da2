// The running order: which look after which, so that least is moved and everybody is photographed before they leave.
//
//   const DayCosts costs(day, times);                 // what every change would take
//   const Order best = bestOrder(day, costs);         // fewest seconds late, then fewest seconds of changing
//   for (const Turn& s : best.turns) ...              // when each begins, and why it stands there
//
// Up to twelve looks the order is exact: dynamic programming over sets of looks (Held and Karp 1962) that keeps every
// label no other beats in lateness, work, time and make-up at once; everything that can delay is monotone in them, so
// nothing is lost. Beyond, the 3000 best labels of each size are kept, then single looks and runs of two or three are
// put elsewhere and stretches turned round until nothing helps: no proof, but what cannot be mended by one such change.
//
// Work is done by one pair of hands outside the breaks. One make-up artist takes the sitters in the order of their
// first looks, beside the photography, from when they come. A frame is not begun that a break would interrupt: a look
// waits until after it. Minutes since midnight outside, seconds inside. Any thread.
#pragma once

#include <functional>
#include <optional>
#include <string>
#include <vector>

#include "exposure/spelling.h"
#include "shoot/changeover.h"
#include "shoot/day.h"

namespace easel {

constexpr size_t kExactLooks = 12;

/// Changes between all looks of a day: costs[i][j] from look i to j; `first[j]` out of the empty room.
class DayCosts {
 public:
  DayCosts(const Day& day, const ShootTimes& times, double pace = 1);
  double change(int from, size_t to) const { return pace_ * (from < 0 ? first_[to] : between_[size_t(from)][to]); }
  int moves(size_t from, size_t to) const { return moves_[from][to]; }
  size_t size() const { return first_.size(); }
  /// The same with one look of the day changed, for that order of looks alone: only the changes into it and out of it
  /// are made again.
  DayCosts with(const Day& changed, size_t look, const std::vector<size_t>& order, int before) const;
  const ShootTimes& times() const { return times_; }
  double pace() const { return pace_; }  ///< of the user against those times

 private:
  void arrive(const Day& day, size_t to);
  void pass(const Day& day, size_t from, size_t to);
  ShootTimes times_;
  double pace_;
  std::vector<double> first_;
  std::vector<std::vector<double>> between_;
  std::vector<std::vector<int>> moves_;
};

struct Turn {
  size_t look = 0;                      ///< index into Day::looks
  double change = 0;                    ///< s of work before it
  double from = 0, begin = 0, end = 0;  ///< s since midnight: change begins, first frame, last frame
  double waits = 0;                     ///< s that the set is ready and somebody is not
  std::string waitsFor;                 ///< "Ida, in make-up until 9:40"; empty: nobody
  double late = 0;                      ///< s after a sitter's leaving that it ends
};

struct Order {
  std::vector<Turn> turns;
  double work = 0;     ///< s of changing
  int moves = 0;       ///< between sets; the first one is built, not moved
  double late = 0;     ///< s: sitters kept too long, and the day's end overrun
  double overrun = 0;  ///< s of it after the day's end
  bool exact = false;
  std::string problem;  ///< what makes every order impossible; empty: none does
};

/// Where a day stands when it is planned anew.
struct Standing {
  std::vector<size_t> done;  ///< looks, in the order in which they were shot
  double now = -1;           ///< s since midnight; < 0: the day has not begun
};

/// Of looks in the order given (indices), from where the day stands.
Order timed(const Day& day, const DayCosts& costs, const std::vector<size_t>& looks, const Standing& standing = {});
/// What keeps a day from having any order, in a sentence; empty: nothing.
std::string whatPreventsAnOrder(const Day& day);
/// The day from its start in its own order, whatever the running clock says.
Order wholeDay(const Day& day, double pace);
Order bestOrder(const Day& day, const DayCosts& costs, const Standing& standing = {}, size_t exactUpTo = kExactLooks);

/// What can be done about a day that runs late, most kept first.
struct Relief {
  enum class Kind { Drop, LeaveOut, LeaveStanding, FewerFrames } kind = Kind::Drop;
  std::vector<size_t> looks;  ///< that it touches
  std::string light;          ///< LeaveOut, LeaveStanding: its letter in that look
  Plan plan;                  ///< LeaveOut, LeaveStanding: the look's plan then
  int frames = 0;             ///< FewerFrames
  double saves = 0;           ///< s that the day ends earlier
  double late = 0;            ///< s that are still late
  std::string sentence;
};
/// Empty when nobody is kept too long and the day ends in time. What is enough by itself stands first.
std::vector<Relief> reliefs(const Day& day, const DayCosts& costs, const Order& order, const Standing& standing = {},
                            const Spelling& spelling = {});

/// "2 before 3: the strips stay; 4 first: it has to be", for each turn of the order, why it stands after the one
/// before.
std::vector<std::string> whyThisOrder(const Day& day, const Order& order, const ShootTimes& times);

}  // namespace easel
