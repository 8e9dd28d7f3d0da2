#include "day/day_window.h"

#include <QCloseEvent>
#include <QDialog>
#include <QFileDialog>
#include <QMenuBar>
#include <QMessageBox>
#include <QPushButton>
#include <QScrollArea>
#include <QStatusBar>
#include <QTabWidget>
#include <QTextBrowser>
#include <QVBoxLayout>

#include "day/clock_page.h"
#include "day/load_page.h"
#include "day/order_page.h"
#include "day/packing_page.h"
#include "day/people_page.h"
#include "dialogs/ask_save_name.h"
#include "document/document.h"
#include "document/kit_file.h"
#include "document/state_folder.h"
#include "formats/plan_json.h"
#include "propose/propose.h"
#include "widgets/attempt.h"
#include "widgets/fitted_label.h"
#include "widgets/mnemonics.h"
#include "widgets/theme.h"
#include "widgets/watched_application.h"
#include "widgets/within_screen.h"
#include "widgets/wording.h"

namespace easel::app {
namespace {
const char* const kDayFilter = QT_TRANSLATE_NOOP("easel::app::DayWindow", "Shooting days (*.day.json);;All files (*)");
}

DayWindow::DayWindow(OpenPlans openPlans, QWidget* parent)
    : QMainWindow(parent), desk_(new DayDesk(&document_, this)), openPlans_(std::move(openPlans)) {
  setObjectName("dayWindow");
  setWindowFlag(Qt::Window);
  pages_ = new QTabWidget(this);
  pages_->setObjectName("dayPages");
  pages_->setDocumentMode(true);
  order_ = new OrderPage(desk_);
  packing_ = new PackingPage(desk_);
  const auto page = [&](QWidget* w, const char* id, const QString& name) {
    // Where the screen is smaller than a page, the page is scrolled.
    auto* frame = new QScrollArea;
    frame->setProperty("page", QString::fromLatin1(id));
    frame->setFrameShape(QFrame::NoFrame);
    frame->setWidgetResizable(true);
    frame->setWidget(w);
    pages_->addTab(frame, name);
  };
  page(order_, "Order", tr("&Order"));
  page(new PeoplePage(desk_), "People", tr("&People and room"));
  page(new ClockPage(desk_), "Clock", tr("Running &clock"));
  page(packing_, "Packing", tr("Pac&king"));
  page(new LoadPage(desk_), "Load", tr("Loa&d and cautions"));
  setCentralWidget(pages_);
  notice_ = new FittedLabel(0.8, this);
  notice_->setObjectName("dayNotice");
  statusBar()->addWidget(notice_, 1);
  buildMenus();
  saving_ = new DocumentSaving(
      {document_.session(), tr("Save the day"), tr(kDayFilter), QStringLiteral(".day.json"),
       [this] { return displayName(); }, [this] { return QString::fromStdString(document_.day().title); },
       [this] { return document_.modified(); },
       [this](const std::filesystem::path& to, SessionFile::Over over) { document_.saveTo(to, over); }},
      this);
  connect(saving_, &DocumentSaving::said, this, &DayWindow::say);
  desk_->setKit(KitFile::current().kit());
  connect(&KitFile::current(), &KitFile::changed, this, [this] { desk_->setKit(KitFile::current().kit()); });
  if (auto* application = qobject_cast<WatchedApplication*>(qApp))
    connect(application, &WatchedApplication::failed, this, [this](const QString& why) { say(why, true); });
  connect(&document_, &DayDocument::changed, this, &DayWindow::refresh);
  connect(&document_, &DayDocument::stateChanged, this, &DayWindow::refresh);
  connect(&document_, &DayDocument::said, this, &DayWindow::say);
  connect(desk_, &DayDesk::said, this, &DayWindow::say);
  connect(packing_, &PackingPage::said, this, &DayWindow::say);
  connect(&work_, &BackgroundTask::failed, this, [this](const QString& why) { say(why, true); });
  connect(order_, &OrderPage::planWanted, this, [this](int i) {
    if (i < 0 || i >= int(document_.day().looks.size())) return;
    const DayLook& l = document_.day().looks[size_t(i)];
    emit planWanted(l.plan, l.file.empty() ? std::filesystem::path() : document_.folder() / l.file);
  });
  resizeWithin(this, QSize(1180, 760) * Theme::current().scale);
  refresh();
}

// Pages ask the desk and the desk the document, also while they go.
DayWindow::~DayWindow() {
  delete pages_;
  delete desk_;
}

void DayWindow::buildMenus() {
  const auto add = [this](QMenu* menu, const QString& text, const QKeySequence& key, auto work) {
    auto* a = menu->addAction(text);
    a->setShortcut(key);
    connect(a, &QAction::triggered, this, work);
    return a;
  };
  auto* file = menuBar()->addMenu(tr("&File"));
  add(file, tr("&New day"), QKeySequence::New, [this] { saving_->beforeItGoes([this] { document_.startNew(); }); });
  add(file, tr("&Open..."), QKeySequence::Open, [this] {
    const QString f =
        QFileDialog::getOpenFileName(this, tr("Open a day"), shownName(document_.folder()), tr(kDayFilter));
    if (!f.isEmpty()) openWanted(pathOf(f));
  });
  add(file, tr("&Save"), QKeySequence::Save, [this] { saving_->save(); });
  add(file, tr("Save &as..."), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_S), [this] { saving_->saveAs(); });
  file->addSeparator();
  add(file, tr("Shee&ts: print or export..."), QKeySequence::Print, [this] { openSheets(); });
  file->addSeparator();
  add(file, tr("&Close"), QKeySequence::Close, [this] { close(); });
  auto* edit = menuBar()->addMenu(tr("&Edit"));
  undo_ = add(edit, tr("&Undo"), QKeySequence::Undo, [this] { document_.undo(); });
  redo_ = add(edit, tr("&Redo"), {}, [this] { document_.redo(); });
  redo_->setShortcuts({QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_Z), QKeySequence(Qt::CTRL | Qt::Key_Y)});
  auto* look = menuBar()->addMenu(tr("&Look"));
  open_ = look->addMenu(tr("Add an &open plan"));
  add(look, tr("Add from a &file..."), QKeySequence(Qt::CTRL | Qt::Key_L), [this] {
    for (const QString& f : QFileDialog::getOpenFileNames(this, tr("Add plans"), shownName(document_.folder()),
                                                          tr("Jolly Easel plans (*.easel.json);;All files (*)")))
      addFile(pathOf(f));
  });
  shelf_ = look->addMenu(tr("Add from the &shelf"));
  journal_ = look->addMenu(tr("Add from the &journal"));
  look->addSeparator();
  add(look, tr("&Earlier"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_Up), [this] { order_->moveChosen(-1); });
  add(look, tr("&Later"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_Down), [this] { order_->moveChosen(1); });
  add(look, tr("&Detach from its file"), {}, [this] { desk_->cutLoose(order_->chosen()); });
  add(look, tr("Re&move"), QKeySequence(Qt::CTRL | Qt::Key_Backspace), [this] { desk_->remove(order_->chosen()); });
  add(look, tr("Put in the &best order"), QKeySequence(Qt::CTRL | Qt::Key_B), [this] { desk_->putInBestOrder(); });
  auto* view = menuBar()->addMenu(tr("&View"));
  const int keys[] = {Qt::Key_F5, Qt::Key_F6, Qt::Key_F7, Qt::Key_F8, Qt::Key_F9};
  for (int i = 0; i < pages_->count(); ++i)
    add(view, pages_->tabText(i), QKeySequence(keys[i]), [this, i] { pages_->setCurrentIndex(i); });
  connect(look, &QMenu::aboutToShow, this, &DayWindow::fillAdd);
  auto* help = menuBar()->addMenu(tr("&Help"));
  add(help, tr("&Keys and pages"), QKeySequence::HelpContents, [this] { showHelp(); });
}

void DayWindow::showHelp() {
  auto* d = new QDialog(this);
  d->setObjectName("dayHelp");
  d->setAttribute(Qt::WA_DeleteOnClose);
  d->setWindowTitle(tr("Keys and pages"));
  d->resize(620, 560);
  QString html = "<h3>" + tr("Keys") + "</h3>" + keysAsHtml(menuBar());
  const QStringList pages{
      tr("<b>Order</b>: looks come from the menu Look. The line shows when each set is changed (hatched) and shot "
         "(full), with the breaks and who is there. Choose a look to see what is moved for it and why it stands there. "
         "What has to be first, last or after another is kept by the best order; backdrops go up once unless you say "
         "otherwise. If the day is too short, the list says what to drop or to simplify."),
      tr("<b>People and room</b>: type into the empty last row for one more; Delete takes a row "
         "out. Make-up is done by one artist, beside the photography, in "
         "the order of the first looks."),
      tr("<b>Running clock</b>: Space or Enter for the first frame of a look and again when it is "
         "done. The ticks go into the journal, which learns your own pace."),
      tr("<b>Packing</b>: the first box when it is packed, the second when it is packed again to go home. For what the "
         "kit lacks, it says what could stand in."),
      tr("<b>Load and cautions</b>: an estimate for planning. Makers' ratings, local codes and "
         "licensed electricians or riggers decide.")};
  for (const QString& p : pages) html += "<p>" + p + "</p>";
  auto* text = new QTextBrowser(d);
  text->setHtml(html);
  auto* box = new QVBoxLayout(d);
  box->addWidget(text);
  d->show();
}

// What can be added is asked for when the menu opens.
void DayWindow::fillAdd() {
  open_->clear();
  for (const OpenPlan& p : openPlans_ ? openPlans_() : std::vector<OpenPlan>())
    open_->addAction(p.name, this, [this, p] { addPlan(p); });
  if (open_->isEmpty()) open_->addAction(tr("No plan is open"))->setEnabled(false);
  shelf_->clear();
  for (const Look& l : looks())
    shelf_->addAction(QString::fromStdString(l.name), this,
                      [this, id = QString::fromStdString(l.id)] { addFromShelf(id); });
  if (work_.running()) return;
  if (journal_->isEmpty()) journal_->addAction(tr("reading..."))->setEnabled(false);
  work_.start([this](const BackgroundTask::Go&) -> BackgroundTask::Done {
    std::vector<JournalSession> all;
    std::error_code none;
    if (std::filesystem::exists(journalFile(), none)) all = Journal(journalFile()).sessions();
    return [this, all] {
      journal_->clear();
      for (size_t i = 0; i < std::min<size_t>(all.size(), 15); ++i)
        if (!all[i].plan.empty())
          journal_->addAction(tr("%1, %2").arg(QString::fromStdString(all[i].title),
                                               QString::fromStdString(all[i].begun.substr(0, 10))),
                              this, [this, id = all[i].id] { addFromJournal(id); });
      if (journal_->isEmpty()) journal_->addAction(tr("No session yet"))->setEnabled(false);
    };
  });
}

bool DayWindow::working() const {
  return desk_->working() || work_.running() || packing_->working() || disk_.busy() || document_.working();
}

void DayWindow::behind(const std::function<Strand::Report()>& work) {
  disk_.attempt(work, [this](const QString& why) { say(why, true); });
}

void DayWindow::addLook(const std::filesystem::path& file, const std::optional<Plan>& plan) {
  behind([this, file, plan, in = document_.folder()]() -> Strand::Report {
    DayLook look;
    try {
      look = readLook(file, in);
    } catch (const std::exception&) {
      if (!plan) throw;
    }
    if (plan) look.plan = *plan;
    return [this, look] { desk_->add(look); };
  });
}

void DayWindow::addPlan(const OpenPlan& plan) {
  if (!plan.file.empty()) return addLook(plan.file, plan.plan);
  DayLook l;
  l.plan = plan.plan;
  desk_->add(l);
}

void DayWindow::addFile(const std::filesystem::path& file) { addLook(file, {}); }

void DayWindow::addFromShelf(const QString& look) {
  const int at = order_->chosen();
  Plan base = at >= 0 && at < int(document_.day().looks.size()) ? document_.day().looks[size_t(at)].plan
                                                                : Document::freshPlan();
  say(tr("Looking for a set for that look..."), false);
  work_.start([this, base, look](const BackgroundTask::Go& go) -> BackgroundTask::Done {
    Wish wish;
    wish.look = look.toStdString();
    const auto all = propose(wish, base, go, 1);
    if (all.empty()) throw std::runtime_error(tr("Nothing could be proposed for that look.").toStdString());
    return [this, proposed = all.front()] {
      DayLook l;
      l.plan = proposed.plan;
      l.title = proposed.name;
      desk_->add(l);
      say(tr("Added: %1. Its plan is the day's own until it is saved as one.")
              .arg(QString::fromStdString(proposed.name)),
          false);
    };
  });
}

void DayWindow::addFromJournal(std::int64_t session) {
  work_.start([this, session](const BackgroundTask::Go&) -> BackgroundTask::Done {
    for (const JournalSession& s : Journal(journalFile()).sessions())
      if (s.id == session) {
        DayLook l;
        l.plan = readPlanText(s.plan);
        l.title = s.title;
        return [this, l] { desk_->add(l); };
      }
    throw std::runtime_error(tr("That session is no longer in the journal.").toStdString());
  });
}

QString DayWindow::displayName() const {
  return document_.path().empty() ? QString::fromStdString(document_.day().title)
                                  : shownName(document_.path().filename()).remove(QStringLiteral(".day.json"));
}

void DayWindow::refresh() {
  setWindowTitle(tr("%1[*]: shooting day").arg(displayName()));
  setWindowModified(document_.modified());
  undo_->setEnabled(document_.canUndo());
  undo_->setText(document_.canUndo() ? tr("&Undo: %1").arg(document_.undoLabel()) : tr("&Undo"));
  redo_->setEnabled(document_.canRedo());
  redo_->setText(document_.canRedo() ? tr("&Redo: %1").arg(document_.redoLabel()) : tr("&Redo"));
}

void DayWindow::showPage(const QString& id) {
  for (int i = 0; i < pages_->count(); ++i)
    if (pages_->widget(i)->property("page").toString() == id) pages_->setCurrentIndex(i);
}

void DayWindow::say(const QString& sentence, bool problem) {
  notice_->setProperty("problem", problem);
  restyle(notice_);
  notice_->setWords(sentence);
}
QString DayWindow::said() const { return notice_->words(); }

bool DayWindow::attempt(const std::function<void()>& work) {
  return app::attempt(work, [this](const QString& why) { say(why, true); });
}

bool DayWindow::openFile(const std::filesystem::path& file) {
  say({}, false);
  return attempt([&] { document_.take(readDayFile(file)); });
}

void DayWindow::openWanted(const std::filesystem::path& file) {
  behind([this, file]() -> Strand::Report {
    return [this, file, read = readDayFile(file)] {
      if (!document_.path().empty() && document_.session()->trueName() == read.file.trueName)
        return say(tr("%1 is open here already.").arg(shownName(file.filename())), false);
      saving_->beforeItGoes([this, read] {
        say({}, false);
        document_.take(read);
      });
    };
  });
}

void DayWindow::recoverUnsaved() {
  behind([this]() -> Strand::Report {
    SessionFile::Leftovers found = SessionFile::leftovers(DayDocument::kind());
    const auto brought = SessionFile::recoverFirst(DayDocument::kind(), found.all);
    return [this, brought, unreadable = found.unreadable.join(QStringLiteral(", "))] {
      if (brought && document_.untouched()) {
        document_.takeOver(*brought);
        say(tr("Brought back the unsaved day of the last session."), false);
      }
      if (!unreadable.isEmpty())
        say(tr("An autosaved day of an earlier session cannot be read. It is kept: %1").arg(unreadable), true);
    };
  });
}

void DayWindow::closeEvent(QCloseEvent* e) { e->setAccepted(saving_->mayClose()); }

void DayWindow::openSheets() {
  if (!sheet_) {
    sheet_ = new SheetDialog(this);
    connect(sheet_, &SheetDialog::said, this, &DayWindow::say);
  }
  SheetWish wish;
  wish.spelling = Preferences::current().spelling();
  wish.school = Preferences::current().ratios;
  wish.kit = desk_->kit();
  wish.pluggedIn = document_.day().pluggedIn;
  sheet_->present(sheetsOf(document_.day(), wish, desk_->pace()));
}

}  // namespace easel::app
