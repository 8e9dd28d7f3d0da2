#include "controllers/on_easel.h"

#include <utility>

#include "plan/framing.h"

namespace easel::app {

OnEasel::OnEasel(ViewedPlan* viewed, RenderLink* link, QObject* parent)
    : QObject(parent), viewed_(viewed), link_(link) {
  connect(viewed_, &ViewedPlan::replaced, this, [this] {
    show_ = {};
    waiting_ = {};
  });
  connect(link_, &RenderLink::arrived, this, &OnEasel::goOn);
}

QString OnEasel::name() const {
  const QString light = QString::fromStdString(show_.light);
  return tried_                              ? label_
         : show_.what == Show::What::Solo    ? tr("%1 alone").arg(light)
         : show_.what == Show::What::UpTo    ? tr("up to %1").arg(light)
         : show_.what == Show::What::Ambient ? tr("all off")
                                             : tr("as it was");
}

std::shared_ptr<const Answers> OnEasel::answersNow() const {
  const auto& r = link_->latest();
  return r && r->answers && r->answersCurrent && link_->upToDate() && !tried_ ? r->answers : nullptr;
}

std::shared_ptr<const Scene> OnEasel::sceneNow() const {
  const auto& r = link_->latest();
  return r && r->layers && link_->upToDate() && !tried_ && r->problem.empty() ? r->layers->scene : nullptr;
}

void OnEasel::whenAnswered(const std::function<void(const std::shared_ptr<const Answers>&)>& act) {
  wait(
      [this, act] {
        const auto answers = answersNow();
        if (answers) act(answers);
        return answers != nullptr;
      },
      tr("Waiting for the readings..."));
}

void OnEasel::whenBuilt(const std::function<void(const std::shared_ptr<const Scene>&)>& act) {
  wait(
      [this, act] {
        const auto scene = sceneNow();
        if (scene) act(scene);
        return scene != nullptr;
      },
      tr("Waiting until the set is built..."));
}

void OnEasel::wait(const std::function<bool()>& act, const QString& sentence) {
  waiting_ = {};
  if (tried_) {
    setTried({}, {});
    request();
  }
  if (act()) return;
  waiting_ = act;
  emit said(sentence, false);
  goOn();
}

void OnEasel::goOn() {
  if (!waiting_ || !link_->upToDate()) return;
  if (const std::string& problem = link_->latest()->problem; !problem.empty()) {
    waiting_ = {};
    emit said(QString::fromStdString(problem), true);
    return;
  }
  // What it does may have another action wait.
  const auto act = std::exchange(waiting_, {});
  if (!act() && !waiting_) waiting_ = act;
}

void OnEasel::setTried(const std::optional<Plan>& plan, const QString& label) {
  tried_ = plan;
  label_ = label;
  emit changed();
}

void OnEasel::showOnly(const Show& show) {
  show_ = show;
  if (tried_) emit said({}, false);
  setTried({}, {});
  request();
}

void OnEasel::tryOut(const Plan& plan, const QString& label) {
  setTried(label.isEmpty() ? std::nullopt : std::optional(plan), label);
  emit said(label.isEmpty()
                ? QString()
                : tr("Trying %1. Enter on the ledge or a double click applies it; Escape goes back.").arg(label),
            false);
  request();
}

void OnEasel::takeOver(const Plan& plan, const QString& label) {
  const Plan taken = plan;  // the argument of a signal lives in the ledge, which is about to be rebuilt
  viewed_->endMerge();
  viewed_->perform(SetPlan{taken}, tr("Apply %1").arg(label));
  emit said(tr("Applied: %1.").arg(label), false);
}

void OnEasel::planChanged() {
  if (!show_.light.empty() && !viewed_->plan().light(show_.light)) show_ = {};
  setTried({}, {});
  request();
}

void OnEasel::setPictureSize(QSize size) {
  pictureSize_ = size;
  request();
}
void OnEasel::request() {
  const Plan& plan = tried_ ? *tried_ : viewed_->plan();
  // As many pixels in every frame.
  const auto [width, height] = sizeInFrame(plan.camera.frame, double(pictureSize_.width()) * pictureSize_.height());
  link_->request(plan, tried_ ? Show{} : show_, width, height, extras_);
}

}  // namespace easel::app
