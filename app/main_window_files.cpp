// What goes in and out of the main window: plans, pictures, readings.
#include <QFileDialog>
#include <QFileInfo>
#include <QMenu>
#include <QMessageBox>
#include <QSettings>
#include <QThread>

#include "formats/atomic_file.h"
#include "formats/ies_file.h"
#include "light/spots.h"
#include "main_window.h"
#include "plan/lamp.h"

namespace easel::app {
namespace {
const char* const kFileFilter =
    QT_TRANSLATE_NOOP("easel::app::MainWindow", "Jolly Easel plans (*.easel.json);;All files (*)");
}  // namespace

bool MainWindow::mayDrop() {
  if (quiet_ || !document_->modified()) return true;
  QMessageBox box(QMessageBox::Question, tr("Jolly Easel"),
                  tr("\"%1\" has changes that are not saved.").arg(document_->displayName()),
                  QMessageBox::Save | QMessageBox::Discard | QMessageBox::Cancel, this);
  switch (box.exec()) {
    case QMessageBox::Save:
      return save();
    case QMessageBox::Discard:
      return true;
    default:
      return false;
  }
}

void MainWindow::newPlan() {
  if (!mayDrop()) return;
  show_ = {};
  document_->startNew();
  showNotice(tr("A new plan with one key light."));
}

void MainWindow::openDialog() {
  if (!mayDrop()) return;
  const QString f =
      QFileDialog::getOpenFileName(this, tr("Open a plan"), QFileInfo(document_->file()).path(), tr(kFileFilter));
  if (!f.isEmpty()) openFile(f);
}

bool MainWindow::openFile(const QString& file) {
  return attempt([&] {
    show_ = {};
    document_->open(file);
    remember(file);
    showNotice(tr("Opened %1.").arg(QFileInfo(file).fileName()));
  });
}

bool MainWindow::recoverUnsaved() {
  if (!document_->recover()) return false;
  showNotice(tr("Brought back the unsaved plan of the last session. Save it, or choose File, New plan."));
  return true;
}

bool MainWindow::saveTo(const QString& file) {
  return attempt([&] {
    document_->saveTo(file);
    remember(file);
    showNotice(tr("Saved as %1.").arg(QFileInfo(file).fileName()));
  });
}

bool MainWindow::save() { return document_->file().isEmpty() ? saveAs() : saveTo(document_->file()); }

bool MainWindow::saveAs() {
  QString start = document_->file();
  if (start.isEmpty()) start = QString::fromStdString(document_->plan().title).replace('/', '-') + ".easel.json";
  QString f = QFileDialog::getSaveFileName(this, tr("Save the plan"), start, tr(kFileFilter));
  if (f.isEmpty()) return false;
  if (!f.endsWith(".json")) f += ".easel.json";
  return saveTo(f);
}

void MainWindow::remember(const QString& file) {
  QSettings s;
  QStringList all = s.value("recent").toStringList();
  const QString absolute = QFileInfo(file).absoluteFilePath();
  all.removeAll(absolute);
  all.prepend(absolute);
  s.setValue("recent", all.mid(0, 8));
}

void MainWindow::fillRecent() {
  recent_->clear();
  for (const QString& f : QSettings().value("recent").toStringList())
    recent_->addAction(f, this, [this, f] {
      if (mayDrop()) openFile(f);
    });
  if (recent_->isEmpty()) recent_->addAction(tr("None yet"))->setEnabled(false);
}

void MainWindow::exportPicture() {
  const QString f = QFileDialog::getSaveFileName(this, tr("Export the picture"), document_->displayName() + ".png",
                                                 tr("PNG pictures (*.png)"));
  if (f.isEmpty()) return;
  if (easel_->picture().save(f, "PNG"))
    showNotice(tr("The picture is in %1.").arg(QFileInfo(f).fileName()));
  else
    showNotice(tr("%1 could not be written. Choose another folder.").arg(f), true);
}

void MainWindow::exportIes() {
  const Light* l = document_->plan().light(selected_.toStdString());
  const Unit* u = l ? findUnit(l->unit) : nullptr;
  if (!u || !findModifier(l->modifier)) return showNotice(tr("Choose a light first."), true);
  const QString f =
      QFileDialog::getSaveFileName(this, tr("Save the profile of light %1").arg(selected_),
                                   QString::fromStdString(l->modifier) + ".ies", tr("IES photometry (*.ies)"));
  if (f.isEmpty()) return;
  attempt([&] {
    writeFileAtomically(f.toStdString(), writeIesText(frontOf(*l), u->lumenSeconds(0, 1), u->modellingWatts));
    showNotice(tr("The profile is in %1.").arg(QFileInfo(f).fileName()));
  });
}

void MainWindow::exportReadings() {
  const auto& r = link_.latest();
  if (!r || !r->layers || !r->layers->scene || !r->problem.empty()) {
    showNotice(tr("There are no readings yet."), true);
    return;
  }
  const QString f = QFileDialog::getSaveFileName(this, tr("Export readings"), document_->displayName() + ".csv",
                                                 tr("CSV tables (*.csv)"));
  if (f.isEmpty()) return;
  showNotice(tr("Reading every light at every spot..."));
  // On a thread of its own: many lights at many spots take longer than a frame.
  if (exporting_) exporting_->wait();
  QThread* job = exporting_ = QThread::create([this, scene = r->layers->scene, plan = r->plan, f] {
    QString said = tr("The readings are in %1.").arg(QFileInfo(f).fileName());
    bool problem = false;
    try {
      writeFileAtomically(f.toStdString(), writeSpotCsv(spotTable(*scene, plan), plan));
    } catch (const std::exception& e) {
      said = QString::fromUtf8(e.what());
      problem = true;
    }
    QMetaObject::invokeMethod(
        this, [this, said, problem] { showNotice(said, problem); }, Qt::QueuedConnection);
  });
  connect(job, &QThread::finished, job, &QObject::deleteLater);
  job->start();
}

}  // namespace easel::app
