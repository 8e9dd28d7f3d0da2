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

std::shared_ptr<HeldFile> lockOf(const std::string& trueName) {
  const QString folder = stateFolder() + "/open";
  makePrivate(folder);
  return HeldFile::hold(
      folder + "/" + QCryptographicHash::hash(QByteArray::fromStdString(trueName), QCryptographicHash::Sha1).toHex() +
      kLock);
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
  out.lock = lockOf(out.trueName);
  return out;
}

// What the strand is to write next: only the newest state matters, however slow the disk is.
struct SessionFile::Kept {
  std::mutex guard;
  bool waiting = false;  ///< a job for it is queued
  Text text;             ///< empty: clear what stands there
  Origin origin;
  std::vector<std::function<void(bool)>> then;
  // The strand's alone.
  std::string written;  ///< of the origin
  std::shared_ptr<HeldFile> lock;
};

QString SessionFile::folderOf(const FileKind& kind) { return stateFolder() + "/" + kind.folder; }

SessionFile::SessionFile(const FileKind& kind, Unsaved unsaved, QObject* parent)
    : QObject(parent), kind_(kind), unsaved_(std::move(unsaved)), kept_(std::make_shared<Kept>()), strand_(this) {
  session_ = folderOf(kind_) + "/" + QUuid::createUuid().toString(QUuid::WithoutBraces);
  strand_.start([kept = kept_, folder = folderOf(kind_), base = session_]() -> Strand::Report {
    makePrivate(folder);
    kept->lock = HeldFile::hold(base + kLock);
    return {};
  });
  timer_.setSingleShot(true);
  timer_.setTimerType(Qt::PreciseTimer);
  timer_.setInterval(kAutosaveInterval);
  connect(&timer_, &QTimer::timeout, this, &SessionFile::keep);
}

// Closing in order means that the user was asked: nothing is left to bring back. The lock is held until that is done.
SessionFile::~SessionFile() {
  strand_.start(
      [kept = kept_, file = std::move(fileLock_), base = session_, ending = kind_.ending]() mutable -> Strand::Report {
        {
          std::lock_guard guard(kept->guard);
          kept->text = {};
        }
        clearAfter(base, ending);
        kept->lock.reset();
        file.reset();
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
  mark_ = seen.mark;
  // The same file, read again or saved: the lock is held here already.
  if (std::exchange(trueName_, seen.trueName) == seen.trueName && !seen.lock) return;
  // Releasing a lock touches the disk too.
  if (fileLock_)
    strand_.start([old = std::move(fileLock_)]() mutable -> Strand::Report {
      old.reset();
      return {};
    });
  fileLock_ = seen.lock;
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

std::optional<SessionFile::Recovered> SessionFile::recover(const FileKind& kind, const Leftover& leftover) {
  Recovered out;
  out.base = leftover.base;
  out.held = HeldFile::hold(leftover.base + kLock);
  if (!out.held) return {};
  Origin origin;
  try {
    out.text = readWholeFile(pathOf(leftover.base + kind.ending));
    kind.titleOf(out.text);
  } catch (const std::exception&) {
    return {};
  }
  try {
    origin = readOrigin(readWholeFile(pathOf(leftover.base + kOrigin), kLongestName));
  } catch (const std::exception&) {
    return out;  // without a name, then
  }
  if (origin.file.empty()) return out;
  out.file = lookAt(origin.file);
  out.file.mark = origin.mark;
  return out;
}

std::optional<SessionFile::Recovered> SessionFile::recoverFirst(const FileKind& kind,
                                                                std::vector<Leftover>& leftovers) {
  std::optional<Recovered> out;
  while (!out && !leftovers.empty()) {
    out = recover(kind, leftovers.front());
    leftovers.erase(leftovers.begin());
  }
  return out;
}

void SessionFile::takeOver(const Recovered& recovered) {
  ++document_;
  hold(recovered.file);
  // Ours first, then theirs goes: whatever happens in between, one of the two is there.
  keepThen([held = recovered.held, base = recovered.base, ending = kind_.ending](bool kept) {
    if (kept) clearAfter(base, ending);
  });
  emit stateChanged();
}

}  // namespace easel::app
