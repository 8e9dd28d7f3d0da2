#include "dialogs/document_saving.h"

#include <QApplication>
#include <QWidget>
#include <memory>
#include <utility>

#include "dialogs/ask_save_name.h"
#include "document/state_folder.h"

namespace easel::app {
namespace {
bool quitting = false;
}

void DocumentSaving::quit() {
  quitting = true;
  QApplication::closeAllWindows();
}

DocumentSaving::DocumentSaving(Subject subject, QWidget* window)
    : QObject(window), subject_(std::move(subject)), window_(window) {
  connect(subject_.file, &SessionFile::saved, this, [this](const std::filesystem::path& file) {
    emit saved(file);
    emit said(tr("Saved as %1.").arg(shownName(file.filename())), false);
    if (const Then then = std::exchange(then_, {})) then();
  });
  connect(subject_.file, &SessionFile::failed, this, [this](const QString& why) {
    then_ = {};
    quitting = false;
    emit said(why, true);
  });
  // Not within the signal: the question is a window of its own.
  connect(subject_.file, &SessionFile::changedOutside, this, &DocumentSaving::changedOutside, Qt::QueuedConnection);
}

void DocumentSaving::save(Then then) {
  if (subject_.file->path().empty()) return saveAs(std::move(then));
  saveTo(subject_.file->path(), std::move(then));
}

void DocumentSaving::saveAs(Then then) {
  QString start = shownName(subject_.file->path());
  if (start.isEmpty()) start = subject_.words().replace('/', '-') + subject_.ending;
  const QString f =
      askSaveName(window_, subject_.title, start, subject_.filter, subject_.ending, subject_.file->path());
  if (!f.isEmpty()) return saveTo(pathOf(f), std::move(then));
  quitting = false;
}

void DocumentSaving::saveTo(const std::filesystem::path& file, Then then) {
  then_ = std::move(then);
  subject_.save(file, quiet_ ? SessionFile::Over::Anyway : SessionFile::Over::Ask);
}

void DocumentSaving::changedOutside(const std::filesystem::path& file) {
  Then then = std::exchange(then_, {});
  switch (askOverChanged(window_, file)) {
    case OverChanged::SaveAs:
      return saveAs(std::move(then));
    case OverChanged::Leave:
      quitting = false;
      return;
    case OverChanged::Overwrite:
      then_ = std::move(then);
      subject_.save(file, SessionFile::Over::Anyway);
  }
}

void DocumentSaving::beforeItGoes(const Then& then) {
  if (quiet_) return then();
  if (subject_.file->saving()) {
    then_ = [this, then] { beforeItGoes(then); };  // checks again: there may be newer changes
    return void(emit said(tr("Saving; the next step follows when that is done."), false));
  }
  if (!subject_.modified()) return then();
  switch (askBeforeItGoes(window_, subject_.name())) {
    case BeforeItGoes::Save:
      return save(then);
    case BeforeItGoes::Discard:
      return then();
    case BeforeItGoes::Stay:
      quitting = false;
      return;
  }
}

bool DocumentSaving::mayClose() {
  if (leaving_) return true;
  struct Answer {
    bool inEvent = true, now = false;
  };
  const auto answer = std::make_shared<Answer>();
  beforeItGoes([this, answer] {
    if (answer->inEvent) {
      answer->now = true;
      return;
    }
    leaving_ = true;
    window_->close();
    leaving_ = false;
    if (quitting)
      QMetaObject::invokeMethod(
          qApp, [] { QApplication::closeAllWindows(); }, Qt::QueuedConnection);
  });
  answer->inEvent = false;
  return answer->now;
}

}  // namespace easel::app
