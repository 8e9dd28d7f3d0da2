#include "dialogs/ask_save_name.h"

#include <QFileDialog>
#include <QFileInfo>
#include <QMessageBox>
#include <QPushButton>

#include "document/state_folder.h"

namespace easel::app {

QString askSaveName(QWidget* parent, const QString& title, const QString& start, const QString& filter,
                    const QString& ending, const std::filesystem::path& own) {
  QFileDialog dialog(parent, title, start, filter);
  dialog.setAcceptMode(QFileDialog::AcceptSave);
  // The question is asked below, for the name with its ending.
  dialog.setOption(QFileDialog::DontConfirmOverwrite);
  for (;;) {
    if (dialog.exec() != QDialog::Accepted || dialog.selectedFiles().isEmpty()) return {};
    QString file = dialog.selectedFiles().first();
    if (!file.endsWith(ending, Qt::CaseInsensitive) &&
        !(ending == QStringLiteral(".easel.json") && file.endsWith(QStringLiteral(".json"), Qt::CaseInsensitive)))
      file += ending;
    if (!QFileInfo::exists(file) || pathOf(file) == own) return file;
    QMessageBox box(QMessageBox::Warning, title,
                    QObject::tr("%1 exists already. Overwrite it?").arg(QFileInfo(file).fileName()),
                    QMessageBox::NoButton, parent);
    box.setObjectName("overwrite");
    auto* over = box.addButton(QObject::tr("&Overwrite"), QMessageBox::DestructiveRole);
    auto* other = box.addButton(QObject::tr("Another &name"), QMessageBox::RejectRole);
    box.setDefaultButton(other);
    box.setEscapeButton(other);
    box.exec();
    if (box.clickedButton() == over) return file;
  }
}

BeforeItGoes askBeforeItGoes(QWidget* parent, const QString& name) {
  QMessageBox box(QMessageBox::Question, QObject::tr("Jolly Easel"),
                  QObject::tr("\"%1\" has changes that are not saved.").arg(name),
                  QMessageBox::Save | QMessageBox::Discard | QMessageBox::Cancel, parent);
  switch (box.exec()) {
    case QMessageBox::Save:
      return BeforeItGoes::Save;
    case QMessageBox::Discard:
      return BeforeItGoes::Discard;
    default:
      return BeforeItGoes::Stay;
  }
}

OverChanged askOverChanged(QWidget* parent, const std::filesystem::path& file) {
  QMessageBox box(QMessageBox::Warning, QObject::tr("Jolly Easel"),
                  QObject::tr("%1 was changed by another program or window after it was opened here.")
                      .arg(shownName(file.filename())),
                  QMessageBox::NoButton, parent);
  box.setObjectName("changedOutside");
  auto* over = box.addButton(QObject::tr("&Overwrite it"), QMessageBox::DestructiveRole);
  auto* as = box.addButton(QObject::tr("Save &as..."), QMessageBox::AcceptRole);
  box.setDefaultButton(as);
  box.addButton(QMessageBox::Cancel);
  box.exec();
  return box.clickedButton() == as     ? OverChanged::SaveAs
         : box.clickedButton() == over ? OverChanged::Overwrite
                                       : OverChanged::Leave;
}

}  // namespace easel::app
