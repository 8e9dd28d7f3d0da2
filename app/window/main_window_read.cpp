// The shelf of looks, devices, the journal, and a picture of the user's own beside the easel.
#include <QFileDialog>
#include <QFileInfo>
#include <QImageReader>

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
      onEasel_->takeOver(plan, tr("the session %1").arg(title));
      showStage(QStringLiteral("Run"));
    });
  } else {
    journal_->refresh();
  }
  journal_->show();
  journal_->raise();
  journal_->activateWindow();
}

namespace {

// What this installation can read of photographs; drawings are programs, and are not run in here.
QList<QByteArray> photographFormats() {
  QList<QByteArray> out;
  for (const QByteArray& format : QImageReader::supportedImageFormats())
    if (format != "svg" && format != "svgz" && format != "pdf") out << format;
  return out;
}

}  // namespace

void MainWindow::loadBeside() {
  QStringList endings;
  for (const QByteArray& format : photographFormats()) endings << "*." + QString::fromLatin1(format);
  const QString file = QFileDialog::getOpenFileName(this, tr("A picture of your own beside the easel"), {},
                                                    tr("Pictures (%1)").arg(endings.join(' ')));
  if (!file.isEmpty()) showBeside(file);
}

void MainWindow::showBeside(const QString& file) {
  besideErrand_.start([this, file](const Errand::Go&) -> Errand::Done {
    QImageReader reader(file);
    reader.setAutoTransform(true);
    QImage picture;
    if (photographFormats().contains(reader.format())) {
      if (const QSize size = reader.size(); size.isValid() && (size.width() > 1600 || size.height() > 1600))
        reader.setScaledSize(size.scaled(1600, 1600, Qt::KeepAspectRatio));
      picture = reader.read();
    }
    const QString name = QFileInfo(file).fileName();
    const QString why = reader.error() ? reader.errorString() : tr("its kind is not one that is read here");
    return [this, picture, name, why] {
      if (picture.isNull()) {
        showNotice(tr("%1 is no picture that can be shown: %2.").arg(name, why), true);
        return;
      }
      easel_->setBeside(picture, name);
      showNotice(tr("%1 stands beside the easel. Take it away on the page By eye.").arg(name));
    };
  });
}

}  // namespace easel::app
