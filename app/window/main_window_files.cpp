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
#include <QThread>
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
namespace {
const char* const kFileFilter =
    QT_TRANSLATE_NOOP("easel::app::MainWindow",
                      "Plans, days, and sheets that hold a plan (*.easel.json *.day.json *.pdf);;All files (*)");
}  // namespace

bool MainWindow::mayDrop() {
  if (quiet_ || !document_->modified()) return true;
  const BeforeItGoes answer = askBeforeItGoes(this, document_->displayName());
  return answer == BeforeItGoes::Save ? save() : answer == BeforeItGoes::Discard;
}

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
      QFileDialog::getOpenFileName(this, tr("Open a plan"), QFileInfo(document_->file()).path(), tr(kFileFilter));
  if (!f.isEmpty()) openWanted(pathOf(f));
}

void MainWindow::openWanted(const std::filesystem::path& file) {
  if (file.string().ends_with(".day.json")) return openDay(file);
  std::error_code none;
  for (QWidget* w : QApplication::topLevelWidgets())
    if (auto* other = qobject_cast<MainWindow*>(w); other && !other->document_->path().empty() &&
                                                    std::filesystem::equivalent(other->document_->path(), file, none)) {
      other->raise();
      other->activateWindow();
      other->showNotice(tr("%1 is open here already.").arg(shownName(file.filename())));
      return;
    }
  if (document_->untouched()) {
    openFile(file);
    return;
  }
  // Read once before a window is made for it: what cannot be opened is told here.
  if (!attempt([&] { openPlan(file); })) return;
  MainWindow* window = another();
  window->move(pos() + QPoint(36, 36));
  window->openFile(file);
}

bool MainWindow::openFile(const std::filesystem::path& file) {
  return attempt([&] {
    onEasel_->reset();
    if (std::filesystem::path(file).extension() == ".pdf") {
      document_->startFrom(openPlan(file));
      return showNotice(
          tr("The plan that %1 carries. It has no file of its own yet: save it.").arg(shownName(file.filename())));
    }
    document_->open(file);
    remember(file);
    if (document_->openElsewhere())
      showNotice(tr("%1 is open in another window too: whichever saves last would win. Save one of them under another "
                    "name.")
                     .arg(shownName(file.filename())),
                 true);
    else if (!dataProblem_.isEmpty())
      showNotice(std::exchange(dataProblem_, {}),
                 true);  // said once more: nobody has read it before the first plan stood
    else
      showNotice(tr("Opened %1.").arg(shownName(file.filename())));
  });
}

void MainWindow::pastePlan() {
  attempt([&] {
    const std::string text = QApplication::clipboard()->text().trimmed().toStdString();
    if (text.empty())
      throw std::runtime_error(
          tr("There is no text to paste. Copy what the code on a sheet says, or a plan's file.").toStdString());
    const Plan plan = looksPacked(text) ? unpackedPlan(text) : readPlanText(text);
    MainWindow* window = document_->untouched() ? this : another();
    window->onEasel_->reset();
    window->document_->startFrom(plan);
    window->showNotice(
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
  wish.kit = kit()->kit();
  if (link_.latest()) wish.traced = link_.latest()->layers;
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
      for (QWidget* w : QApplication::topLevelWidgets())
        if (auto* here = qobject_cast<MainWindow*>(w)) {
          std::error_code none;
          if (!file.empty() && std::filesystem::exists(file, none)) return here->openWanted(file);
          MainWindow* to = here->document_->untouched() ? here : another();
          to->onEasel_->reset();
          to->document_->startFrom(plan);
          return;
        }
    });
    if (window->document()->recover()) window->say(tr("Brought back the unsaved day of the last session."), false);
  }
  window->desk()->setKit(kit()->kit());
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

bool MainWindow::recoverUnsaved(bool take) {
  const Document::Leftovers found = Document::leftovers();
  leftovers_ = found.plans;
  bool taken = false;
  while (take && !taken && !leftovers_.empty()) {
    taken = document_->takeOver(leftovers_.front());
    leftovers_.erase(leftovers_.begin());
  }
  if (taken) showNotice(tr("Brought back the unsaved plan of the last session. Save it, or close it without saving."));
  if (!found.unreadable.isEmpty())
    showNotice(tr("An autosaved plan of an earlier session cannot be read. It is kept: %1")
                   .arg(found.unreadable.join(QStringLiteral(", "))),
               true);
  if (leftovers_.empty() && DayDocument::leftover())
    offer(tr("Unsaved from before: a shooting day"), tr("Opens it in its window."), [this] { openDay(); });
  if (!leftovers_.empty()) {
    QStringList titles;
    for (const Document::Leftover& l : leftovers_) titles << l.title;
    offer(leftovers_.size() == 1 ? tr("Unsaved from before: one plan")
                                 : tr("Unsaved from before: %1 plans").arg(leftovers_.size()),
          tr("Opens each in a window of its own: %1").arg(titles.join(QStringLiteral(", "))), [this] {
            for (const Document::Leftover& l : std::exchange(leftovers_, {})) {
              MainWindow* window = another();
              if (window->document_->takeOver(l))
                window->showNotice(tr("Brought back what an earlier session left unsaved."));
              else
                window->close();
            }
          });
  }
  return taken;
}

void MainWindow::offer(const QString& text, const QString& tip, const std::function<void()>& work) {
  offered_ = work;
  offer_->setText(text);
  offer_->setToolTip(tip);
  offer_->show();
}

bool MainWindow::saveTo(const std::filesystem::path& file) {
  std::error_code none;
  const bool own = !document_->path().empty() && std::filesystem::equivalent(file, document_->path(), none);
  if (own && document_->changedOutside() && !quiet_) {
    const OverChanged answer = askOverChanged(this, file);
    if (answer == OverChanged::SaveAs) return saveAs();
    if (answer == OverChanged::Leave) return false;
  }
  return attempt([&] {
    document_->saveTo(file);
    remember(file);
    showNotice(tr("Saved as %1.").arg(shownName(file.filename())));
  });
}

bool MainWindow::save() { return document_->path().empty() ? saveAs() : saveTo(document_->path()); }

bool MainWindow::saveAs() {
  QString start = document_->file();
  if (start.isEmpty()) start = QString::fromStdString(document_->plan().title).replace('/', '-') + ".easel.json";
  const QString f =
      askSaveName(this, tr("Save the plan"), start, tr(kFileFilter), QStringLiteral(".easel.json"), document_->path());
  return !f.isEmpty() && saveTo(pathOf(f));
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
  attempt([&] {
    QByteArray bytes;
    QBuffer out(&bytes);
    out.open(QIODevice::WriteOnly);
    easel_->sharpPicture().save(&out, "PNG");
    writeFileAtomically(pathOf(f), std::string_view(bytes.constData(), size_t(bytes.size())));
    showNotice(tr("The picture is in %1.").arg(QFileInfo(f).fileName()));
  });
}

void MainWindow::exportIes() {
  const Light* l = document_->plan().light(selected_.toStdString());
  const Unit* u = l ? findUnit(l->unit) : nullptr;
  if (!u || !findModifier(l->modifier)) return showNotice(tr("Choose a light first."), true);
  const QString f =
      askSaveName(this, tr("Save the profile of light %1").arg(selected_), QString::fromStdString(l->modifier) + ".ies",
                  tr("IES photometry (*.ies)"), QStringLiteral(".ies"));
  if (f.isEmpty()) return;
  attempt([&] {
    writeFileAtomically(pathOf(f), writeIesText(frontOf(*l), u->lumenSeconds(0, 1), u->modellingWatts));
    showNotice(tr("The profile is in %1.").arg(QFileInfo(f).fileName()));
  });
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
  // On a thread of its own: many lights at many spots take longer than a frame.
  if (exporting_) exporting_->wait();
  QThread* job = exporting_ = QThread::create([this, scene = r->layers->scene, plan = r->plan, f] {
    QString said = tr("The readings are in %1.").arg(QFileInfo(f).fileName());
    bool problem = false;
    try {
      writeFileAtomically(pathOf(f), writeSpotCsv(spotTable(*scene, plan), plan));
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
