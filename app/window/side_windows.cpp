#include "window/side_windows.h"

#include "document/kit_file.h"
#include "render/picture_image.h"
#include "widgets/wording.h"
#include "window/main_window.h"

namespace easel::app {

SideWindows::SideWindows(const Bench& bench, RenderLink* link, MainWindow* window)
    : QObject(window), bench_(bench), link_(link), window_(window) {
  connect(bench_.viewed, &ViewedPlan::replaced, this, [this] {
    bench_.ledge->setSeries({});
    lastSeries_ = {};
  });
  connect(bench_.easel, &EaselView::sharpWanted, this, &SideWindows::wishSharp);
}

void SideWindows::bringUp(QWidget* window) {
  window->show();
  window->raise();
  window->activateWindow();
}

KitDialog* SideWindows::madeKit() {
  if (!kit_) {
    kit_ = new KitDialog(bench_.viewed, window_);
    connect(kit_, &KitDialog::said, this, &SideWindows::said);
  }
  return kit_;
}

void SideWindows::openKit() {
  madeKit()->show();
  kit_->raise();
}

void SideWindows::openLooks() {
  if (!looks_) {
    looks_ = new LooksDialog(bench_.viewed, window_);
    connect(looks_, &LooksDialog::tryOut, bench_.onEasel, &OnEasel::tryOut);
    connect(looks_, &LooksDialog::taken, bench_.onEasel, &OnEasel::takeOver);
    connect(looks_, &LooksDialog::said, this, &SideWindows::said);
    connect(bench_.viewed, &ViewedPlan::changed, looks_, &LooksDialog::refreshShelf);
  }
  bringUp(looks_);
}

void SideWindows::openSeries() {
  if (!series_) {
    series_ = new SeriesDialog(bench_.viewed, window_);
    connect(series_, &SeriesDialog::made, this,
            [this](const std::vector<SeriesPicture>& pictures, const QString& title) {
              lastSeries_ = {pictures, title};
              bench_.ledge->setSeries(pictures);
              bench_.ledge->setMode(LedgeView::Mode::Series);
            });
    connect(series_, &SeriesDialog::said, this, &SideWindows::said);
  }
  series_->setLight(window_->selectedLight());
  // Over the cards: the picture and the ledge, where the series goes, stay free.
  if (!series_->isVisible()) {
    series_->adjustSize();
    series_->move(window_->mapToGlobal(
        QPoint(window_->width() - series_->width() - 16, window_->height() - series_->height() - 40)));
  }
  bringUp(series_);
}

void SideWindows::openDevices() {
  if (!devices_) devices_ = new DevicesDialog(&DeviceHub::current(), window_);
  bringUp(devices_);
}

void SideWindows::makeJournal() {
  journal_ = new JournalDialog(window_);
  connect(journal_, &JournalDialog::said, this, &SideWindows::said);
  connect(journal_, &JournalDialog::takeWanted, this,
          [this](const StudioCorrections& corrections) { madeKit()->takeCorrections(corrections); });
  connect(journal_, &JournalDialog::dropWanted, this,
          [this](const QString& studio) { madeKit()->dropCorrections(studio.toStdString()); });
  connect(journal_, &JournalDialog::repeatWanted, this, [this](const Plan& plan, const QString& title) {
    // Another plan than the open one: it gets a file of its own, or none.
    MainWindow* window = window_->files()->openUntitled(plan);
    window->showStage(QStringLiteral("Run"));
    window->showNotice(tr("The session %1 as a plan of its own. Save it to keep it.").arg(title));
  });
}

void SideWindows::openJournal() {
  if (journal_)
    journal_->refresh();
  else
    makeJournal();
  bringUp(journal_);
}

void SideWindows::openSheet() {
  if (!sheet_) {
    sheet_ = new SheetDialog(window_);
    connect(sheet_, &SheetDialog::said, this, &SideWindows::said);
  }
  const Plan& plan = bench_.viewed->plan();
  const auto latest = link_->latest();
  SheetWish wish;
  wish.spelling = Preferences::current().spelling();
  wish.school = Preferences::current().ratios;
  wish.kit = KitFile::current().kit();
  if (latest) wish.traced = {latest->plan, latest->layers};
  SheetSubject subject = sheetsOf(plan, wish);
  // What stands on ledge and easel for a pupil or a client goes onto paper too.
  if (!lastSeries_.pictures.empty())
    subject.kinds.push_back({QStringLiteral("series"), tr("The last series"),
                             [s = lastSeries_.pictures, title = plan.title, what = lastSeries_.title.toStdString()](
                                 const auto&) { return seriesPagesOf(s, title, what); },
                             "series"});
  if (!bench_.easel->before().isNull() && latest && !latest->picture.rgba.empty())
    subject.kinds.push_back({QStringLiteral("compared"), tr("Before and after"),
                             [before = pictureOf(bench_.easel->before()), after = latest->picture,
                              title = plan.title](const auto&) { return comparedPagesOf(title, before, after); },
                             "before-and-after"});
  sheet_->present(subject);
}

void SideWindows::openPicture() {
  if (!picture_) {
    picture_ = new PictureWindow(window_);
    connect(picture_->easel(), &EaselView::sharpWanted, this, &SideWindows::wishSharp);
    connect(picture_, &PictureWindow::closed, this, &SideWindows::wishSharp);
    showResult();
  }
  picture_->show();
  picture_->raise();
}

void SideWindows::showResult() {
  if (picture_ && link_->latest()) picture_->easel()->setResult(link_->latest(), link_->upToDate());
}

void SideWindows::wishSharp() {
  if (!window_->sharp()) return;
  const SharpWish here = bench_.easel->wish();
  const SharpWish there = picture_ && picture_->isVisible() ? picture_->easel()->wish() : SharpWish{};
  link_->setSharp(there.width > here.width ? there : here);
}

}  // namespace easel::app
