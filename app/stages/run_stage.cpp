#include "stages/run_stage.h"

#include <utility>

namespace easel::app {

RunStage::RunStage(const Bench& bench, QObject* parent)
    : Stage(bench, parent),
      run_(new MeteringRun(bench.viewed, bench.onEasel, this)),
      devices_(new DeviceRun(run_, &DeviceHub::current(), this)),
      card_(new RunCard(bench.viewed, run_)) {
  connect(devices_, &DeviceRun::said, this, &Stage::said);
  // Only where the run is looked at: a key must not do what nobody sees.
  connect(devices_, &DeviceRun::keyPressed, this, [this] {
    if (here_) card_->pressKey();
  });
  connect(devices_, &DeviceRun::called, this, [this](const QString& words) {
    if (here_) card_->say(words);
  });
  connect(devices_, &DeviceRun::pictured, this, [this](const QString& file) {
    bench_.showBeside(file);
    beside_ = true;
    run_->happened("picture", file);
    card_->pictureTaken();
  });
  connect(devices_, &DeviceRun::changed, this, [this] {
    const bool meter = devices_->meterThere(), camera = devices_->cameraThere();
    if (meter != std::exchange(metered_, meter))
      card_->setTrigger(meter ? [this] { devices_->read(); } : std::function<void()>());
    if (camera != std::exchange(pictures_, camera))
      card_->setCamera(camera ? [this] { devices_->take(); } : std::function<void()>());
  });
  connect(run_, &MeteringRun::said, this, &Stage::said);
  connect(run_, &MeteringRun::changed, this, [this] {
    follow();
    emit marked();
    emit evidenceChanged();
  });
  connect(card_, &RunCard::devicesWanted, this, [this] { bench_.openDevices(); });
  connect(card_, &RunCard::byEyeChanged, this, [this](bool on) {
    if (on) bench_.easel->setTools(bench_.easel->tools().with(&EaselTools::histogram, true));
  });
}

QString RunStage::help() const {
  return tr(
      "The set is metered for real. One step fills the page: which light is on, what to set it to, where the meter "
      "goes and what it should read. Type or say the reading; Enter or Space on the empty line does what the large "
      "key says. A reading that cannot be the light alone is told with its likely causes. Any change of the plan marks "
      "the "
      "readings that it unsettles.");
}

Arrangement RunStage::arrangement(bool wide) const {
  if (wide)
    return inRow({inColumn({shown(views::kEasel, 3), glance(views::kDial, 2)}, 40),
                  inColumn({exactly(views::kAnswer), shown(id())}, 60)});
  return inRow({shown(views::kEasel, 40), inColumn({exactly(views::kAnswer), shown(id())}, 60)});
}

QString RunStage::answer() const {
  const RunCourse* c = run_->course();
  if (!c) return {};
  if (c->over()) return c->open().empty() ? tr("All set") : tr("The run is through");
  const RunStep& s = c->step();
  const QString what = s.kind == RunStep::Kind::AllOff     ? tr("everything off")
                       : s.kind == RunStep::Kind::Together ? tr("everything on")
                       : s.kind == RunStep::Kind::Picture  ? tr("a picture of %1").arg(QString::fromStdString(s.light))
                                                           : tr("%1 alone").arg(QString::fromStdString(s.light));
  return tr("%1 of %2: %3").arg(c->at() + 1).arg(c->steps().size()).arg(what);
}

QString RunStage::mark() const {
  const RunCourse* c = run_->course();
  if (!c) return {};
  const size_t open = c->open().size();
  return open ? QStringLiteral("(%1)").arg(open) : QString();
}

void RunStage::enter() {
  DeviceHub::current().listen();  // what is in the way is said in Devices, and where it is wanted
  here_ = true;
  follow();
  showReflected();
}
void RunStage::leave() {
  here_ = false;
  if (std::exchange(shown_, false)) bench_.onEasel->showOnly({});
  bench_.easel->evidence()->setMeter({});
}

void RunStage::readingsArrived(const std::shared_ptr<const Result>& result) {
  if (!result->layers || !result->layers->scene) return;
  run_->planStands(result->plan, result->layers->scene);
  if (result->table) latest_ = result;
  showReflected();
}

void RunStage::showReflected() {
  if (!here_ || !latest_ || latest_->table == shownTable_) return;
  shownTable_ = latest_->table;
  card_->setReflected(reflectedReadings(*latest_->layers->scene, *latest_->set, *shownTable_));
}

// What a test picture of this step would show stands on the easel.
void RunStage::follow() {
  const RunCourse* c = run_->course();
  if (!here_ || bench_.onEasel->tryingOut()) return;
  Show show;
  if (c && !c->over()) {
    const RunStep& s = c->step();
    if (s.kind == RunStep::Kind::AllOff) show.what = Show::What::Ambient;
    if (s.kind == RunStep::Kind::Alone || s.kind == RunStep::Kind::Picture) {
      show.what = Show::What::Solo;
      show.light = s.light;
    }
  }
  const Show& now = bench_.onEasel->show();
  // The test picture stands beside the prediction of its own step.
  if (beside_ && (!c || c->over() || c->step().kind != RunStep::Kind::Picture)) {
    beside_ = false;
    bench_.easel->setBeside({}, {});
  }
  if (show.what == now.what && show.light == now.light) return;
  shown_ = show.what != Show::What::All;
  bench_.onEasel->showOnly(show);
}

void RunStage::showEvidence() {
  Stage::showEvidence();
  const RunCourse* c = run_->course();
  if (!c || c->over() || c->step().kind == RunStep::Kind::Picture) return bench_.easel->evidence()->setMeter({});
  const HeldMeter& m = c->step().meter;
  bench_.easel->evidence()->setMeter(EaselEvidence::Meter{
      m.at, m.looks, m.hold.receptor == Receptor::Dome,
      m.where == MeteredAt::Backdrop ? tr("behind the head, at the backdrop") : QString::fromStdString(m.hold.on)});
}

}  // namespace easel::app
