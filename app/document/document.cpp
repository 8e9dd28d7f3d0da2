#include "document/document.h"

#include "formats/plan_json.h"
#include "sheet/sheet_file.h"
#include "widgets/wording.h"

namespace easel::app {

ReadPlan readPlanFile(const std::filesystem::path& file) {
  // Looked at first: what is written between the two is then found to have changed, never taken for what was read.
  const FileSeen seen = lookAt(file);
  if (file.extension() == ".pdf") return {openPlan(file), {}};
  return {loadPlan(file), seen};
}

const FileKind& Document::kind() {
  static const FileKind plans{QStringLiteral("autosave"), QStringLiteral(".easel.json"),
                              [](const std::string& text) { return readPlanText(text).title; }};
  return plans;
}

Document::Document(QObject* parent)
    : ViewedPlan(freshPlan(), parent),
      session_(
          kind(),
          [this]() -> SessionFile::Text {
            if (!modified()) return {};
            return [plan = plan()] { return writePlanText(plan); };
          },
          this) {
  connect(&session_, &SessionFile::autosaveFailed, this, &Document::refused);
  connect(&session_, &SessionFile::stateChanged, this, &Document::stateChanged);
}

Plan Document::freshPlan() {
  Plan p;
  p.title = tr("Untitled").toStdString();
  p.camera.focalLength = 120;
  p.camera.aimBelowEyes = 0.055;
  Light key;
  key.id = "A";
  key.name = tr("Key").toStdString();
  p.lights.push_back(key);
  return p;
}

QString Document::displayName() const {
  return path().empty() ? ViewedPlan::displayName()
                        : shownName(path().filename()).remove(QStringLiteral(".easel.json"));
}

void Document::touched() {
  session_.touched();
  emit changed();
  emit stateChanged();
}

void Document::startNew() {
  history_.reset(freshPlan());
  session_.belongsToNone();
  emit replaced();
  emit changed();
}

void Document::startFrom(const Plan& plan) {
  history_.reset(plan);
  history_.markUnsaved();
  session_.belongsToNone();
  emit replaced();
  emit changed();
}

void Document::take(const ReadPlan& read) {
  if (read.file.path.empty()) return startFrom(read.plan);
  history_.reset(read.plan);
  session_.belongsTo(read.file);
  emit replaced();
  emit changed();
}

void Document::saveTo(const std::filesystem::path& file, SessionFile::Over over) {
  history_.endMerge();
  session_.save(
      file, [plan = plan()] { return writePlanText(plan); }, over, [this, plan = plan()] { history_.markSaved(plan); });
}

void Document::takeOver(const SessionFile::Recovered& recovered) {
  history_.reset(readPlanText(recovered.text));
  history_.markUnsaved();
  session_.takeOver(recovered);
  emit replaced();
  emit changed();
}

}  // namespace easel::app
