// What goes in and out of the main window: plans, pictures, readings.
#include <QApplication>
#include <QBuffer>
#include <QClipboard>
#include <QDragEnterEvent>
#include <QDropEvent>
#include <QFileDialog>
#include <QFileInfo>
#include <QMenu>
#include <QMessageBox>
#include <QMimeData>
#include <QPushButton>
#include <QSettings>
#include <QUrl>
#include <utility>

#include "dialogs/ask_save_name.h"
#include "files/atomic_file.h"
#include "formats/ies_file.h"
#include "formats/plan_json.h"
#include "meter/spots.h"
#include "plan/lamp.h"
#include "render/picture_image.h"
#include "sheet/packed_plan.h"
#include "widgets/wording.h"
#include "window/main_window.h"

namespace easel::app {

const char* const kPlanFilter =
    QT_TRANSLATE_NOOP("easel::app::MainWindow",
                      "Plans, days, and sheets that hold a plan (*.easel.json *.day.json *.pdf);;All files (*)");

MainWindow* MainWindow::another() {
  auto* window = new MainWindow;
  window->setAttribute(Qt::WA_DeleteOnClose);
  window->show();
  return window;
}

void MainWindow::newPlan() {
  if (document_->untouched()) {
    document_->startNew();
    return showNotice(tr("A new plan with one key light."));
  }
  MainWindow* window = another();
  window->move(pos() + QPoint(36, 36));
  window->showNotice(tr("A new plan with one key light, in a window of its own."));
}

void MainWindow::openDialog() {
  const QString f =
      QFileDialog::getOpenFileName(this, tr("Open a plan"), QFileInfo(document_->file()).path(), tr(kPlanFilter));
  if (!f.isEmpty()) openWanted(pathOf(f));
}

void MainWindow::behind(const std::function<Strand::Report()>& work) {
  disk_.attempt(work, [this](const QString& why) { showNotice(why, true); });
}

void MainWindow::writeBehind(const std::filesystem::path& file, const std::function<std::string()>& bytes,
                             const QString& done) {
  behind([this, file, bytes, done]() -> Strand::Report {
    writeFileAtomically(file, bytes());
    return [this, done] { showNotice(done); };
  });
}

void MainWindow::openWanted(const std::filesystem::path& file, const std::optional<Plan>& copy) {
  if (file.string().ends_with(".day.json")) return openDay(file);
  // Read before a window is made for it: what cannot be opened is told here.
  showNotice(tr("Opening %1...").arg(shownName(file.filename())));
  behind([this, file, copy]() -> Strand::Report {
    std::error_code none;
    if (copy && !std::filesystem::exists(file, none)) return [this, plan = *copy] { openUntitled(plan); };
    return [this, file, read = readPlanFile(file)] {
      for (QWidget* w : QApplication::topLevelWidgets())
        if (auto* other = qobject_cast<MainWindow*>(w);
            other && !read.file.path.empty() && other->document_->session()->trueName() == read.file.trueName) {
          other->raise();
          other->activateWindow();
          other->showNotice(tr("%1 is open here already.").arg(shownName(file.filename())));
          return;
        }
      MainWindow* window = document_->untouched() ? this : another();
      if (window != this) {
        showNotice({});
        window->move(pos() + QPoint(36, 36));
      }
      window->take(read, file);
    };
  });
}

bool MainWindow::openFile(const std::filesystem::path& file) {
  return attempt([&] { take(readPlanFile(file), file); });
}

void MainWindow::take(const ReadPlan& read, const std::filesystem::path& file) {
  onEasel_->reset();
  document_->take(read);
  const QString name = shownName(file.filename());
  if (document_->path().empty())
    return showNotice(tr("The plan that %1 carries. It has no file of its own yet: save it.").arg(name));
  remember(file);
  if (document_->session()->openElsewhere())
    showNotice(tr("%1 is open in another window too: whichever saves last would win. Save one of them under another "
                  "name.")
                   .arg(name),
               true);
  else if (!dataProblem_.isEmpty())
    showNotice(std::exchange(dataProblem_, {}),
               true);  // said once more: nobody has read it before the first plan stood
  else
    showNotice(tr("Opened %1.").arg(name));
}

MainWindow* MainWindow::openUntitled(const Plan& plan) {
  MainWindow* window = document_->untouched() ? this : another();
  window->onEasel_->reset();
  window->document_->startFrom(plan);
  window->raise();
  window->activateWindow();
  return window;
}

void MainWindow::pastePlan() {
  attempt([&] {
    const std::string text = QApplication::clipboard()->text().trimmed().toStdString();
    if (text.empty())
      throw std::runtime_error(
          tr("There is no text to paste. Copy what the code on a sheet says, or a plan's file.").toStdString());
    const Plan plan = looksPacked(text) ? unpackedPlan(text) : readPlanText(text);
    openUntitled(plan)->showNotice(
        tr("Pasted: %1. It has no file of its own yet: save it.").arg(QString::fromStdString(plan.title)));
  });
}

void MainWindow::openSheet() {
  if (!sheet_) {
    sheet_ = new SheetDialog(this);
    connect(sheet_, &SheetDialog::said, this, &MainWindow::showNotice);
  }
  SheetWish wish;
  wish.spelling = Preferences::current().spelling();
  wish.school = Preferences::current().ratios;
  wish.kit = KitFile::current().kit();
  if (const auto latest = link_.latest()) wish.traced = {latest->plan, latest->layers};
  SheetSubject subject = sheetsOf(document_->plan(), wish);
  // What stands on ledge and easel for a pupil or a client goes onto paper too.
  const std::string title = document_->plan().title;
  if (!lastSeries_.pictures.empty())
    subject.kinds.push_back({QStringLiteral("series"), tr("The last series"),
                             [s = lastSeries_.pictures, title, what = lastSeries_.title.toStdString()](const auto&) {
                               return seriesPagesOf(s, title, what);
                             },
                             "series"});
  if (easel_->hasBefore() && link_.latest() && !link_.latest()->picture.rgba.empty())
    subject.kinds.push_back({QStringLiteral("compared"), tr("Before and after"),
                             [before = pictureOf(easel_->before()), after = link_.latest()->picture,
                              title](const auto&) { return comparedPagesOf(title, before, after); },
                             "before-and-after"});
  sheet_->present(subject);
}

DayWindow* MainWindow::dayOf() {
  for (QWidget* w : QApplication::topLevelWidgets())
    if (auto* day = qobject_cast<DayWindow*>(w)) return day;
  return nullptr;
}

void MainWindow::openDay() {
  DayWindow* window = dayOf();
  if (!window) {
    window = new DayWindow([] {
      std::vector<DayWindow::OpenPlan> all;
      for (QWidget* w : QApplication::topLevelWidgets())
        if (auto* other = qobject_cast<MainWindow*>(w))
          all.push_back({other->document_->displayName(), other->document_->plan(), other->document_->path()});
      return all;
    });
    window->setAttribute(Qt::WA_DeleteOnClose);
    window->setQuiet(quiet_);
    // Whichever window is there: the one that asked may be closed by then.
    connect(window, &DayWindow::planWanted, qApp, [](const Plan& plan, const std::filesystem::path& file) {
      MainWindow* here = nullptr;
      for (QWidget* w : QApplication::topLevelWidgets())
        if (auto* open = qobject_cast<MainWindow*>(w); open && open->isVisible()) here = open;
      if (!here) here = another();
      if (!file.empty()) return here->openWanted(file, plan);
      here->openUntitled(plan);
    });
    window->recoverUnsaved();
  }
  window->show();
  window->raise();
  window->activateWindow();
}

void MainWindow::openDay(const std::filesystem::path& file) {
  openDay();
  dayOf()->openWanted(file);
}

void MainWindow::dragEnterEvent(QDragEnterEvent* e) {
  for (const QUrl& url : e->mimeData()->urls())
    if (url.isLocalFile()) return e->acceptProposedAction();
}

void MainWindow::dropEvent(QDropEvent* e) {
  for (const QUrl& url : e->mimeData()->urls())
    if (url.isLocalFile()) {
      // The bytes of the name as they are: it need not be text.
      const QByteArray bytes = QByteArray::fromPercentEncoding(url.path(QUrl::FullyEncoded).toLatin1());
      openWanted(std::string(bytes.constData(), size_t(bytes.size())));
    }
  e->acceptProposedAction();
}

void MainWindow::recoverUnsaved(bool take) {
  behind([this, take]() -> Strand::Report {
    SessionFile::Leftovers found = SessionFile::leftovers(Document::kind());
    const bool aDay = !SessionFile::leftovers(DayDocument::kind()).all.empty();
    std::optional<SessionFile::Recovered> brought;
    if (take) brought = SessionFile::recoverFirst(Document::kind(), found.all);
    return [this, found, aDay, brought] {
      if (brought)
        bringBack(*brought, tr("Brought back the unsaved plan of the last session. Save it, or close it without "
                               "saving."));
      if (!found.unreadable.isEmpty())
        showNotice(tr("An autosaved plan of an earlier session cannot be read. It is kept: %1")
                       .arg(found.unreadable.join(QStringLiteral(", "))),
                   true);
      offerUnsaved(found.all, aDay);
    };
  });
}

// Into a window of its own when this one is in use.
void MainWindow::bringBack(const SessionFile::Recovered& recovered, const QString& notice) {
  MainWindow* window = document_->untouched() ? this : another();
  window->onEasel_->reset();
  window->document_->takeOver(recovered);
  window->showNotice(notice);
}

void MainWindow::offerUnsaved(const std::vector<SessionFile::Leftover>& plans, bool aDay) {
  if (plans.empty()) {
    if (aDay) offer(tr("Unsaved from before: a shooting day"), tr("Opens it in its window."), [this] { openDay(); });
    return;
  }
  QStringList titles;
  for (const SessionFile::Leftover& l : plans) titles << l.title;
  offer(plans.size() == 1 ? tr("Unsaved from before: one plan") : tr("Unsaved from before: %1 plans").arg(plans.size()),
        tr("Opens each in a window of its own: %1").arg(titles.join(QStringLiteral(", "))), [this, plans] {
          for (const SessionFile::Leftover& l : plans)
            behind([this, l]() -> Strand::Report {
              const auto recovered = SessionFile::recover(Document::kind(), l);
              if (!recovered) return {};
              return [this, recovered] {
                bringBack(*recovered, tr("Brought back what an earlier session left unsaved."));
              };
            });
        });
}

void MainWindow::offer(const QString& text, const QString& tip, const std::function<void()>& work) {
  offered_ = work;
  offer_->setText(text);
  offer_->setToolTip(tip);
  offer_->show();
}

void MainWindow::remember(const std::filesystem::path& file) {
  std::error_code none;
  const QString absolute = shownName(std::filesystem::absolute(file, none));
  if (pathOf(absolute) != std::filesystem::absolute(file, none)) return;  // no text: the list could not open it again
  QSettings s;
  QStringList all = s.value("recent").toStringList();
  all.removeAll(absolute);
  all.prepend(absolute);
  s.setValue("recent", all.mid(0, 8));
}

void MainWindow::fillRecent() {
  recent_->clear();
  for (const QString& f : QSettings().value("recent").toStringList())
    recent_->addAction(f, this, [this, f] { openWanted(pathOf(f)); });
  if (recent_->isEmpty()) recent_->addAction(tr("None yet"))->setEnabled(false);
}

void MainWindow::exportPicture() {
  const QString f = askSaveName(this, tr("Export the picture"), document_->displayName() + ".png",
                                tr("PNG pictures (*.png)"), QStringLiteral(".png"));
  if (f.isEmpty()) return;
  writeBehind(
      pathOf(f),
      [picture = easel_->sharpPicture()] {
        QByteArray bytes;
        QBuffer out(&bytes);
        out.open(QIODevice::WriteOnly);
        picture.save(&out, "PNG");
        return bytes.toStdString();
      },
      tr("The picture is in %1.").arg(QFileInfo(f).fileName()));
}

void MainWindow::exportIes() {
  const Light* l = document_->plan().light(selected_.toStdString());
  const Unit* u = l ? findUnit(l->unit) : nullptr;
  if (!u || !findModifier(l->modifier)) return showNotice(tr("Choose a light first."), true);
  const QString f =
      askSaveName(this, tr("Save the profile of light %1").arg(selected_), QString::fromStdString(l->modifier) + ".ies",
                  tr("IES photometry (*.ies)"), QStringLiteral(".ies"));
  if (f.isEmpty()) return;
  writeBehind(
      pathOf(f),
      [front = frontOf(*l), lumenSeconds = u->lumenSeconds(0, 1), watts = u->modellingWatts] {
        return writeIesText(front, lumenSeconds, watts);
      },
      tr("The profile is in %1.").arg(QFileInfo(f).fileName()));
}

void MainWindow::exportReadings() {
  const auto& r = link_.latest();
  if (!r || !r->layers || !r->layers->scene || !r->problem.empty()) {
    showNotice(tr("There are no readings yet."), true);
    return;
  }
  const QString f = askSaveName(this, tr("Export readings"), document_->displayName() + ".csv",
                                tr("CSV tables (*.csv)"), QStringLiteral(".csv"));
  if (f.isEmpty()) return;
  showNotice(tr("Reading every light at every spot..."));
  writeBehind(
      pathOf(f),
      [scene = r->layers->scene, set = r->set] { return writeSpotCsv(spotTable(*scene, *set), set->camera); },
      tr("The readings are in %1.").arg(QFileInfo(f).fileName()));
}

}  // namespace easel::app
