#include "picture/studio.h"

#include <array>
#include <cmath>
#include <limits>
#include <stdexcept>

#include "colour/colour.h"
#include "gear/kit.h"
#include "gear/model.h"
#include "gear/panel_kinds.h"
#include "picture/develop.h"
#include "plan/check.h"
#include "plan/lamp.h"
#include "plan/leaves.h"
#include "plan/lens.h"
#include "plan/solids.h"
#include "plan/sync.h"
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
bool sameScene(const Plan& a, const Plan& b, const Sitter* sitter) {
  // The camera's distance moves the wall behind the photographer only when it stands outside the room.
  return a.sitter == b.sitter && a.room == b.room && a.backdrop == b.backdrop && samePanels(a, b) && a.haze == b.haze &&
         std::max(a.room.depth - a.room.behind, a.camera.distance + 0.3) ==
             std::max(b.room.depth - b.room.behind, b.camera.distance + 0.3) &&
         gearThatMatters(a) == gearThatMatters(b) && (!sitter || gazeOf(a, *sitter).gaze == gazeOf(b, *sitter).gaze);
}
bool sameView(const Plan& a, const Plan& b) {
  const Camera &x = a.camera, &y = b.camera;
  return x.distance == y.distance && x.height == y.height && x.focalLength == y.focalLength && x.extends == y.extends &&
         x.sensorWidth == y.sensorWidth && x.sensorHeight == y.sensorHeight && x.frame == y.frame &&
         x.aimBelowEyes == y.aimBelowEyes && a.sitter.eyeHeight == b.sitter.eyeHeight;
}
Modifier frontNow(const Light& l) {
  const Modifier* m = findModifier(l.modifier);
  return m ? fronted(*m, l.fittings) : Modifier{};
}
std::shared_ptr<const Gobo> goboNow(const Light& l) {
  const Modifier* m = findModifier(l.modifier);
  return m && m->projects ? findGobo(l.fittings.pattern) : nullptr;
}
// Drawings and meshes that panels are made of: a file of the user's may change under its name.
std::vector<std::shared_ptr<const void>> cutOutsNow(const Plan& plan) {
  std::vector<std::shared_ptr<const void>> out;
  for (const Panel& p : plan.panels) {
    const PanelShape shape = shapeOf(p.kind);
    if (takesPattern(shape)) out.push_back(findGobo(p.pattern));
    if (shape == PanelShape::Object) out.push_back(findModel(p.model));
  }
  return out;
}
// Gel, ND and colour temperature only weigh the layer; what the fittings make of the modifier is in its front.
bool samePlaced(const Light& a, const Light& b) {
  const auto &x = a.fittings, &y = b.fittings;
  return x.doors == y.doors && x.focus == y.focus && a.hour == b.hour && a.distance == b.distance &&
         a.height == b.height && a.pan == b.pan && a.tiltOffset == b.tiltOffset && a.worksOn == b.worksOn;
}

// What light does in a room is reckoned once a scene, and windows, prints, ways and remedies look at the same one.
std::shared_ptr<const Scene> sharedScene(const Plan& plan, const std::shared_ptr<const Sitter>& sitter,
                                         const std::vector<std::shared_ptr<const void>>& cutOuts) {
  struct MadeOf {
    Plan plan;
    std::shared_ptr<const Sitter> sitter;
    std::vector<std::shared_ptr<const void>> cutOuts;
    bool operator==(const MadeOf& o) const {
      return sitter == o.sitter && cutOuts == o.cutOuts && sameScene(plan, o.plan, sitter.get());
    }
  };
  static Shared<MadeOf, Scene> all(2);
  return all.get({plan, sitter, cutOuts}, [&] { return std::make_shared<const Scene>(plan, sitter); });
}

std::vector<WeightedLayer> weigh(const Layers& layers, const Plan& plan, const Show& show) {
  std::vector<WeightedLayer> out;
  const Camera& cam = plan.camera;
  const auto gain = float(gainOf(cam));
  bool past = false;
  for (const Light& l : plan.lights) {
    const auto at = layers.lights.find(l.id);
    const Unit* unit = findUnit(l.unit);
    const bool wanted = show.what == Show::What::All    ? l.on
                        : show.what == Show::What::Solo ? l.id == show.light
                        : show.what == Show::What::UpTo ? l.on && !past
                                                        : false;
    if (show.what == Show::What::UpTo && l.id == show.light) past = true;
    if (!wanted || !unit || at == layers.lights.end() || !at->second) continue;
    const bool hidden = show.curtains && syncOf(*unit, cam) == Sync::Band;
    out.push_back({at->second.get(), lampLight(l, cam) * gain, hidden});
  }
  if (layers.ambient && show.what != Show::What::Solo)
    out.push_back({layers.ambient.get(), lightColour(plan.ambient.kelvin, cam.whiteBalance) *
                                             (float(plan.ambient.lux * cam.shutter) * gain)});
  return out;
}

// Where the shutter's second curtain has been faster than the flash.
Curtain curtainOf(const Layers& layers, const Plan& plan) {
  Curtain c;
  const View& v = layers.view;
  const bool part = v.wholeWidth > 0;
  const int wide = part ? v.wholeWidth : layers.width, high = part ? v.wholeHeight : layers.height;
  c.across = curtainsCross(plan.camera);
  const int n = c.across ? layers.width : layers.height, first = part ? (c.across ? v.left : v.top) : 0;
  for (int i = 0; i < n; ++i)
    c.open.push_back(
        float(openAt(plan.camera, double(wide) / high, (double(first + i) + 0.5) / double(c.across ? wide : high))));
  return c;
}

// The 8-bit code of a linear value, within 0.2 of a code.
std::uint8_t codeOf(float linear) {
  static const auto codes = [] {
    std::array<std::uint8_t, 16385> t{};
    for (size_t i = 0; i < t.size(); ++i)
      t[i] = std::uint8_t(std::lround(255 * srgbEncode(double(i) / double(t.size() - 1))));
    return t;
  }();
  return codes[size_t(std::lround(linear * float(codes.size() - 1)))];
}

}  // namespace

Picture developPicture(const Layers& layers, const Plan& plan, const Show& show, int reduce) {
  Picture p;
  develop(weigh(layers, plan, show), layers.width, layers.height, p.rgba, curtainOf(layers, plan));
  p.width = layers.width;
  p.height = layers.height;
  if (reduce <= 1) return p;
  // A mean of codes would be darker than what the eye sees from further away.
  const std::array<float, 256>& linear = linearOfCodes();
  Picture small;
  small.width = p.width / reduce;
  small.height = p.height / reduce;
  small.rgba.resize(size_t(small.width) * size_t(small.height) * 4);
  for (int y = 0; y < small.height; ++y)
    for (int x = 0; x < small.width; ++x)
      for (int c = 0; c < 4; ++c) {
        float sum = 0;
        for (int dy = 0; dy < reduce; ++dy)
          for (int dx = 0; dx < reduce; ++dx)
            sum +=
                linear[p.rgba[(size_t(y * reduce + dy) * size_t(p.width) + size_t(x * reduce + dx)) * 4 + size_t(c)]];
        small.rgba[(size_t(y) * size_t(small.width) + size_t(x)) * 4 + size_t(c)] =
            codeOf(sum / float(reduce * reduce));
      }
  return small;
}

void linearPicture(const Layers& layers, const Plan& plan, const Show& show, std::vector<float> planes[3]) {
  combineLinear(weigh(layers, plan, show), layers.width, layers.height, planes, curtainOf(layers, plan));
}

std::optional<SurfacePoint> surfaceAt(const Layers& layers, double px, double py) {
  if (!layers.scene) return {};
  return layers.scene->meet(layers.view.camera.eye, layers.view.direction(float(px), float(py)), 1);
}

std::optional<SurfacePoint> bareAt(const Scene& scene, const View& view, double px, double py) {
  return scene.meet(view.camera.eye, view.direction(float(px), float(py)), 1, -1, Colours::None);
}

std::optional<Vec2> pixelOf(const View& view, Vec3 point) {
  if (view.height <= 0) return {};
  const auto p = view.place(point);
  if (!p || p->x < 0 || p->y < 0 || p->x >= float(view.width) || p->y >= float(view.height)) return {};
  return p;
}

SpotReading readPixel(const Layers& layers, const Plan& plan, double px, double py) {
  const auto hit = surfaceAt(layers, px, py);
  if (!hit) return {};
  return readSpot(*layers.scene, plan, hit->position + hit->facet * 5e-4f, hit->normal, hit->surface);
}

void Studio::setSize(int width, int height) {
  if (width == width_ && height == height_) return;
  width_ = width;
  height_ = height;
  sets_.reset();
  before_.reset();
}

void Studio::setPart(int left, int top, int wholeWidth, int wholeHeight) {
  part_ = {left, top, wholeWidth, wholeHeight};
  sets_.reset();
  before_.reset();
}

void Studio::setPlan(const Plan& plan) {
  if (!havePlan_ || plan.sitter.id != plan_.sitter.id) sitter_.reset();
  if (!havePlan_ || !sameScene(plan, plan_, sitter_.get()) || (scene_ && cutOutsNow(plan) != cutOuts_)) scene_.reset();
  if (sets_ && (!scene_ || !sameView(plan, plan_))) before_ = std::move(sets_);
  for (auto at = kept_.begin(); at != kept_.end();) {
    const Light* now = plan.light(at->first);
    const Kept& kept = at->second;
    if (!now || !samePlaced(*now, kept.light) || !(frontNow(*now) == kept.front) || goboNow(*now) != kept.pattern) {
      layers_.passes = 0;
      layers_.current = false;
      // The old picture of a light that moved stays on show until its preview is there.
      if (!now) layers_.lights.erase(at->first);
      at = kept_.erase(at);
    } else {
      ++at;
    }
  }
  for (const Light& l : plan.lights) layers_.current &= kept_.count(l.id) > 0;
  if (!sets_) layers_.current = false;
  plan_ = plan;
  havePlan_ = true;
  layers_.plan = plan;
}

void Studio::refuseImpossible() const {
  for (const Finding& f : checkPlan(plan_))
    if (f.severity == Severity::Error) throw std::runtime_error(f.sentence);
}

std::shared_ptr<const Scene> Studio::scene() {
  if (!sitter_) sitter_ = loadSitter(plan_.sitter.id);
  if (!scene_) {
    cutOuts_ = cutOutsNow(plan_);
    scene_ = sharedScene(plan_, sitter_, cutOuts_);
    if (sets_) before_ = std::move(sets_);
  }
  return scene_;
}

View Studio::view() const {
  const double aspect = part_.wholeHeight > 0 ? double(part_.wholeWidth) / part_.wholeHeight : double(width_) / height_;
  return {cameraPose(plan_, aspect), width_, height_, part_.left, part_.top, part_.wholeWidth, part_.wholeHeight};
}

void Studio::publish(Kept& kept, const std::string& id) {
  auto picture = kept.layer->picture(*sets_, smooth_);
  kept.published = kept.layer->passes();
  (id.empty() ? layers_.ambient : layers_.lights[id]) = std::move(picture);
}

Studio::Progress Studio::step(const Interrupt& interrupt, int enough) {
  if (!havePlan_) return Progress::Nothing;
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
    layers_.plan = plan_;
    layers_.width = width_;
    layers_.height = height_;
    layers_.view = view;
    layers_.scene = scene_;
  }
  // The first look always runs to its end (a third of a second at the most): a hand that drags faster than that would
  // otherwise never see anything.
  sets_->build(0, Interrupt());

  if (!ambient_.layer) ambient_.layer = std::make_unique<Layer>();
  for (const Light& l : plan_.lights) {
    Kept& k = kept_[l.id];
    if (k.layer) continue;
    k.light = l;
    k.front = frontNow(l);
    k.pattern = goboNow(l);
    k.layer =
        std::make_unique<Layer>(sourceOf(*scene_, plan_, l), hash32(std::uint32_t(l.id[0]) + seed_ * 0x9e3779b9u));
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
  for (const Light& l : plan_.lights) {
    Kept& k = kept_[l.id];
    if (k.published >= 0 || onlyLast_) continue;
    layers_.lights[l.id] = k.layer->preview(*sets_);
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
  for (const Light& l : plan_.lights) {
    Kept& k = kept_[l.id];
    const int n = k.layer->passes();
    if (n < enough && n < fewest) {
      fewest = n;
      next = &k;
      id = l.id;
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

bool Studio::finish(int passes, const std::function<bool()>& wanted) {
  const Interrupt never;
  do {
    if (wanted && !wanted()) return false;
  } while (step(never, passes) != Progress::Done);
  return true;
}

Picture renderPicture(const Plan& plan, int width, int height, int passes, const std::function<bool()>& wanted) {
  Studio studio(width, height);
  studio.setOnlyLast(true);
  studio.setPlan(plan);
  return studio.finish(passes, wanted) ? developPicture(studio.layers(), plan) : Picture{};
}

}  // namespace easel
