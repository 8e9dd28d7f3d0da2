#include "rendering/renderer.h"

#include <algorithm>
#include <utility>

#include "rendering/precedence.h"

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
  Precedence::ofProcess().stir();
  worker_.join();
  setWorking(false);
}

// With guard_ held, or when the worker has ended.
void Renderer::setWorking(bool working) {
  if (working == working_) return;
  working_ = working;
  if (priority_ == Priority::InView) working ? Precedence::ofProcess().begin() : Precedence::ofProcess().end();
}

void Renderer::setPriority(Priority priority) {
  {
    const std::lock_guard lock(guard_);
    if (priority == priority_) return;
    const bool working = working_;
    setWorking(false);
    priority_ = priority;
    setWorking(working);
  }
  Precedence::ofProcess().stir();
}

std::uint64_t Renderer::setPlan(const Plan& plan, const Show& show, int width, int height, Extras extras) {
  std::uint64_t serial;
  {
    std::lock_guard lock(guard_);
    serial = ++epoch_;
    next_ = Request{plan, show, width, height, extras, serial};
    setWorking(true);
  }
  wake_.notify_all();
  return serial;
}

void Renderer::setSharp(const SharpWish& wish) {
  {
    std::lock_guard lock(guard_);
    nextSharp_ = wish;
    ++sharpEpoch_;
    setWorking(true);
  }
  wake_.notify_all();
}

// What the worker's thread knows of the plan that it works on.
class Renderer::Worker {
 public:
  explicit Worker(Renderer& of) : of_(of) {}

  /// Waits while there is nothing to do; false: the program ends.
  bool takeRequests();
  /// The next piece of work, most useful first.
  void workOn();

 private:
  void begin();
  bool sharpWanted() const;
  /// Of the picture at the pixels of the screen; false when it stands already.
  bool sharpTile(const Interrupt& interrupt);
  void meter();
  /// Never in front of a picture that waits to be seen. False when it was interrupted.
  bool tableAndQuality(const Interrupt& interrupt, ProgressiveRender::Progress progress);
  void send(bool done, std::string problem, bool withPrints);
  void develop(Result& r, bool withPrints) const;

  Renderer& of_;
  ProgressiveRender studio_{8, 8};
  Request now_;
  std::optional<std::uint64_t> behind_;  // what Precedence said when this one could go on; empty: it is in view
  bool idle_ = true, fresh_ = false;     // nothing left to do; a plan has come that nothing was done for yet
  std::shared_ptr<const Answers> answers_;
  bool answersFresh_ = false;
  std::shared_ptr<const SpotTable> table_;
  std::shared_ptr<const std::vector<PanelShare>> shares_;
  std::shared_ptr<const std::vector<LightQuality>> quality_;
  SharpWish wish_;
  std::uint64_t wishSerial_ = 0;
  std::optional<SharpPicture> sharp_;
  std::vector<SharpTile> tiles_;  // for the next result
};

bool Renderer::Worker::takeRequests() {
  fresh_ = false;
  std::unique_lock lock(of_.guard_);
  if (idle_ && !of_.somethingToDo()) of_.setWorking(false);
  if (idle_) of_.wake_.wait(lock, [&] { return of_.quit_ || of_.somethingToDo(); });
  lock.unlock();
  behind_.reset();
  if (of_.priority_ == Priority::Behind)
    behind_ = Precedence::ofProcess().giveWay([&] { return of_.quit_ || of_.priority_ == Priority::InView; });
  lock.lock();
  if (of_.quit_) return false;
  if (of_.nextSharp_) {
    wish_ = *of_.nextSharp_;
    of_.nextSharp_.reset();
    wishSerial_ = of_.sharpEpoch_;
    sharp_.reset();
  }
  if (of_.next_) {
    now_ = std::move(*of_.next_);
    of_.next_.reset();
    fresh_ = true;
  }
  return true;
}

void Renderer::Worker::workOn() {
  idle_ = now_.serial == 0;  // a wish before the first plan
  if (idle_) return;
  try {
    Interrupt interrupt(of_.epoch_, now_.serial);
    if (behind_) interrupt = {interrupt, Precedence::ofProcess().epoch(), *behind_};
    if (fresh_) begin();
    if (sharpWanted() && sharpTile(interrupt)) return;
    const auto progress = studio_.improve(interrupt, of_.enough_);
    if (progress == ProgressiveRender::Progress::Interrupted) return;
    if (!answersFresh_) {
      meter();
      return send(false, {}, true);
    }
    if (!tableAndQuality(interrupt, progress)) return;
    if (progress == ProgressiveRender::Progress::Done) idle_ = table_ && quality_;
    if (fresh_ || progress == ProgressiveRender::Progress::Improved || idle_) send(idle_, {}, true);
  } catch (const std::exception& e) {
    answers_.reset();
    send(true, e.what(), false);
    idle_ = true;
  }
}

void Renderer::Worker::begin() {
  answersFresh_ = false;
  table_.reset();
  shares_.reset();
  quality_.reset();
  sharp_.reset();
  studio_.setSize(now_.width, now_.height);
  studio_.setPlan(now_.plan);
  // While the room stands the meter answers in a millisecond a light: numbers follow the hand at once, and so does the
  // picture when only weights have changed.
  if (studio_.sceneStands()) meter();
  if (studio_.layers().usable && studio_.layers().width == now_.width) send(false, {}, false);
}

// Once the ordinary picture says what it will be; the rest of its passes come afterwards.
bool Renderer::Worker::sharpWanted() const {
  return table_ && quality_ && wish_.width > 0 && studio_.layers().current &&
         studio_.layers().passes >= (now_.plan.lights.empty() ? 0 : std::min(kEnoughForSharp, of_.enough_.load()));
}

bool Renderer::Worker::sharpTile(const Interrupt& interrupt) {
  if (!sharp_) sharp_.emplace(now_.plan, now_.show, wish_);
  if (sharp_->done()) return false;
  if (auto tile = sharp_->next({interrupt, of_.sharpEpoch_, wishSerial_})) {
    tiles_.push_back(std::move(*tile));
    send(false, {}, false);
  }
  return true;
}

void Renderer::Worker::meter() {
  answers_ = std::make_shared<const Answers>(computeAnswers(*studio_.scene(), *studio_.set()));
  answersFresh_ = true;
}

bool Renderer::Worker::tableAndQuality(const Interrupt& interrupt, ProgressiveRender::Progress progress) {
  if ((table_ && quality_) || progress == ProgressiveRender::Progress::Improved || interrupt.raised()) return true;
  const Scene& scene = *studio_.scene();
  const PlacedSet& set = *studio_.set();
  if (!table_) {
    SpotTable all = spotTable(scene, set, interrupt);
    if (interrupt.raised()) return false;
    table_ = std::make_shared<const SpotTable>(std::move(all));
    return true;
  }
  auto qualities = lightQualities(scene, set, interrupt);
  auto ofPanels = interrupt.raised() ? std::vector<PanelShare>{} : panelShares(scene, set);
  if (interrupt.raised()) return false;
  quality_ = std::make_shared<const std::vector<LightQuality>>(std::move(qualities));
  shares_ = std::make_shared<const std::vector<PanelShare>>(std::move(ofPanels));
  if (progress != ProgressiveRender::Progress::Done) send(false, {}, false);
  return true;
}

void Renderer::Worker::send(bool done, std::string problem, bool withPrints) {
  auto r = std::make_shared<Result>();
  r->serial = now_.serial;
  r->plan = now_.plan;
  r->set = studio_.set();
  r->problem = std::move(problem);
  r->layers = std::make_shared<const Layers>(studio_.layers());
  r->passes = r->layers->passes;
  r->done = done;
  r->answers = answers_;
  r->answersCurrent = answersFresh_;
  r->table = table_;
  r->shares = shares_;
  r->quality = quality_;
  r->sharp = std::exchange(tiles_, {});
  r->sharpOf = wish_;
  r->sharpDone = sharp_ && sharp_->done();
  if (r->problem.empty() && r->layers->usable) develop(*r, withPrints);
  of_.deliver_(std::move(r));
}

void Renderer::Worker::develop(Result& r, bool withPrints) const {
  constexpr int kSmall = 4;  // a quarter of the size is plenty for the ledge
  const PlacedSet& set = *r.set;
  r.picture = developPicture(*r.layers, set, now_.show);
  r.histogram = histogramOf(r.picture);
  if (now_.extras.stopsMap) r.map = stopsMap(*r.layers, set, now_.show);
  if (now_.extras.ratios && answersFresh_)
    for (RatioPlan& step : ratioStrip(now_.plan, *answers_)) {
      Picture p = developPicture(*r.layers, placedSetOf(step.plan), {}, kSmall);
      r.ratios.emplace_back(std::move(step), std::move(p));
    }
  if (!withPrints) return;
  const auto print = [&](const Show& show) { return developPicture(*r.layers, set, show, kSmall); };
  for (const Light& l : now_.plan.lights) r.prints.emplace_back(l.id, print({Show::What::Solo, l.id}));
  // The picture as it grows, light by light in the plan's order.
  for (const Light& l : now_.plan.lights) r.buildUp.emplace_back(l.id, print({Show::What::UpTo, l.id}));
  r.prints.emplace_back("ambient", print({Show::What::Ambient, {}}));
  r.prints.emplace_back("all", print({}));
}

void Renderer::run() {
  Worker worker(*this);
  while (worker.takeRequests()) worker.workOn();
}

}  // namespace easel
