// The window's part in reading the picture: when it is read, what of it lies on the easel, the shelf, a picture beside.
#include <QButtonGroup>
#include <QFileDialog>
#include <QFileInfo>
#include <QImageReader>
#include <QPushButton>
#include <QStackedWidget>

#include "widgets/wording.h"
#include "window/main_window.h"

namespace easel::app {

void MainWindow::readingArrived() {
  read_->setReading(reading_->latest());
  const int faults = reading_->latest()->count();
  stages_->button(3)->setText(faults ? tr("Read (%1)").arg(faults) : tr("Read"));
  showEvidence();
}

void MainWindow::showEvidence() {
  const auto& reading = read_->reading();
  if (cards_->currentIndex() != 3 || !reading || onEasel_->tryingOut() || !readIsCurrent() ||
      onEasel_->show().what != Show::What::All) {
    easel_->setEvidence({}, {}, {});
    return;
  }
  std::vector<EaselView::Trace> traces;
  std::vector<EaselView::Mark> marks;
  std::vector<Vec3> places;
  const QString page = read_->page();
  if (page == "Pattern") {
    const LightingReading& l = reading->lighting;
    traces.push_back({l.terminator, 2, {}});
    traces.push_back({l.noseShadow, 0, tr("nose's shadow")});
    traces.push_back({l.triangle, 1, tr("lit triangle")});
  } else if (page == "Measures") {
    const Measures& m = reading->measures;
    for (int i = 0; i < int(m.outline.size()); ++i)
      if (const OutlinePlace& o = m.outline[size_t(i)]; i == m.weakest || o.merges())
        marks.push_back({{double(o.pixel.x), double(o.pixel.y)}, i == m.weakest ? tr("weakest edge") : QString()});
    if (m.backdropShows)
      marks.push_back({{double(m.backdropBrightest.x), double(m.backdropBrightest.y)}, tr("brightest backdrop")});
  } else if (page == "Faults") {
    if (const Fault* f = reading->fault(read_->chosenFault().toStdString(), read_->chosenWhere().toStdString())) {
      places = f->places;
      if (f->id == "merged-outline")
        for (const OutlinePlace& o : reading->measures.outline)
          if (o.part != OutlinePlace::Part::Shoulder && o.merges())
            marks.push_back({{double(o.pixel.x), double(o.pixel.y)}, {}});
    }
  }
  easel_->setEvidence(traces, std::move(marks), places);
}

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
