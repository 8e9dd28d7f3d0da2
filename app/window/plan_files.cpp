#include "window/plan_files.h"

#include <QApplication>
#include <QBuffer>
#include <QClipboard>
#include <QFileDialog>
#include <QFileInfo>
#include <QMenu>
#include <QSettings>

#include "dialogs/ask_save_name.h"
#include "document/day_document.h"
#include "document/state_folder.h"
#include "files/atomic_file.h"
#include "formats/ies_file.h"
#include "formats/plan_json.h"
#include "meter/spots.h"
#include "plan/lamp.h"
#include "sheet/packed_plan.h"
#include "widgets/attempt.h"
#include "widgets/wording.h"
#include "window/main_window.h"
#include "window/plan_windows.h"

namespace easel::app {
namespace {

const char* const kPlanFilter = QT_TRANSLATE_NOOP(
    "easel::app::PlanFiles", "Plans, days, and sheets that hold a plan (*.easel.json *.day.json *.pdf);;All files (*)");

}  // namespace

PlanFiles::PlanFiles(Document* document, MainWindow* window) : QObject(window), document_(document), window_(window) {
  saving_ = new DocumentSaving(
      {document_->session(), tr("Save the plan"), tr(kPlanFilter), QStringLiteral(".easel.json"),
       [this] { return document_->displayName(); }, [this] { return QString::fromStdString(document_->plan().title); },
       [this] { return document_->modified(); },
       [this](const std::filesystem::path& file, SessionFile::Over over) { document_->saveTo(file, over); }},
      window);
  connect(saving_, &DocumentSaving::said, this, &PlanFiles::said);
  connect(saving_, &DocumentSaving::saved, this, &PlanFiles::remember);
}

MainWindow* PlanFiles::untouchedWindow() { return document_->untouched() ? window_ : newPlanWindow(); }

void PlanFiles::startNew() {
  if (document_->untouched()) {
    document_->startNew();
    emit said(tr("A new plan with one key light."), false);
    return;
  }
  MainWindow* window = newPlanWindow();
  window->move(window_->pos() + QPoint(36, 36));
  window->showNotice(tr("A new plan with one key light, in a window of its own."));
}

void PlanFiles::openDialog() {
  const QString f =
      QFileDialog::getOpenFileName(window_, tr("Open a plan"), QFileInfo(document_->file()).path(), tr(kPlanFilter));
  if (!f.isEmpty()) openWanted(pathOf(f));
}

void PlanFiles::behind(const std::function<Strand::Report()>& work) {
  disk_.attempt(work, [this](const QString& why) { refuse(why); });
}

void PlanFiles::writeBehind(const std::filesystem::path& file, const std::function<std::string()>& bytes,
                            const QString& done) {
  behind([this, file, bytes, done]() -> Strand::Report {
    writeFileAtomically(file, bytes());
    return [this, done] { emit said(done, false); };
  });
}

void PlanFiles::openWanted(const std::filesystem::path& file, const std::optional<Plan>& copy) {
  if (file.string().ends_with(".day.json")) return window_->openDay(file);
  // Read before a window is made for it: what cannot be opened is told here.
  emit said(tr("Opening %1...").arg(shownName(file.filename())), false);
  behind([this, file, copy]() -> Strand::Report {
    std::error_code none;
    if (copy && !std::filesystem::exists(file, none)) return [this, plan = *copy] { openUntitled(plan); };
    return [this, file, read = readPlanFile(file)] {
      for (MainWindow* other : planWindows())
        if (!read.file.path.empty() && other->document()->session()->trueName() == read.file.trueName) {
          other->raise();
          other->activateWindow();
          other->showNotice(tr("%1 is open here already.").arg(shownName(file.filename())));
          return;
        }
      MainWindow* window = untouchedWindow();
      if (window != window_) {
        emit said({}, false);
        window->move(window_->pos() + QPoint(36, 36));
      }
      window->files()->take(read, file);
    };
  });
}

bool PlanFiles::openFile(const std::filesystem::path& file) {
  return attempt([&] { take(readPlanFile(file), file); }, [this](const QString& why) { refuse(why); });
}

void PlanFiles::take(const ReadPlan& read, const std::filesystem::path& file) {
  document_->take(read);
  const QString name = shownName(file.filename());
  if (document_->path().empty())
    return emit said(tr("The plan that %1 carries. It has no file of its own yet: save it.").arg(name), false);
  remember(file);
  if (document_->session()->openElsewhere())
    emit said(tr("%1 is open in another window too: whichever saves last would win. Save one of them under another "
                 "name.")
                  .arg(name),
              true);
  else
    emit opened(name);
}

MainWindow* PlanFiles::openUntitled(const Plan& plan) {
  MainWindow* window = untouchedWindow();
  window->document()->startFrom(plan);
  window->raise();
  window->activateWindow();
  return window;
}

void PlanFiles::pastePlan() {
  const auto paste = [&] {
    const std::string text = QApplication::clipboard()->text().trimmed().toStdString();
    if (text.empty())
      throw std::runtime_error(
          tr("There is no text to paste. Copy what the code on a sheet says, or a plan's file.").toStdString());
    const Plan plan = looksPacked(text) ? unpackedPlan(text) : readPlanText(text);
    openUntitled(plan)->showNotice(
        tr("Pasted: %1. It has no file of its own yet: save it.").arg(QString::fromStdString(plan.title)));
  };
  attempt(paste, [this](const QString& why) { refuse(why); });
}

void PlanFiles::recoverUnsaved(bool take) {
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
        emit said(tr("An autosaved plan of an earlier session cannot be read. It is kept: %1")
                      .arg(found.unreadable.join(QStringLiteral(", "))),
                  true);
      offerUnsaved(found.all, aDay);
    };
  });
}

// Into a window of its own when this one is in use.
void PlanFiles::bringBack(const SessionFile::Recovered& recovered, const QString& notice) {
  MainWindow* window = untouchedWindow();
  window->document()->takeOver(recovered);
  window->showNotice(notice);
}

void PlanFiles::offerUnsaved(const std::vector<SessionFile::Leftover>& plans, bool aDay) {
  if (plans.empty()) {
    if (aDay)
      emit offered(tr("Unsaved from before: a shooting day"), tr("Opens it in its window."),
                   [this] { window_->openDay(); });
    return;
  }
  QStringList titles;
  for (const SessionFile::Leftover& l : plans) titles << l.title;
  emit offered(
      plans.size() == 1 ? tr("Unsaved from before: one plan") : tr("Unsaved from before: %1 plans").arg(plans.size()),
      tr("Opens each in a window of its own: %1").arg(titles.join(QStringLiteral(", "))), [this, plans] {
        for (const SessionFile::Leftover& l : plans)
          behind([this, l]() -> Strand::Report {
            const auto recovered = SessionFile::recover(Document::kind(), l);
            if (!recovered) return {};
            return
                [this, recovered] { bringBack(*recovered, tr("Brought back what an earlier session left unsaved.")); };
          });
      });
}

void PlanFiles::remember(const std::filesystem::path& file) {
  std::error_code none;
  const QString absolute = shownName(std::filesystem::absolute(file, none));
  if (pathOf(absolute) != std::filesystem::absolute(file, none)) return;  // no text: the list could not open it again
  QSettings s;
  QStringList all = s.value("recent").toStringList();
  all.removeAll(absolute);
  all.prepend(absolute);
  s.setValue("recent", all.mid(0, 8));
}

void PlanFiles::listRecent(QMenu* menu) {
  menu->clear();
  for (const QString& f : QSettings().value("recent").toStringList())
    menu->addAction(f, this, [this, f] { openWanted(pathOf(f)); });
  if (menu->isEmpty()) menu->addAction(tr("None yet"))->setEnabled(false);
}

void PlanFiles::exportPicture(const QImage& picture) {
  const QString f = askSaveName(window_, tr("Export the picture"), document_->displayName() + ".png",
                                tr("PNG pictures (*.png)"), QStringLiteral(".png"));
  if (f.isEmpty()) return;
  writeBehind(
      pathOf(f),
      [picture] {
        QByteArray bytes;
        QBuffer out(&bytes);
        out.open(QIODevice::WriteOnly);
        picture.save(&out, "PNG");
        return bytes.toStdString();
      },
      tr("The picture is in %1.").arg(QFileInfo(f).fileName()));
}

void PlanFiles::exportIes(const Light* l) {
  const Unit* u = l ? findUnit(l->unit) : nullptr;
  if (!u || !findModifier(l->modifier)) return emit said(tr("Choose a light first."), true);
  const QString f =
      askSaveName(window_, tr("Save the profile of light %1").arg(QString::fromStdString(l->id)),
                  QString::fromStdString(l->modifier) + ".ies", tr("IES photometry (*.ies)"), QStringLiteral(".ies"));
  if (f.isEmpty()) return;
  writeBehind(
      pathOf(f),
      [front = frontOf(*l), lumenSeconds = u->lumenSeconds(0, 1), watts = u->modellingWatts] {
        return writeIesText(front, lumenSeconds, watts);
      },
      tr("The profile is in %1.").arg(QFileInfo(f).fileName()));
}

void PlanFiles::exportReadings(const std::shared_ptr<const Result>& r) {
  if (!r || !r->layers || !r->layers->scene || !r->problem.empty()) {
    emit said(tr("There are no readings yet."), true);
    return;
  }
  const QString f = askSaveName(window_, tr("Export readings"), document_->displayName() + ".csv",
                                tr("CSV tables (*.csv)"), QStringLiteral(".csv"));
  if (f.isEmpty()) return;
  emit said(tr("Reading every light at every spot..."), false);
  writeBehind(
      pathOf(f),
      [scene = r->layers->scene, set = r->set] { return writeSpotCsv(spotTable(*scene, *set), set->camera); },
      tr("The readings are in %1.").arg(QFileInfo(f).fileName()));
}

}  // namespace easel::app
