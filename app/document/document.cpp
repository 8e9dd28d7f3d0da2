#include "document/document.h"

#include <QCoreApplication>
#include <QCryptographicHash>
#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QStandardPaths>
#include <QUuid>

#include "document/state_folder.h"
#include "formats/plan_json.h"
#include "plan/ranges.h"
#include "widgets/wording.h"

namespace easel::app {
namespace {

const QString kEnding = QStringLiteral(".easel.json");

// Sessions that ended without a word leave their lock and the name of their file behind.
void clearAfter(const QString& base) {
  for (const char* ending : {".easel.json", ".origin"}) QFile::remove(base + ending);
}

}  // namespace

std::filesystem::path pathOf(const QString& file) {
  const QByteArray bytes = QFile::encodeName(file);
  return std::filesystem::path(std::string(bytes.constData(), size_t(bytes.size())));
}
QString shownName(const std::filesystem::path& path) { return QString::fromStdString(path.string()); }

QString Document::autosaveFolder() { return stateFolder() + "/autosave"; }

Document::Document(QObject* parent) : QObject(parent), history_(freshPlan()) {
  makePrivate(autosaveFolder());
  session_ = autosaveFolder() + "/" + QUuid::createUuid().toString(QUuid::WithoutBraces);
  lock_ = lockAt(session_ + ".lock");
  lock_->tryLock(0);
  writer_.setMaxThreadCount(1);
  autosave_.setSingleShot(true);
  autosave_.setInterval(500);
  connect(&autosave_, &QTimer::timeout, this, &Document::writeAutosave);
}

// Closing in order means that the user was asked: nothing is left to recover.
Document::~Document() { dropAutosave(); }

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
  return path_.empty() ? QString::fromStdString(plan().title)
                       : shownName(path_.filename()).remove(QStringLiteral(".easel.json"));
}

void Document::perform(const Edit& edit, const QString& label, const QString& mergeKey) {
  QString why;
  try {
    history_.perform(edit, label.toStdString(), mergeKey.toStdString());
    return touched();
  } catch (const OutOfRange& e) {
    why = QString::fromStdString(e.sentence(Preferences::current().spelling()));
  } catch (const std::invalid_argument& e) {
    why = QString::fromUtf8(e.what());
  }
  emit changed();  // whatever shows the refused value goes back
  emit refused(why);
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
  // Not restarted by every edit: a drag without a pause would never be saved.
  if (!autosave_.isActive()) autosave_.start();
  emit changed();
  emit stateChanged();
}

void Document::setFile(const std::filesystem::path& file) {
  std::error_code none;
  path_ = file.empty() ? file : std::filesystem::absolute(file, none);
  fileLock_.reset();
  holdsFile_ = false;
  mark_ = path_.empty() ? FileMark{} : markOf(path_);
  if (path_.empty()) return;
  // Under its true name, so that a link and its file are one.
  const std::string name = std::filesystem::weakly_canonical(path_, none).string();
  const QString folder = stateFolder() + "/open";
  makePrivate(folder);
  fileLock_ =
      lockAt(folder + "/" +
             QCryptographicHash::hash(QByteArray::fromStdString(name), QCryptographicHash::Sha1).toHex() + ".lock");
  holdsFile_ = fileLock_->tryLock(0);
}

bool Document::changedOutside() const { return !path_.empty() && changedSince(path_, mark_); }

void Document::startNew() {
  history_.reset(freshPlan());
  setFile({});
  dropAutosave();
  emit changed();
  emit stateChanged();
}

void Document::startFrom(const Plan& plan) {
  history_.reset(plan);
  history_.markUnsaved();
  setFile({});
  touched();
}

void Document::open(const std::filesystem::path& file) {
  Plan plan = loadPlan(file);
  history_.reset(std::move(plan));
  setFile(file);
  dropAutosave();
  emit changed();
  emit stateChanged();
}

void Document::saveTo(const std::filesystem::path& file) {
  std::error_code none;
  const bool own = !path_.empty() && std::filesystem::equivalent(file, path_, none) && !changedOutside();
  if (!own && std::filesystem::is_regular_file(file, none)) try {
      loadPlan(file);
    } catch (const std::exception&) {
      keepBackup(file);
    }
  savePlan(file, plan());
  setFile(file);
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
  writer_.start([this, plan = plan(), origin = path_.string(), session = session_.toStdString()] {
    try {
      writeFileAtomically(session + ".origin", origin, Privacy::OwnerOnly);
      writeFileAtomically(session + ".easel.json", writePlanText(plan), Privacy::OwnerOnly);
      autosaveFailed_ = false;
    } catch (const std::exception& e) {
      // Said once, not every half second.
      if (!std::exchange(autosaveFailed_, true))
        QMetaObject::invokeMethod(
            this, [this, why = QString::fromUtf8(e.what())] { emit refused(tr("The autosave failed: %1").arg(why)); },
            Qt::QueuedConnection);
    }
  });
}

void Document::dropAutosave() {
  autosave_.stop();
  writer_.waitForDone();
  clearAfter(session_);
}

Document::Leftovers Document::leftovers() {
  Leftovers out;
  const QDir folder(autosaveFolder());
  for (const QFileInfo& lock : folder.entryInfoList({"*.lock"}, QDir::Files)) {
    const QString base = lock.absoluteFilePath().chopped(int(strlen(".lock")));
    if (QFile::exists(base + kEnding)) continue;
    if (auto dead = lockAt(base + ".lock"); dead->tryLock(0)) QFile::remove(base + ".origin");
  }
  for (const QFileInfo& found : folder.entryInfoList({"*" + kEnding}, QDir::Files, QDir::Time)) {
    const QString base = found.absoluteFilePath().chopped(kEnding.size());
    auto other = lockAt(base + ".lock");
    if (!other->tryLock(0)) continue;  // its session is alive
    try {
      out.plans.push_back({base, QString::fromStdString(loadPlan(pathOf(found.absoluteFilePath())).title)});
    } catch (const std::exception&) {
      // Kept for whoever can mend it, under a name that is not tried again.
      const QString kept = base + ".unreadable.json";
      if (QFile::rename(found.absoluteFilePath(), kept)) out.unreadable << kept;
    }
  }
  return out;
}

bool Document::takeOver(const Leftover& leftover) {
  auto other = lockAt(leftover.base + ".lock");
  if (leftover.base == session_ || !other->tryLock(0)) return false;
  try {
    Plan plan = loadPlan(pathOf(leftover.base + kEnding));
    std::string origin;
    try {
      origin = readWholeFile(pathOf(leftover.base + ".origin"), 1 << 16);
    } catch (const std::exception&) {
    }
    history_.reset(std::move(plan));
    history_.markUnsaved();
    setFile(origin);
    // Ours first, then theirs goes: a crash in between finds one of the two.
    writeAutosave();
    writer_.waitForDone();
    clearAfter(leftover.base);
    emit changed();
    emit stateChanged();
    return true;
  } catch (const std::exception&) {
    return false;
  }
}

bool Document::recover() {
  for (const Leftover& l : leftovers().plans)
    if (takeOver(l)) return true;
  return false;
}

}  // namespace easel::app
