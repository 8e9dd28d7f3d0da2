// The questions and messages of a window when its document is saved, replaced or closed; shared by plans and days.
// Saving is asynchronous: what depends on it runs when it has finished. Interface thread.
#pragma once

#include <QObject>
#include <QString>
#include <functional>

#include "document/session_file.h"

class QWidget;

namespace easel::app {

class DocumentSaving : public QObject {
  Q_OBJECT

 public:
  using Then = std::function<void()>;
  /// How a window's document is called, and saved.
  struct Subject {
    SessionFile* file;
    QString title, filter, ending;   ///< of the dialog that asks for a name
    std::function<QString()> name;   ///< as the window shows it
    std::function<QString()> words;  ///< proposed as the name of a file that has none
    std::function<bool()> modified;
    std::function<void(const std::filesystem::path&, SessionFile::Over)> save;
  };

  DocumentSaving(Subject subject, QWidget* window);

  /// Nothing is asked: tests and pictures.
  void setQuiet(bool quiet) { quiet_ = quiet; }
  /// `then` runs after a successful save; not when saving failed or was cancelled.
  void save(Then then = {});
  void saveAs(Then then = {});
  void saveTo(const std::filesystem::path& file, Then then = {});
  /// Runs `then` at once if there are no unsaved changes; otherwise after the user has saved or discarded them.
  void beforeItGoes(const Then& then);
  /// For a close event: false if it must be ignored. The window then closes itself if the user decides so.
  bool mayClose();
  /// Closes all windows; goes on after those that have to be saved first, until a question is cancelled.
  static void quit();

 signals:
  void said(const QString& sentence, bool problem);
  void saved(const std::filesystem::path& file);

 private:
  void changedOutside(const std::filesystem::path& file);

  Subject subject_;
  QWidget* window_;
  bool quiet_ = false, leaving_ = false;
  Then then_;
};

}  // namespace easel::app
