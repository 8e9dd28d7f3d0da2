#include "controllers/device_run.h"

namespace easel::app {

DeviceRun::DeviceRun(MeteringRun* run, DeviceHub* hub, QObject* parent) : QObject(parent), run_(run), hub_(hub) {
  connect(hub_, &DeviceHub::changed, this, &DeviceRun::changed);
  connect(hub_, &DeviceHub::noted, this, &DeviceRun::said);
  connect(hub_, &DeviceHub::told, this, [this](DeviceKind kind, const WireMessage& m) {
    if (kind == DeviceKind::Remote && m.name == "key") emit keyPressed();
    if (const std::string* words = m.text("words"); kind == DeviceKind::Remote && m.name == "said" && words)
      emit called(QString::fromStdString(*words).left(60));
    const double* f = m.number("fNumber");
    if (kind != DeviceKind::Meter || m.name != "reading" || !f || !(*f > 0) || !run_->on()) return;
    run_->read(*f);
  });
  // Whoever walks to the sitter sees by the modelling lamps which light is on.
  connect(run_, &MeteringRun::changed, this, [this] {
    const RunCourse* c = run_->course();
    const int step = c && !c->over() ? int(c->at()) : -1;
    if (step == step_ || !triggerThere()) return;
    step_ = step;
    if (step >= 0) setLights({});
  });
}

bool DeviceRun::meterThere() const { return hub_->can(DeviceKind::Meter, "read"); }
bool DeviceRun::triggerThere() const { return hub_->can(DeviceKind::Trigger, "set"); }

void DeviceRun::setLights(std::function<void()> then) {
  const RunCourse* c = run_->course();
  hub_->putPlan(c->plan());
  const RunStep& s = c->step();
  const auto left = std::make_shared<size_t>(c->plan().lights.size());
  for (const Light& l : c->plan().lights) {
    const bool on = l.on && (s.kind == RunStep::Kind::Together || l.id == s.light);
    hub_->ask(
        DeviceKind::Trigger, "set", {{"group", l.id}, {"on", on}, {"power", l.power}, {"modelling", on && l.modelling}},
        this, [this, left, then](const WireMessage* answer, const QString& why) {
          if (!answer) return failed(why);
          if (--*left == 0 && then) then();
          if (const double* battery = answer->number("battery"); battery && *battery < 0.15)
            emit said(tr("A head's battery is at %1 %.").arg(std::lround(100 * std::clamp(*battery, 0.0, 1.0))), true);
        });
  }
}

void DeviceRun::read() {
  const RunCourse* c = run_->course();
  if (!c || c->over() || waiting_ || run_->working() || c->step().kind == RunStep::Kind::Picture) return;
  waiting_ = true;
  emit changed();
  const int step = int(c->at());
  const bool flash = c->step().kind != RunStep::Kind::AllOff;
  if (!triggerThere() || !hub_->can(DeviceKind::Trigger, "fire")) return ask(step);
  setLights([this, step, flash] {
    if (!flash) return ask(step);
    hub_->ask(DeviceKind::Trigger, "fire", {}, this, [this, step](const WireMessage* answer, const QString& why) {
      if (!answer) return failed(why);
      ask(step);
    });
  });
}

bool DeviceRun::cameraThere() const { return hub_->can(DeviceKind::Camera, "take"); }

void DeviceRun::take() {
  const RunCourse* c = run_->course();
  if (!c || c->over() || waiting_ || run_->working()) return;
  waiting_ = true;
  emit changed();
  hub_->putPlan(c->plan());
  const auto ask = [this] {
    const RunCourse* now = run_->course();
    if (!now || now->over()) return failed({});
    const Camera& cam = now->plan().camera;
    hub_->ask(DeviceKind::Camera, "take",
              {{"iso", cam.iso}, {"shutter", cam.shutter}, {"aperture", cam.shootingAperture()}}, this,
              [this](const WireMessage* answer, const QString& why) {
                if (!answer) return failed(why);
                const std::string* file = answer->text("picture");
                if (!file) return failed(tr("The camera answered without a picture."));
                waiting_ = false;
                emit pictured(QString::fromStdString(*file));
                emit changed();
              });
  };
  if (triggerThere())
    setLights(ask);
  else
    ask();
}

void DeviceRun::ask(int step) {
  const RunCourse* c = run_->course();
  if (!c || int(c->at()) != step || c->over()) return failed({});  // the run has gone on meanwhile
  hub_->putPlan(c->plan());
  const RunStep& s = c->step();
  const Camera& cam = c->plan().camera;
  hub_->ask(DeviceKind::Meter, "read",
            {{"iso", cam.iso},
             {"shutter", cam.shutter},
             {"flash", s.kind != RunStep::Kind::AllOff},
             {"light", s.light},
             {"spot", idOf(s.meter)},
             {"receptor", std::string(s.meter.hold.receptor == Receptor::Dome ? "dome" : "flat")},
             {"towards", s.meter.hold.towards.empty() ? std::string("camera") : s.meter.hold.towards}},
            this, [this, step](const WireMessage* answer, const QString& why) {
              if (!answer) return failed(why);
              const double* f = answer->number("fNumber");
              if (!f || !(*f > 0 && *f < 1000)) return failed(tr("The meter answered without an f-number."));
              waiting_ = false;
              // A reading that comes when the run stands elsewhere belongs to nothing.
              if (run_->course() && int(run_->course()->at()) == step) run_->read(*f);
              emit changed();
            });
}

void DeviceRun::failed(const QString& why) {
  waiting_ = false;
  if (!why.isEmpty()) emit said(why, true);
  emit changed();
}

}  // namespace easel::app
