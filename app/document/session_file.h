// The file of an open document and its autosave; shared by plans and days.
//
// A session has three files under one name in the state folder: a lock, which is free once the process has died; the
// autosave, at most half a second old; and the origin, i.e. the path of the document's file with its mark when it was
// read. A second lock tells other windows which file is open. Interface thread; disk access runs on a strand and
// reports by signals.
#pragma once

#include <QObject>
#include <QString>
#include <QStringList>
#include <QTimer>
#include <filesystem>
#include <functional>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "document/state_folder.h"
#include "document/strand.h"
#include "files/atomic_file.h"

namespace easel::app {

/// What a kind of document is to a file.
struct FileKind {
  QString folder;  ///< of what is not saved, within the state folder
  QString ending;  ///< ".easel.json"
  /// The title of a text of this kind. Throws std::runtime_error with a sentence when it cannot be read as one.
  std::function<std::string(const std::string& text)> titleOf;
};

/// What a look at a file gives, to be taken on the interface thread. Any thread.
struct FileSeen {
  std::filesystem::path path;  ///< absolute
  std::string trueName;        ///< of the file behind links: one file, one name
  FileMark mark;
  std::shared_ptr<HeldFile> lock;  ///< says that it is open here; none: a window that has it open holds it
};
FileSeen lookAt(const std::filesystem::path& file);

/// What stands beside a text that is not saved: the file that it belongs to, as it was when it was read.
struct Origin {
  std::filesystem::path file;  ///< empty: none
  FileMark mark;
};

class SessionFile : public QObject {
  Q_OBJECT

 public:
  /// Runs on another thread: it owns what it writes.
  using Text = std::function<std::string()>;
  /// The document as it is, when it differs from its file; empty: there is nothing to keep.
  using Unsaved = std::function<Text()>;
  enum class Over { Ask, Anyway };

  SessionFile(const FileKind& kind, Unsaved unsaved, QObject* parent);
  ~SessionFile() override;

  const std::filesystem::path& path() const { return path_; }
  /// Of the file behind links; empty: none.
  const std::string& trueName() const { return trueName_; }
  /// Whether another window has the same file open too.
  bool openElsewhere() const { return !path_.empty() && !fileLock_; }

  /// The document has changed: it is kept within half a second. Not put off by more changes.
  void touched();
  /// The document comes from that file, or from none.
  void belongsTo(const FileSeen& seen);
  void belongsToNone();

  /// Ends in one of saved(), failed() and changedOutside(). What stands under another name and cannot be read as this
  /// kind is kept by keepBackup(). `stood` is called before saved().
  void save(const std::filesystem::path& file, const Text& text, Over over, const std::function<void()>& stood);
  bool saving() const { return saving_ > 0; }
  /// Whether everything that was to be written or cleared has been.
  bool calm() const { return !strand_.busy() && !timer_.isActive(); }

  /// What earlier sessions left unsaved, newest first; sessions that are alive are left out.
  struct Leftover {
    QString base, title;
  };
  struct Leftovers {
    std::vector<Leftover> all;
    QStringList unreadable;  ///< put aside under these paths, and told once
  };
  /// Any thread.
  static Leftovers leftovers(const FileKind& kind);
  /// One of them as it was read; no other session can take it while this lives.
  struct Recovered {
    std::string text;
    FileSeen file;  ///< that it belongs to, with the mark from when that session read it
    QString base;
    std::shared_ptr<HeldFile> held;
  };
  /// None: it is gone, or another session has it. Any thread.
  static std::optional<Recovered> recover(const FileKind& kind, const Leftover& leftover);
  /// The first of them that can be had; it and those before it are taken off the list. Any thread.
  static std::optional<Recovered> recoverFirst(const FileKind& kind, std::vector<Leftover>& leftovers);
  /// Makes its file this document's, keeps the document as this session's, and only then clears what the other left.
  void takeOver(const Recovered& recovered);

  static QString folderOf(const FileKind& kind);

 signals:
  void saved(const std::filesystem::path& file);
  void failed(const QString& sentence);
  /// Nothing was written: somebody else has written the file since it was read or saved here.
  void changedOutside(const std::filesystem::path& file);
  void autosaveFailed(const QString& sentence);  ///< once, until it works again
  void stateChanged();                           ///< path, saving or not

 private:
  struct Kept;
  void keep();
  void keepThen(const std::function<void(bool kept)>& then);
  void hold(const FileSeen& seen);

  FileKind kind_;
  Unsaved unsaved_;
  std::filesystem::path path_;
  std::string trueName_;
  FileMark mark_;  ///< of the file, as it was read or written here
  QString session_;
  std::shared_ptr<HeldFile> fileLock_;
  bool autosaveFailed_ = false;
  int saving_ = 0;
  unsigned document_ = 0;  ///< which one stands here: what is still being saved may be of one that has gone
  std::shared_ptr<Kept> kept_;
  QTimer timer_;
  Strand strand_;
};

}  // namespace easel::app
