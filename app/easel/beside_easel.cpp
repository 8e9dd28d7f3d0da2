#include "easel/beside_easel.h"

#include <QFileDialog>
#include <QFileInfo>

#include "render/picture_image.h"
#include "widgets/wording.h"

namespace easel::app {

BesideEasel::BesideEasel(ViewedPlan* viewed, EaselView* easel, QWidget* window)
    : QObject(window), viewed_(viewed), easel_(easel), window_(window) {
  connect(easel_, &EaselView::besideRead, this, [this](const QString& words) { emit said(words, false); });
  connect(&watched_, &WatchedFolder::arrived, this,
          [this](const QString& file, const QImage& picture, const PhotographSettings& settings) {
            put(QFileInfo(file).fileName(), picture, settings);
          });
  connect(&watched_, &WatchedFolder::failed, this, [this](const QString& why) { emit said(why, true); });
  connect(&watched_, &WatchedFolder::begun, this, [this] {
    emit said(tr("Every picture that arrives in %1 is shown beside the easel. Click a grey card in it.")
                  .arg(watched_.folder()),
              false);
  });
  connect(&watched_, &WatchedFolder::refused, this, [this](const QString& why) {
    emit watching(false);
    emit said(why, true);
  });
}

void BesideEasel::load() {
  QStringList endings;
  for (const QByteArray& format : photographFormats()) endings << "*." + QString::fromLatin1(format);
  const QString file = QFileDialog::getOpenFileName(window_, tr("A picture of your own beside the easel"), {},
                                                    tr("Pictures (%1)").arg(endings.join(' ')));
  if (!file.isEmpty()) show(file);
}

void BesideEasel::show(const QString& file) {
  task_.start([this, file](const BackgroundTask::Go&) -> BackgroundTask::Done {
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
        emit said(tr("%1 is not a picture that can be shown: %2.").arg(name, why), true);
      else
        put(name, picture, settings);
    };
  });
}

void BesideEasel::put(const QString& name, const QImage& picture, const PhotographSettings& settings) {
  easel_->setBeside(picture, name);
  const AgainstPlan differs = against(settings, viewed_->plan(), Preferences::current().spelling());
  QStringList words;
  for (const std::string& sentence : differs.sentences) words << QString::fromStdString(sentence);
  emit said(tr("%1 stands beside the easel. %2").arg(name, words.join(' ')), differs.sentences.size() > 1);
}

void BesideEasel::chooseFolder() {
  if (!watched_.folder().isEmpty()) {
    watched_.watch({});
    emit said(tr("No folder is watched any more."), false);
  } else {
    const QString folder = QFileDialog::getExistingDirectory(window_, tr("The folder that pictures arrive in"));
    if (!folder.isEmpty()) watch(folder);
  }
  emit watching(!watched_.folder().isEmpty());  // not as its entry of the menu was pressed
}

}  // namespace easel::app
