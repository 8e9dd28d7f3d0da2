#include "studio/renderer.h"

#include <algorithm>

namespace easel {
namespace {
constexpr int kEnoughForSharp = 16;  // passes
}

Renderer::Renderer(std::function<void(std::shared_ptr<const Result>)> deliver)
    : deliver_(std::move(deliver)), worker_([this] { run(); }) {}

Renderer::~Renderer() {
  {
    std::lock_guard lock(guard_);
    quit_ = true;
    ++epoch_;
  }
  wake_.notify_all();
  worker_.join();
}

std::uint64_t Renderer::setPlan(const Plan& plan, const Show& show, int width, int height, Extras extras) {
  std::uint64_t serial;
  {
    std::lock_guard lock(guard_);
    serial = ++epoch_;
    next_ = Request{plan, show, width, height, extras, serial};
  }
  wake_.notify_all();
  return serial;
}

void Renderer::setSharp(const SharpWish& wish) {
  {
    std::lock_guard lock(guard_);
    nextSharp_ = wish;
    ++sharpEpoch_;
  }
  wake_.notify_all();
}

void Renderer::run() {
  Studio studio(8, 8);
  Request now;
  bool idle = true;
  std::shared_ptr<const Answers> answers;
  std::shared_ptr<const SpotTable> table;
  std::shared_ptr<const std::vector<PanelShare>> shares;
  std::shared_ptr<const std::vector<LightQuality>> quality;
  bool answersFresh = false;
  SharpWish wish;
  std::uint64_t wishSerial = 0;
  std::optional<SharpPicture> sharp;
  for (;;) {
    bool fresh = false;
    {
      std::unique_lock lock(guard_);
      if (idle) wake_.wait(lock, [&] { return quit_ || next_ || nextSharp_; });
      if (quit_) return;
      if (nextSharp_) {
        wish = *nextSharp_;
        nextSharp_.reset();
        wishSerial = sharpEpoch_;
        sharp.reset();
      }
      if (next_) {
        now = std::move(*next_);
        next_.reset();
        fresh = true;
      }
    }
    std::vector<SharpTile> tiles;
    auto send = [&](bool done, std::string problem, bool withPrints) {
      auto r = std::make_shared<Result>();
      r->serial = now.serial;
      r->plan = now.plan;
      r->set = studio.set();
      r->problem = std::move(problem);
      r->layers = std::make_shared<const Layers>(studio.layers());
      r->passes = r->layers->passes;
      r->done = done;
      r->answers = answers;
      r->answersCurrent = answersFresh;
      r->table = table;
      r->shares = shares;
      r->quality = quality;
      r->sharp = std::move(tiles);
      r->sharpOf = wish;
      r->sharpDone = sharp && sharp->done();
      if (r->problem.empty() && r->layers->usable) {
        const PlacedSet& set = *r->set;
        r->picture = developPicture(*r->layers, set, now.show);
        r->histogram = histogramOf(r->picture);
        if (now.extras.stopsMap) r->map = stopsMap(*r->layers, set, now.show);
        if (now.extras.ratios && answersFresh)
          for (RatioStep& step : ratioStrip(now.plan, *answers)) {
            Picture p = developPicture(*r->layers, placedSetOf(step.plan), {}, 4);
            r->ratios.emplace_back(std::move(step), std::move(p));
          }
        if (withPrints) {
          // A quarter of the size is plenty for the ledge.
          for (const Light& l : now.plan.lights)
            r->prints.emplace_back(l.id, developPicture(*r->layers, set, {Show::What::Solo, l.id}, 4));
          // The picture as it grows, light by light in the plan's order.
          for (const Light& l : now.plan.lights)
            r->buildUp.emplace_back(l.id, developPicture(*r->layers, set, {Show::What::UpTo, l.id}, 4));
          r->prints.emplace_back("ambient", developPicture(*r->layers, set, {Show::What::Ambient, {}}, 4));
          r->prints.emplace_back("all", developPicture(*r->layers, set, {}, 4));
        }
      }
      deliver_(std::move(r));
    };
    if (!now.serial) {  // a wish before the first plan
      idle = true;
      continue;
    }
    try {
      const Interrupt interrupt(epoch_, now.serial);
      if (!fresh) idle = false;
      if (fresh) {
        idle = false;
        answersFresh = false;
        table.reset();
        shares.reset();
        quality.reset();
        sharp.reset();
        studio.setSize(now.width, now.height);
        studio.setPlan(now.plan);
        // While the room stands the meter answers in a millisecond a light: numbers follow the hand at once, and so
        // does the picture when only weights have changed.
        if (studio.sceneStands()) {
          answers = std::make_shared<const Answers>(computeAnswers(*studio.scene(), *studio.set()));
          answersFresh = true;
        }
        if (studio.layers().usable && studio.layers().width == now.width) send(false, {}, false);
      }
      // The picture at the pixels of the screen, once the ordinary one says what it will be; the rest of its passes
      // come afterwards.
      if (table && quality && wish.width > 0 && studio.layers().current &&
          studio.layers().passes >= (now.plan.lights.empty() ? 0 : std::min(kEnoughForSharp, enough_.load()))) {
        if (!sharp) sharp.emplace(now.plan, now.show, wish);
        if (!sharp->done()) {
          if (auto tile = sharp->next({interrupt, sharpEpoch_, wishSerial})) {
            tiles.push_back(std::move(*tile));
            send(false, {}, false);
          }
          continue;
        }
      }
      const auto progress = studio.step(interrupt, enough_);
      if (progress == Studio::Progress::Interrupted) continue;
      if (!answersFresh) {
        answers = std::make_shared<const Answers>(computeAnswers(*studio.scene(), *studio.set()));
        answersFresh = true;
        send(false, {}, true);
        continue;
      }
      // Never in front of a picture that waits to be seen.
      if (!table && progress != Studio::Progress::Improved && !interrupt.raised()) {
        SpotTable all = spotTable(*studio.scene(), *studio.set(), interrupt);
        if (interrupt.raised()) continue;
        table = std::make_shared<const SpotTable>(std::move(all));
      } else if (table && !quality && progress != Studio::Progress::Improved && !interrupt.raised()) {
        auto qualities = lightQualities(*studio.scene(), *studio.set(), interrupt);
        auto ofPanels = interrupt.raised() ? std::vector<PanelShare>{} : panelShares(*studio.scene(), *studio.set());
        if (interrupt.raised()) continue;
        quality = std::make_shared<const std::vector<LightQuality>>(std::move(qualities));
        shares = std::make_shared<const std::vector<PanelShare>>(std::move(ofPanels));
        if (progress != Studio::Progress::Done) send(false, {}, false);
      }
      if (progress == Studio::Progress::Done) idle = table && quality;
      if (fresh || progress == Studio::Progress::Improved || idle) send(idle, {}, true);
    } catch (const std::exception& e) {
      answers.reset();
      send(true, e.what(), false);
      idle = true;
    }
  }
}

}  // namespace easel
