#include "rendering/progressive_render.h"

#include <algorithm>
#include <limits>
#include <stdexcept>

#include "plan/check.h"
#include "sitters/sitter_file.h"
#include "transport/figure.h"
#include "transport/shared.h"

namespace easel {
namespace {

// Fewer than four passes are further off than the preview. Then each time a third to a half more: the eye sees no
// smaller step. In the end every round of sets.
bool worthShowing(int passes) {
  return passes >= 4 && passes % (passes < kSampleSets ? 2 : passes < 2 * kSampleSets ? 4 : kSampleSets) == 0;
}

// `sitter` null: nothing has been built of either.
bool sameScene(const PlacedSet& a, const PlacedSet& b, const Sitter* sitter) {
  // The camera's distance moves the wall behind the photographer only when it stands outside the room.
  return a.sitter == b.sitter && a.room == b.room && a.backdrop == b.backdrop && samePanels(a, b) && a.haze == b.haze &&
         std::max(a.room.depth - a.room.behind, a.camera.distance + 0.3) ==
             std::max(b.room.depth - b.room.behind, b.camera.distance + 0.3) &&
         (!sitter || gazeOf(a, *sitter).gaze == gazeOf(b, *sitter).gaze);
}
bool sameView(const PlacedSet& a, const PlacedSet& b) {
  const Camera &x = a.camera, &y = b.camera;
  return x.distance == y.distance && x.height == y.height && x.focalLength == y.focalLength && x.extends == y.extends &&
         x.sensorWidth == y.sensorWidth && x.sensorHeight == y.sensorHeight && x.frame == y.frame &&
         x.aimBelowEyes == y.aimBelowEyes && a.sitter.eyeHeight == b.sitter.eyeHeight;
}
// What light does in a room is computed once a scene, and windows, prints, ways and remedies look at the same one.
std::shared_ptr<const Scene> sharedScene(const std::shared_ptr<const PlacedSet>& set, const std::vector<Solid>& gear,
                                         const std::shared_ptr<const Sitter>& sitter) {
  struct MadeOf {
    std::shared_ptr<const PlacedSet> set;
    std::vector<Solid> gear;
    std::shared_ptr<const Sitter> sitter;
    bool operator==(const MadeOf& o) const {
      return sitter == o.sitter && gear == o.gear && sameScene(*set, *o.set, sitter.get());
    }
  };
  static Shared<MadeOf, Scene> all(4e8);  // two to five of them
  return all.get({set, gear, sitter}, [&] { return std::make_shared<const Scene>(*set, sitter); });
}

}  // namespace

void ProgressiveRender::setSize(int width, int height) {
  if (width == width_ && height == height_) return;
  width_ = width;
  height_ = height;
  sets_.reset();
  before_.reset();
}

void ProgressiveRender::setPart(int left, int top, int wholeWidth, int wholeHeight) {
  part_ = {left, top, wholeWidth, wholeHeight};
  sets_.reset();
  before_.reset();
}

void ProgressiveRender::setPlan(const Plan& plan) {
  auto set = std::make_shared<const PlacedSet>(placedSetOf(plan));
  std::vector<Solid> gear = gearThatMatters(*set);
  if (!set_ || set->sitter.id != set_->sitter.id) sitter_.reset();
  if (!set_ || gear != gear_ || !sameScene(*set, *set_, sitter_.get())) scene_.reset();
  if (sets_ && (!scene_ || !sameView(*set, *set_))) before_ = std::move(sets_);
  for (auto at = kept_.begin(); at != kept_.end();) {
    const PlacedLight* now = set->light(at->first);
    if (!now || !sameSource(*now, at->second.light)) {
      layers_.passes = 0;
      layers_.current = false;
      // The old picture of a light that moved stays on show until its preview is there.
      if (!now) layers_.lights.erase(at->first);
      at = kept_.erase(at);
    } else {
      ++at;
    }
  }
  for (const PlacedLight& l : set->lights) layers_.current &= kept_.count(l.light.id) > 0;
  if (!sets_) layers_.current = false;
  plan_ = plan;
  set_ = std::move(set);
  gear_ = std::move(gear);
}

void ProgressiveRender::refuseImpossible() const {
  for (const Finding& f : checkPlan(plan_))
    if (f.severity == Severity::Error) throw std::runtime_error(f.sentence);
}

std::shared_ptr<const Scene> ProgressiveRender::scene() {
  if (!sitter_) sitter_ = loadSitter(plan_.sitter.id);
  if (!scene_) {
    scene_ = sharedScene(set_, gear_, sitter_);
    if (sets_) before_ = std::move(sets_);
  }
  return scene_;
}

View ProgressiveRender::view() const {
  const double aspect = part_.wholeHeight > 0 ? double(part_.wholeWidth) / part_.wholeHeight : double(width_) / height_;
  return {cameraPose(set_->camera, set_->sitter, aspect),
          width_,
          height_,
          part_.left,
          part_.top,
          part_.wholeWidth,
          part_.wholeHeight};
}

void ProgressiveRender::publish(Kept& kept, const std::string& id) {
  auto picture = kept.layer->picture(*sets_, smooth_);
  kept.published = kept.layer->passes();
  (id.empty() ? layers_.ambient : layers_.lights[id]) = std::move(picture);
}

ProgressiveRender::Progress ProgressiveRender::improve(const Interrupt& interrupt, int enough) {
  if (!set_) return Progress::Nothing;
  refuseImpossible();
  scene();
  if (!sets_) {
    const View view = this->view();
    sets_ = before_ ? std::make_unique<SampleSets>(scene_, view, seed_, std::move(*before_))
                    : std::make_unique<SampleSets>(scene_, view, seed_);
    before_.reset();
    kept_.clear();
    ambient_ = {};
    // Like a light that moved, the ambient stays on show until its new preview is there.
    auto ambient = sets_->goesOn() ? layers_.ambient : nullptr;
    layers_ = {};
    layers_.ambient = std::move(ambient);
    layers_.width = width_;
    layers_.height = height_;
    layers_.view = view;
    layers_.scene = scene_;
  }
  // The first look always runs to its end (a third of a second at the most): a hand that drags faster than that would
  // otherwise never see anything.
  sets_->build(0, Interrupt());

  if (!ambient_.layer) ambient_.layer = std::make_unique<Layer>();
  for (const PlacedLight& l : set_->lights) {
    const std::string& id = l.light.id;
    Kept& k = kept_[id];
    if (k.layer) continue;
    k.light = l;
    k.layer = std::make_unique<Layer>(sourceOf(*scene_, *set_, l), hash32(std::uint32_t(id[0]) + seed_ * 0x9e3779b9u));
  }
  // Previews first: the light that moved is the one that is looked at.
  auto summarise = [&] {
    // The ambient stops after one round of sets: it does not count unless it is all there is.
    int fewest = kept_.empty() ? std::max(0, ambient_.published) : std::numeric_limits<int>::max();
    bool usable = layers_.ambient != nullptr;
    for (const auto& [id, k] : kept_) {
      fewest = std::min(fewest, std::max(0, k.published));
      usable &= k.published >= 0;
    }
    layers_.passes = fewest;
    layers_.usable = usable;
    layers_.current = usable && ambient_.published >= 0;
  };
  const auto previewAmbient = [&] {
    layers_.ambient = ambient_.layer->preview(*sets_);
    ambient_.published = 0;
  };
  if (ambient_.published < 0 && !onlyLast_ && !layers_.ambient) previewAmbient();
  bool previewed = false;
  for (const PlacedLight& l : set_->lights) {
    Kept& k = kept_[l.light.id];
    if (k.published >= 0 || onlyLast_) continue;
    layers_.lights[l.light.id] = k.layer->preview(*sets_);
    k.published = 0;
    previewed = true;
  }
  if (!previewed && ambient_.published < 0 && !onlyLast_) {
    previewAmbient();
    previewed = true;
  }
  summarise();
  if (previewed) return Progress::Improved;

  // Then passes: the layer with the fewest; ambient, being the least interesting, last and never beyond one full round.
  Kept* next = nullptr;
  std::string id;
  int fewest = std::numeric_limits<int>::max();
  for (const PlacedLight& l : set_->lights) {
    Kept& k = kept_[l.light.id];
    const int n = k.layer->passes();
    if (n < enough && n < fewest) {
      fewest = n;
      next = &k;
      id = l.light.id;
    }
  }
  const int ambientEnough = std::min(enough, kSampleSets);
  if (ambient_.layer->passes() < ambientEnough && ambient_.layer->passes() < fewest) {
    next = &ambient_;
    id.clear();
  }
  if (!next) return Progress::Done;
  if (!sets_->build(next->layer->passes() % kSampleSets, interrupt)) return Progress::Interrupted;
  // For who goes on beyond the sets it is worth its time.
  if (sets_->complete() == kSampleSets && enough > kSampleSets && !sets_->buildOutlines(interrupt))
    return Progress::Interrupted;
  if (!next->layer->trace(*sets_, interrupt)) return Progress::Interrupted;
  const int n = next->layer->passes();
  const bool last = n == (next == &ambient_ ? ambientEnough : enough);
  if (last || (!onlyLast_ && worthShowing(n))) {
    publish(*next, id);
    summarise();
    return Progress::Improved;
  }
  return Progress::Nothing;
}

bool ProgressiveRender::finish(int passes, const std::function<bool()>& wanted) {
  const Interrupt never;
  do {
    if (wanted && !wanted()) return false;
  } while (improve(never, passes) != Progress::Done);
  return true;
}

Picture renderPicture(const Plan& plan, int width, int height, int passes, const std::function<bool()>& wanted) {
  ProgressiveRender studio(width, height);
  studio.setOnlyLast(true);
  studio.setPlan(plan);
  return studio.finish(passes, wanted) ? developPicture(studio.layers(), *studio.set()) : Picture{};
}

}  // namespace easel
