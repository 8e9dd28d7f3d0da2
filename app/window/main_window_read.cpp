// The shelf of looks, devices, the journal, and a picture of the user's own beside the easel.
#include <QFileDialog>
#include <QFileInfo>

#include "widgets/wording.h"
#include "window/main_window.h"

namespace easel::app {

void MainWindow::openLooks() {
  if (!looks_) {
    looks_ = new LooksDialog(document_, this);
    connect(looks_, &LooksDialog::tryOut, onEasel_, &OnEasel::tryOut);
    connect(looks_, &LooksDialog::taken, onEasel_, &OnEasel::takeOver);
    connect(looks_, &LooksDialog::said, this, &MainWindow::showNotice);
    connect(document_, &Document::changed, looks_, &LooksDialog::refreshShelf);
  }
  looks_->show();
  looks_->raise();
  looks_->activateWindow();
}

void MainWindow::openDevices() {
  if (!devices_) devices_ = new DevicesDialog(&DeviceHub::current(), this);
  devices_->show();
  devices_->raise();
  devices_->activateWindow();
}

void MainWindow::openJournal() {
  if (!journal_) {
    journal_ = new JournalDialog(this);
    connect(journal_, &JournalDialog::said, this, &MainWindow::showNotice);
    connect(journal_, &JournalDialog::takeWanted, this,
            [this](const StudioCorrections& corrections) { kit()->takeCorrections(corrections); });
    connect(journal_, &JournalDialog::dropWanted, this,
            [this](const QString& studio) { kit()->dropCorrections(studio.toStdString()); });
    connect(journal_, &JournalDialog::repeatWanted, this, [this](const Plan& plan, const QString& title) {
      // Another plan than the open one: it gets a file of its own, or none.
      MainWindow* window = openUntitled(plan);
      window->showStage(QStringLiteral("Run"));
      window->showNotice(tr("The session %1 as a plan of its own. Save it to keep it.").arg(title));
    });
  } else {
    journal_->refresh();
  }
  journal_->show();
  journal_->raise();
  journal_->activateWindow();
}

void MainWindow::loadBeside() {
  QStringList endings;
  for (const QByteArray& format : photographFormats()) endings << "*." + QString::fromLatin1(format);
  const QString file = QFileDialog::getOpenFileName(this, tr("A picture of your own beside the easel"), {},
                                                    tr("Pictures (%1)").arg(endings.join(' ')));
  if (!file.isEmpty()) showBeside(file);
}

void MainWindow::showBeside(const QString& file) {
  besideTask_.start([this, file](const BackgroundTask::Go&) -> BackgroundTask::Done {
    QString why;
    const QImage picture = readPhotograph(file, &why);
    PhotographSettings settings;
    try {
      if (!picture.isNull()) settings = settingsOfPhotograph(QFile::encodeName(file).toStdString());
    } catch (const std::exception&) {  // a picture that does not say how it was taken is a picture all the same
    }
    return [this, file, picture, why, settings] {
      const QString name = QFileInfo(file).fileName();
      if (picture.isNull())
        showNotice(tr("%1 is no picture that can be shown: %2.").arg(name, why), true);
      else
        putBeside(name, picture, settings);
    };
  });
}

void MainWindow::putBeside(const QString& name, const QImage& picture, const PhotographSettings& settings) {
  easel_->setBeside(picture, name);
  const AgainstPlan differs = against(settings, document_->plan(), Preferences::current().spelling());
  QStringList words;
  for (const std::string& sentence : differs.sentences) words << QString::fromStdString(sentence);
  showNotice(tr("%1 stands beside the easel. %2").arg(name, words.join(' ')), differs.sentences.size() > 1);
}

void MainWindow::watchFolder() {
  if (!watched_.folder().isEmpty()) {
    watched_.watch({});
    showNotice(tr("No folder is watched any more."));
  } else {
    const QString folder = QFileDialog::getExistingDirectory(this, tr("The folder that pictures arrive in"));
    if (!folder.isEmpty()) watchFolder(folder);
  }
  watchAction_->setChecked(!watched_.folder().isEmpty());  // not as it was pressed
}

void MainWindow::watchFolder(const QString& folder) { watched_.watch(folder); }

}  // namespace easel::app
