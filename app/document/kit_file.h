// The user's kit, one object for all windows. Stored in the data home as JSON and written after every change. If
// another program has changed the file, it is read again instead of overwritten; an unreadable file is left alone.
// Interface thread; only load() blocks, before there is a window.
#pragma once

#include <QObject>
#include <QString>
#include <filesystem>
#include <memory>

#include "document/strand.h"
#include "files/atomic_file.h"
#include "gear/inventory.h"

namespace easel::app {

class KitFile : public QObject {
  Q_OBJECT

 public:
  static KitFile& current();

  const Inventory& kit() const { return kit_; }
  /// Why the kit's file cannot be read; until that is settled nothing is written over it.
  const QString& unreadable() const { return unreadable_; }
  /// Reads the file and takes it into use. Empty, or what is wrong as a sentence.
  QString load();
  /// The same for the first window; for others the kit is there, and what is being written is not read back.
  QString loadOnce();
  /// Into use at once, and onto the disk.
  void set(const Inventory& kit);
  /// An empty kit, or `kit`, in the place of one that cannot be read, which is kept beside it.
  void startAnew(const Inventory& kit = {});
  bool working() const { return strand_.busy(); }

 signals:
  void changed();
  void said(const QString& sentence, bool problem);

 private:
  KitFile() = default;
  struct Read {
    std::filesystem::path file;
    FileMark mark;
    Inventory kit;
    QString unreadable;  ///< why; empty: it was read, or there is none
  };
  static Read read(const std::filesystem::path& file);
  QString take(const Read& read);
  void write(bool keepOld);

  Inventory kit_;
  QString unreadable_;
  std::filesystem::path loaded_;
  std::shared_ptr<FileMark> mark_ = std::make_shared<FileMark>();  ///< the strand's, as the file was read or written
  Strand strand_{this};
};

}  // namespace easel::app
