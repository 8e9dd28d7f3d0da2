#include "controllers/plan_actions.h"

#include <algorithm>
#include <stdexcept>

#include "balance/balance.h"
#include "balance/camera_setting.h"
#include "plan/panels.h"
#include "plan/placement.h"
#include "plan/roles.h"
#include "widgets/attempt.h"
#include "widgets/wording.h"

namespace easel::app {

PlanActions::PlanActions(ViewedPlan* viewed, Readings readings, SceneNow sceneNow, QObject* parent)
    : QObject(parent), viewed_(viewed), readings_(std::move(readings)), sceneNow_(std::move(sceneNow)) {}

bool PlanActions::attempt(const std::function<void()>& work) {
  return app::attempt(work, [this](const QString& why) { emit said(why, true); });
}

void PlanActions::mirror() {
  viewed_->endMerge();
  viewed_->perform(SetPlan{mirrored(viewed_->plan())}, tr("Mirror"));
}

void PlanActions::swapKeySide() {
  viewed_->endMerge();
  viewed_->perform(SetLights{keySideSwapped(viewed_->plan()).lights}, tr("Swap the key's side"));
}

void PlanActions::toggleLock() {
  changeLight(tr("Lock %1").arg(selected_), [](Light& l) { l.locked = !l.locked; });
}

void PlanActions::rename(const QString& name) {
  changeLight(tr("Rename %1").arg(selected_), [&](Light& l) { l.name = name.trimmed().left(80).toStdString(); });
}

void PlanActions::togglePanel(const QString& number) {
  const Panel* p = viewed_->plan().panel(number.toStdString());
  if (!p) return;
  Panel changed = *p;
  changed.on = !changed.on;
  viewed_->endMerge();
  viewed_->perform(SetPanel{changed}, tr("%1 in or out").arg(panelText(*p)));
}

void PlanActions::putUpPanel(const std::string& kind) {
  attempt([&] {
    const PanelProposal made = proposePanel(viewed_->plan(), kind);
    viewed_->endMerge();
    viewed_->perform(AddPanel{made.panel, viewed_->plan().panels.size()},
                     tr("Add %1").arg(QString::fromStdString(made.panel.name)));
    emit panelChosen(QString::fromStdString(made.panel.id));
    emit said(QString::fromStdString(made.panel.name + " " + made.panel.id + ": " + made.reason), false);
  });
}

void PlanActions::featherToEdge() {
  changeLight(tr("Feather %1 to its edge").arg(selected_), [this](Light& l) {
    const double edge = edgeFeather(viewed_->plan(), l);
    l.pan = l.pan == edge ? 0 : edge;
  });
}

void PlanActions::setCamera(int school) {
  readings_([this, school](const std::shared_ptr<const Answers>& answers) {
    viewed_->endMerge();
    viewed_->perform(SetPlan{withCameraSetting(viewed_->plan(), *answers, CameraSchool(school))}, tr("Set the camera"));
  });
}

void PlanActions::pin(const PinnedSpot& spot) {
  auto spots = viewed_->plan().spots;
  if (spots.size() >= 64) {
    emit said(tr("A plan holds at most 64 pins. Remove one first."), true);
    return;
  }
  spots.push_back(spot);
  viewed_->endMerge();
  viewed_->perform(SetSpots{spots}, tr("Pin the meter"));
  emit said(tr("%1 is pinned: its readings stand on the Meter page, under Every spot.")
                .arg(QString::fromStdString(spot.name)),
            false);
}

void PlanActions::changeLight(const QString& label, const std::function<void(Light&)>& change) {
  const Light* l = viewed_->plan().light(selected_.toStdString());
  if (!l) return;
  Light changed = *l;
  change(changed);
  viewed_->endMerge();
  viewed_->perform(SetLight{changed}, label);
}

int PlanActions::place() const {
  const auto& lights = viewed_->plan().lights;
  const auto at = std::find_if(lights.begin(), lights.end(),
                               [&](const Light& l) { return QString::fromStdString(l.id) == selected_; });
  return int(at - lights.begin());
}

void PlanActions::putLettersInOrder() {
  const size_t at = size_t(place());
  viewed_->endMerge();
  viewed_->perform(SetLights{withLettersInOrder(viewed_->plan())}, tr("Letter again"));
  if (at < viewed_->plan().lights.size()) emit chosen(QString::fromStdString(viewed_->plan().lights[at].id));
}

void PlanActions::reorder(const QString& id, int place) {
  viewed_->endMerge();
  viewed_->perform(SetLights{movedTo(viewed_->plan(), id.toStdString(), size_t(std::max(0, place)))},
                   tr("Building order"));
}

void PlanActions::addLight() { addBySchool(nextInUsualOrder(viewed_->plan())); }

void PlanActions::putUp(const Light& light, const QString& label) {
  viewed_->endMerge();
  const auto scene = sceneNow_();
  viewed_->perform(AddLight{scene ? onItsTarget(*scene, viewed_->plan(), light) : light, 99}, label);
  emit chosen(QString::fromStdString(light.id));
}

void PlanActions::addBySchool(const std::string& school) {
  attempt([&] {
    const Proposal p = proposeLight(viewed_->plan(), school);
    putUp(p.light, tr("Add %1").arg(QString::fromStdString(p.light.id)));
    emit said(QString::fromStdString(p.light.id + ": " + p.why), false);
  });
}

void PlanActions::otherSchool() {
  const Light* l = viewed_->plan().light(selected_.toStdString());
  if (!l) return;
  attempt([&] {
    const Proposal p = byOtherSchool(viewed_->plan(), *l);
    viewed_->endMerge();
    emit said(QString::fromStdString(p.light.id + ": " + p.why), false);
    const auto scene = sceneNow_();
    viewed_->perform(SetLight{scene ? onItsTarget(*scene, viewed_->plan(), p.light) : p.light},
                     tr("Other placement for %1").arg(selected_));
  });
}

void PlanActions::copyLight() {
  const Light* l = viewed_->plan().light(selected_.toStdString());
  if (l) attempt([&] { putUp(copyOf(viewed_->plan(), *l), tr("Copy %1").arg(selected_)); });
}

void PlanActions::balanceAll(bool sum) {
  readings_([this, sum](const std::shared_ptr<const Answers>& answers) { balanceBy(*answers, sum); });
}

void PlanActions::balanceBy(const Answers& answers, bool sum) {
  const Balanced b = balance(viewed_->plan(), answers, sum ? BalanceBy::Sum : BalanceBy::EachAlone);
  viewed_->endMerge();
  viewed_->perform(SetLights{b.lights}, tr("Balance"));
  const auto& all = viewed_->plan().lights;
  const int missed = int(b.outOfReach.size()),
            set = int(std::count_if(all.begin(), all.end(), [](const Light&l) { return burns(l) && !l.locked; }));
  QString words = sum ? tr("All lights together are on target: each is %1 stops lower.").arg(b.loweredBy, 0, 'f', 1)
                  : missed == 0 ? tr("Each light alone is on target.")
                                : tr("%1 of %2 lights are on target.").arg(set - missed).arg(set);
  for (const std::string& s : b.outOfReach) words += " " + QString::fromStdString(s);
  emit said(words, missed > 0);
}

void PlanActions::removeLight() {
  if (selected_.isEmpty()) return;
  viewed_->perform(RemoveLight{selected_.toStdString()}, tr("Remove %1").arg(selected_));
}

void PlanActions::toggleLight(int index) {
  const auto& lights = viewed_->plan().lights;
  if (index >= int(lights.size())) return;
  Light l = lights[size_t(index)];
  l.on = !l.on;
  viewed_->endMerge();
  viewed_->perform(SetLight{l}, tr("Switch %1").arg(QString::fromStdString(l.id)));
}

}  // namespace easel::app
