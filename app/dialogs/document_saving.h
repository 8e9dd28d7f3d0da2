// What a window asks and says when its document is saved, replaced or closed: the same for plans and days. Saving goes
// on while the hand does; what has to wait for it is done when it is through. Interface thread.
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
  /// `then` is done once it is saved, and not at all when it could not be or was given up.
  void save(Then then = {});
  void saveAs(Then then = {});
  void saveTo(const std::filesystem::path& file, Then then = {});
  /// `then` is done at once when nothing would be lost, or once the user has said what becomes of the changes.
  void beforeItGoes(const Then& then);
  /// For a close event: false when it must be ignored; the window is closed later if the user wants that.
  bool mayClose();

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
