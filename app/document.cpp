#include "document.h"

#include <QCoreApplication>
#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QSettings>
#include <QStandardPaths>
#include <QThreadPool>
#include <QUuid>

#include "formats/atomic_file.h"
#include "formats/plan_json.h"

namespace easel::app {

QString Document::autosaveFolder() {
  QString base = qEnvironmentVariable("XDG_STATE_HOME");
  if (base.isEmpty()) base = QDir::homePath() + "/.local/state";
  return base + "/jolly-easel/autosave";
}

Document::Document(QObject* parent) : QObject(parent), history_(freshPlan()) {
  QDir().mkpath(autosaveFolder());
  session_ = autosaveFolder() + "/" + QUuid::createUuid().toString(QUuid::WithoutBraces);
  lock_ = std::make_unique<QLockFile>(session_ + ".lock");
  lock_->setStaleLockTime(0);
  lock_->tryLock(0);
  autosave_.setSingleShot(true);
  autosave_.setInterval(250);
  connect(&autosave_, &QTimer::timeout, this, &Document::writeAutosave);
}

// Closing in order means that the user was asked: nothing is left to recover.
Document::~Document() {
  QThreadPool::globalInstance()->waitForDone();
  dropAutosave();
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
  return file_.isEmpty() ? QString::fromStdString(plan().title) : QFileInfo(file_).fileName().remove(".easel.json");
}

void Document::perform(const Edit& edit, const QString& label, const QString& mergeKey) {
  try {
    history_.perform(edit, label.toStdString(), mergeKey.toStdString());
  } catch (const std::invalid_argument& e) {
    emit changed();  // whatever shows the refused value goes back
    emit refused(QString::fromUtf8(e.what()));
    return;
  }
  touched();
}
void Document::undo() {
  history_.undo();
  touched();
}
void Document::redo() {
  history_.redo();
  touched();
}

void Document::touched() {
  autosave_.start();
  emit changed();
  emit stateChanged();
}

void Document::startNew() {
  history_.reset(freshPlan());
  file_.clear();
  dropAutosave();
  emit changed();
  emit stateChanged();
}

void Document::open(const QString& file) {
  Plan plan = loadPlan(file.toStdString());
  history_.reset(std::move(plan));
  file_ = QFileInfo(file).absoluteFilePath();
  dropAutosave();
  emit changed();
  emit stateChanged();
}

void Document::saveTo(const QString& file) {
  savePlan(file.toStdString(), plan());
  file_ = QFileInfo(file).absoluteFilePath();
  history_.markSaved();
  history_.endMerge();
  dropAutosave();
  emit stateChanged();
}

void Document::writeAutosave() {
  if (!modified()) {
    dropAutosave();
    return;
  }
  // On another thread: syncing a file to a slow disk must not hold up a drag.
  const std::string text = writePlanText(plan()), origin = file_.toStdString(), session = session_.toStdString();
  QThreadPool::globalInstance()->start([text, origin, session] {
    try {
      writeFileAtomically(session + ".origin", origin);
      writeFileAtomically(session + ".easel.json", text);
    } catch (const std::exception& e) {
      qWarning("Autosave failed: %s", e.what());
    }
  });
}

void Document::dropAutosave() {
  autosave_.stop();
  QThreadPool::globalInstance()->waitForDone();
  QFile::remove(session_ + ".easel.json");
  QFile::remove(session_ + ".origin");
}

bool Document::recover() {
  const QDir folder(autosaveFolder());
  for (const QFileInfo& found : folder.entryInfoList({"*.easel.json"}, QDir::Files, QDir::Time)) {
    const QString base = found.absoluteFilePath().chopped(int(strlen(".easel.json")));
    if (base == session_) continue;
    QLockFile other(base + ".lock");
    other.setStaleLockTime(0);
    if (!other.tryLock(0)) continue;  // its session is alive
    try {
      Plan plan = loadPlan(found.absoluteFilePath().toStdString());
      QFile origin(base + ".origin");
      history_.reset(std::move(plan));
      history_.markUnsaved();
      file_ = origin.open(QIODevice::ReadOnly) ? QString::fromUtf8(origin.readAll()) : QString();
      origin.close();
      // Ours first, then theirs goes: a crash in between finds one of the two.
      writeAutosave();
      QThreadPool::globalInstance()->waitForDone();
      QFile::remove(base + ".easel.json");
      QFile::remove(base + ".origin");
      emit changed();
      emit stateChanged();
      return true;
    } catch (const std::exception&) {
      QFile::rename(found.absoluteFilePath(), base + ".broken");
    }
  }
  return false;
}

}  // namespace easel::app
