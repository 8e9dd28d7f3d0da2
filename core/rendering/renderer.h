// The studio on a thread of its own: plans go in at any moment, pictures come out when they are better than the last.
//
// The caller's thread never waits for work: setPlan() leaves a copy, raises the interrupt and returns. The worker drops
// tracing within a tile and the tables of spots and qualities between two lights. What it does in one piece it finishes
// first: a new scene (some 100 ms), the meter's answers (about two milliseconds a light), developing a picture (some 10
// ms). When only weights have changed it develops at once.
#pragma once

#include <atomic>
#include <condition_variable>
#include <functional>
#include <memory>
#include <mutex>
#include <optional>
#include <string>
#include <thread>

#include "meter/panel_shares.h"
#include "meter/quality.h"
#include "meter/spots.h"
#include "picture/overlays.h"
#include "rendering/progressive_render.h"
#include "rendering/series.h"
#include "rendering/sharp.h"

namespace easel {

/// Of several renderers in a process those in view work first: one behind stops within a tile when one in view gets
/// something to do, and goes on when none of them has.
enum class Priority { InView, Behind };

/// What else is wanted with the picture.
struct Extras {
  bool stopsMap = false, ratios = false;
};

/// What the worker hands over; immutable.
struct Result {
  std::uint64_t serial = 0;  ///< of the setPlan call it answers
  std::shared_ptr<const Layers> layers;
  Plan plan;
  std::shared_ptr<const PlacedSet> set;                 ///< of `plan`; null when nothing has been placed yet
  Picture picture;                                      ///< what is to be shown
  std::vector<std::pair<std::string, Picture>> prints;  ///< small: "A" ... solo, "ambient", "all"; empty when unchanged
  std::vector<std::pair<std::string, Picture>> buildUp;  ///< small: the ambient and the lights up to "A", up to "B" ...
  std::vector<std::pair<RatioPlan, Picture>> ratios;     ///< small, when asked for
  Picture map;                                           ///< the stops map, when asked for
  Histogram histogram;                                   ///< of `picture`
  std::shared_ptr<const Answers> answers;
  std::shared_ptr<const SpotTable> table;  ///< every light at every spot; of `plan`, missing until it has been taken
  std::shared_ptr<const std::vector<PanelShare>> shares;     ///< comes with the table
  std::shared_ptr<const std::vector<LightQuality>> quality;  ///< comes with the table
  bool answersCurrent = false;                               ///< the answers are those of `plan`, not of the one before
  std::string problem;                                       ///< a sentence, when the plan cannot be computed
  /// New since the last result of this serial: pieces of the picture at the pixels that were asked for.
  std::vector<SharpTile> sharp;
  SharpWish sharpOf;
  bool sharpDone = false;  ///< all pieces have been handed over
  int passes = 0;
  bool done = false;
};

class Renderer {
 public:
  /// `deliver` is called on the worker's thread.
  explicit Renderer(std::function<void(std::shared_ptr<const Result>)> deliver);
  ~Renderer();

  /// Returns the serial that results will carry. `show`: what the large picture shows.
  std::uint64_t setPlan(const Plan& plan, const Show& show, int width, int height, Extras extras = {});
  /// The picture at the pixels of the screen: traced in pieces when the ordinary one is good enough, of every plan from
  /// now on. Stops pieces of another wish within a tile, and nothing else.
  void setSharp(const SharpWish& wish);
  /// After so many passes of every layer a picture is good enough and the worker rests, from the next plan on.
  void setEnough(int passes) { enough_ = passes; }
  void setPriority(Priority priority);

 private:
  struct Request {
    Plan plan;
    Show show;
    int width = 0, height = 0;
    Extras extras;
    std::uint64_t serial = 0;
  };
  class Worker;
  void run();
  bool somethingToDo() const { return next_ || nextSharp_; }
  void setWorking(bool working);

  std::function<void(std::shared_ptr<const Result>)> deliver_;
  std::mutex guard_;
  std::condition_variable wake_;
  std::optional<Request> next_;
  std::optional<SharpWish> nextSharp_;
  std::atomic<std::uint64_t> epoch_{0}, sharpEpoch_{0};
  std::atomic<int> enough_{64};
  bool working_ = false;  ///< as Precedence counts it when in view
  std::atomic<Priority> priority_{Priority::InView};
  std::atomic<bool> quit_{false};
  std::thread worker_;
};

}  // namespace easel
