#include "document/session_file.h"

#include <QCryptographicHash>
#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QUuid>
#include <mutex>

#include "document/state_folder.h"

namespace easel::app {
namespace {

// With the time of a write, half a second.
constexpr int kAutosaveInterval = 250;  // ms
constexpr size_t kLongestName = 1 << 16;

const QString kOrigin = QStringLiteral(".origin"), kLock = QStringLiteral(".lock");

// Where it came from: the mark on the first line, then the name's bytes to the end. Older files hold the name alone.
std::string writeOrigin(const Origin& o) { return "mark " + writeMark(o.mark) + "\n" + o.file.string(); }
Origin readOrigin(const std::string& text) {
  if (text.rfind("mark ", 0) != 0) return {text, markOf(text)};
  const size_t end = text.find('\n');
  if (end == std::string::npos) return {};
  return {text.substr(end + 1), readMark(text.substr(5, end - 5))};
}

void clearAfter(const QString& base, const QString& ending) {
  for (const QString& e : {ending, kOrigin}) QFile::remove(base + e);
}

bool sameFile(const std::filesystem::path& a, const std::filesystem::path& b) {
  std::error_code none;
  return !a.empty() && !b.empty() && (a == b || std::filesystem::equivalent(a, b, none));
}

}  // namespace

FileSeen lookAt(const std::filesystem::path& file) {
  std::error_code none;
  FileSeen out;
  out.path = std::filesystem::absolute(file, none);
  // Under its true name, so that a link and its file are one.
  out.trueName = std::filesystem::weakly_canonical(out.path, none).string();
  out.mark = markOf(out.path);
  return out;
}

// What the strand is to write next: only the newest state matters, however slow the disk is.
struct SessionFile::Kept {
  std::mutex guard;
  bool waiting = false;  ///< a job for it is queued
  Text text;             ///< empty: clear what stands there
  Origin origin;
  std::vector<std::function<void(bool)>> then;
  std::string written;  ///< of the origin; the strand's alone
};

QString SessionFile::folderOf(const FileKind& kind) { return stateFolder() + "/" + kind.folder; }

SessionFile::SessionFile(const FileKind& kind, Unsaved unsaved, QObject* parent)
    : QObject(parent), kind_(kind), unsaved_(std::move(unsaved)), kept_(std::make_shared<Kept>()), strand_(this) {
  makePrivate(folderOf(kind_));
  session_ = folderOf(kind_) + "/" + QUuid::createUuid().toString(QUuid::WithoutBraces);
  lock_ = HeldFile::hold(session_ + kLock);
  timer_.setSingleShot(true);
  timer_.setTimerType(Qt::PreciseTimer);
  timer_.setInterval(kAutosaveInterval);
  connect(&timer_, &QTimer::timeout, this, &SessionFile::keep);
}

// Closing in order means that the user was asked: nothing is left to bring back. The lock is held until that is done.
SessionFile::~SessionFile() {
  strand_.start([kept = kept_, lock = std::move(lock_), base = session_, ending = kind_.ending]() -> Strand::Report {
    {
      std::lock_guard guard(kept->guard);
      kept->text = {};
    }
    clearAfter(base, ending);
    return {};
  });
}

// Not restarted by every change: a drag without a pause would never be saved.
void SessionFile::touched() {
  if (!timer_.isActive()) timer_.start();
}

void SessionFile::keep() { keepThen({}); }

void SessionFile::keepThen(const std::function<void(bool)>& then) {
  timer_.stop();
  {
    std::lock_guard guard(kept_->guard);
    kept_->text = unsaved_();
    kept_->origin = {path_, mark_};
    if (then) kept_->then.push_back(then);
    if (std::exchange(kept_->waiting, true)) return;
  }
  strand_.start([this, kept = kept_, base = session_, ending = kind_.ending]() -> Strand::Report {
    Text text;
    Origin origin;
    std::vector<std::function<void(bool)>> all;
    {
      std::lock_guard guard(kept->guard);
      kept->waiting = false;
      text = std::move(kept->text);
      origin = kept->origin;
      all = std::move(kept->then);
      kept->then.clear();
    }
    QString why;
    try {
      if (text) {
        // First where it came from: a text without that would be a document without a name.
        if (std::string line = writeOrigin(origin); line != kept->written) {
          writeFileAtomically((base + kOrigin).toStdString(), line, Privacy::OwnerOnly);
          kept->written = std::move(line);
        }
        writeFileAtomically((base + ending).toStdString(), text(), Privacy::OwnerOnly);
      } else {
        kept->written.clear();
        clearAfter(base, ending);
      }
    } catch (const std::exception& e) {
      why = QString::fromUtf8(e.what());
    }
    for (const auto& then : all) then(why.isEmpty());
    return [this, why] {
      // Said once, not at every change.
      if (!std::exchange(autosaveFailed_, !why.isEmpty()) && autosaveFailed_)
        emit autosaveFailed(tr("The autosave failed: %1").arg(why));
    };
  });
}

void SessionFile::hold(const FileSeen& seen) {
  path_ = seen.path;
  trueName_ = seen.trueName;
  mark_ = seen.mark;
  fileLock_.reset();
  if (path_.empty()) return;
  const QString folder = stateFolder() + "/open";
  makePrivate(folder);
  fileLock_ = HeldFile::hold(
      folder + "/" +
      QCryptographicHash::hash(QByteArray::fromStdString(seen.trueName), QCryptographicHash::Sha1).toHex() + kLock);
}

void SessionFile::belongsTo(const FileSeen& seen) {
  ++document_;
  hold(seen);
  keep();
  emit stateChanged();
}

void SessionFile::belongsToNone() { belongsTo({}); }

void SessionFile::save(const std::filesystem::path& file, const Text& text, Over over,
                       const std::function<void()>& stood) {
  ++saving_;
  emit stateChanged();
  strand_.start([this, file, text, over, stood, own = path_, mark = mark_, titleOf = kind_.titleOf,
                 document = document_]() -> Strand::Report {
    const auto end = [this, document](auto what) {
      return [this, document, what] {
        --saving_;
        if (document == document_) what();
        emit stateChanged();
      };
    };
    try {
      std::error_code none;
      const std::filesystem::path absolute = std::filesystem::absolute(file, none);
      const bool changed = sameFile(absolute, own) && changedSince(own, mark);
      if (changed && over == Over::Ask) return end([this, absolute] { emit changedOutside(absolute); });
      if ((changed || !sameFile(absolute, own)) && std::filesystem::is_regular_file(absolute, none)) try {
          titleOf(readWholeFile(absolute));
        } catch (const std::exception&) {
          keepBackup(absolute);
        }
      const std::string bytes = text();
      // What cannot be read again must not take the place of what can.
      titleOf(bytes);
      writeFileAtomically(absolute, bytes);
      return end([this, seen = lookAt(absolute), stood] {
        stood();
        hold(seen);
        keep();
        emit saved(seen.path);
      });
    } catch (const std::exception& e) {
      return end([this, why = QString::fromUtf8(e.what())] { emit failed(why); });
    }
  });
}

SessionFile::Leftovers SessionFile::leftovers(const FileKind& kind) {
  Leftovers out;
  const QDir folder(folderOf(kind));
  // Sessions that ended without a word leave their lock and the name of their file behind.
  for (const QFileInfo& lock : folder.entryInfoList({"*" + kLock}, QDir::Files)) {
    const QString base = lock.absoluteFilePath().chopped(kLock.size());
    if (QFile::exists(base + kind.ending)) continue;
    if (HeldFile::hold(base + kLock)) QFile::remove(base + kOrigin);
  }
  for (const QFileInfo& found : folder.entryInfoList({"*" + kind.ending}, QDir::Files, QDir::Time)) {
    const QString base = found.absoluteFilePath().chopped(kind.ending.size());
    if (!HeldFile::hold(base + kLock)) continue;  // its session is alive
    try {
      out.all.push_back({base, QString::fromStdString(kind.titleOf(readWholeFile(pathOf(found.absoluteFilePath()))))});
    } catch (const std::exception&) {
      // Kept for whoever can mend it, under a name that is not tried again.
      const QString kept = base + ".unreadable.json";
      if (QFile::rename(found.absoluteFilePath(), kept)) out.unreadable << kept;
    }
  }
  return out;
}

bool SessionFile::takeOver(const Leftover& leftover, const std::function<void(const std::string&)>& read) {
  const std::shared_ptr<HeldFile> other = HeldFile::hold(leftover.base + kLock);
  if (!other) return false;
  Origin origin;
  try {
    const std::string text = readWholeFile(pathOf(leftover.base + kind_.ending));
    try {
      origin = readOrigin(readWholeFile(pathOf(leftover.base + kOrigin), kLongestName));
    } catch (const std::exception&) {
      // Without a name, then.
    }
    read(text);
  } catch (const std::exception&) {
    return false;
  }
  ++document_;
  std::error_code none;
  hold({origin.file, std::filesystem::weakly_canonical(origin.file, none).string(), origin.mark});
  // Ours first, then theirs goes: whatever happens in between, one of the two is there.
  keepThen([held = other, base = leftover.base, ending = kind_.ending](bool kept) {
    if (kept) clearAfter(base, ending);
  });
  emit stateChanged();
  return true;
}

}  // namespace easel::app
