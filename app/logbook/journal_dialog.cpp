#include "logbook/journal_dialog.h"

#include <QCalendarWidget>
#include <QComboBox>
#include <QDateTime>
#include <QFileDialog>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QMessageBox>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QTabWidget>
#include <QTableWidget>
#include <QTextCharFormat>
#include <algorithm>
#include <cmath>
#include <filesystem>

#include "document/state_folder.h"
#include "formats/plan_json.h"
#include "run/with_journal.h"
#include "widgets/markup.h"
#include "widgets/plain_table.h"
#include "widgets/theme.h"
#include "widgets/within_screen.h"
#include "widgets/wording.h"

namespace easel::app {
JournalDialog::JournalDialog(QWidget* parent) : QDialog(parent) {
  setObjectName("journalWindow");
  setWindowTitle(tr("Journal"));
  auto* box = new QHBoxLayout(this);
  box->addLayout(sessionsColumn(), 2);
  pages_ = new QTabWidget(this);
  pages_->setDocumentMode(true);
  pages_->addTab(sessionPage(), tr("Session"));
  pages_->addTab(learnedPage(), tr("What was learned"));
  box->addWidget(pages_, 5);
  const QSize room = parent ? parent->size() : QSize(1280, 800);
  resizeWithin(this, (QSize(960, 620) * Theme::current().scale).boundedTo(room));
  refresh();
}

QVBoxLayout* JournalDialog::sessionsColumn() {
  auto* left = new QVBoxLayout;
  search_ = new QLineEdit(this);
  search_->setObjectName("journalSearch");
  search_->setPlaceholderText(tr("words in title, studio or notes"));
  search_->setAccessibleName(tr("Search"));
  left->addWidget(search_);
  calendar_ = new QCalendarWidget(this);
  calendar_->setObjectName("journalCalendar");
  calendar_->setVerticalHeaderFormat(QCalendarWidget::NoVerticalHeader);
  calendar_->setMaximumHeight(int(200 * Theme::current().scale));
  QTextCharFormat plain;  // a calm calendar: no day is an alarm
  plain.setForeground(Theme::current().text);
  for (const Qt::DayOfWeek day : {Qt::Saturday, Qt::Sunday}) calendar_->setWeekdayTextFormat(day, plain);
  calendar_->setAccessibleName(tr("Days with sessions"));
  left->addWidget(calendar_);
  allDays_ = new QPushButton(tr("&All days"), this);
  allDays_->setCheckable(true);
  allDays_->setChecked(true);
  left->addWidget(allDays_);
  list_ = new QListWidget(this);
  list_->setObjectName("journalSessions");
  list_->setAccessibleName(tr("Sessions"));
  list_->setTextElideMode(Qt::ElideRight);
  list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  left->addWidget(list_, 1);
  auto* below = new QHBoxLayout;
  auto* import = new QPushButton(tr("&Import..."), this);
  auto* backup = new QPushButton(tr("Back &up..."), this);
  below->addWidget(import);
  below->addWidget(backup);
  left->addLayout(below);
  connect(search_, &QLineEdit::textChanged, this, &JournalDialog::find);
  connect(calendar_, &QCalendarWidget::clicked, this, [this] {
    allDays_->setChecked(false);
    listSessions();
  });
  connect(allDays_, &QPushButton::clicked, this, [this] {
    allDays_->setChecked(true);
    listSessions();
  });
  connect(list_, &QListWidget::currentRowChanged, this, &JournalDialog::showSession);
  connect(import, &QPushButton::clicked, this, [this] {
    const QString file = QFileDialog::getOpenFileName(this, tr("Import a session"), {}, tr("Sessions (*.json)"));
    if (file.isEmpty()) return;
    withJournal([this, path = pathOf(file)](Journal& j) -> Then {
      j.import(readWholeFile(path, 8u << 20));
      return [this] { refresh(); };
    });
  });
  connect(backup, &QPushButton::clicked, this, [this] {
    const QString file = QFileDialog::getSaveFileName(this, tr("Back up the journal"), "journal-backup.sqlite",
                                                      tr("Journals (*.sqlite)"));
    if (file.isEmpty()) return;
    withJournal([this, path = pathOf(file), file](Journal& j) -> Then {
      j.backup(path);
      return [this, file] { emit said(tr("The journal is backed up to %1.").arg(file), false); };
    });
  });
  return left;
}

QWidget* JournalDialog::sessionPage() {
  auto* session = new QWidget(this);
  auto* s = new QVBoxLayout(session);
  head_ = new QLabel(session);
  head_->setWordWrap(true);
  head_->setObjectName("readAloud");
  s->addWidget(head_);
  course_ = new CourseView(session);
  s->addWidget(course_, 3);
  planned_ = new PlannedView(session);
  s->addWidget(planned_, 3);
  notes_ = new QPlainTextEdit(session);
  notes_->setObjectName("journalNotes");
  notes_->setPlaceholderText(tr("notes"));
  notes_->setAccessibleName(tr("Notes"));
  notes_->setMaximumHeight(int(56 * Theme::current().scale));
  s->addWidget(notes_);
  auto* row = new QHBoxLayout;
  stars_ = new QComboBox(session);
  stars_->setObjectName("journalStars");
  stars_->setAccessibleName(tr("Stars"));
  for (int i = 0; i <= 5; ++i) stars_->addItem(i ? QString(i, QChar(0x2605)) : tr("no stars"));
  row->addWidget(stars_);
  auto* keep = new QPushButton(tr("&Keep notes and stars"), session);
  keep->setObjectName("journalKeep");
  row->addWidget(keep);
  row->addStretch(1);
  s->addLayout(row);
  auto* actions = new QHBoxLayout;
  repeat_ = new QPushButton(tr("&Repeat this session"), session);
  repeat_->setObjectName("journalRepeat");
  export_ = new QPushButton(tr("E&xport..."), session);
  remove_ = new QPushButton(tr("&Delete..."), session);
  remove_->setObjectName("journalDelete");
  actions->addWidget(repeat_);
  actions->addStretch(1);
  for (QPushButton* b : {export_, remove_}) actions->addWidget(b);
  s->addLayout(actions);
  // As everything that is typed: on the disk half a second later, however the hand goes on.
  notesTimer_.setSingleShot(true);
  notesTimer_.setInterval(250);
  connect(&notesTimer_, &QTimer::timeout, this, &JournalDialog::keepNotes);
  connect(notes_, &QPlainTextEdit::textChanged, this, [this] {
    if (!notesTimer_.isActive() && notes_->toPlainText() != notesShown_) notesTimer_.start();
  });
  connect(keep, &QPushButton::clicked, this, [this] {
    const std::int64_t id = chosen();
    if (!id) return;
    keepNotes();
    withJournal([this, id, stars = stars_->currentIndex()](Journal& j) -> Then {
      j.setStars(id, stars);
      return [this] { find(); };
    });
  });
  connect(repeat_, &QPushButton::clicked, this, &JournalDialog::repeat);
  connect(export_, &QPushButton::clicked, this, &JournalDialog::exportSession);
  connect(remove_, &QPushButton::clicked, this, &JournalDialog::askToRemove);
  return session;
}

QWidget* JournalDialog::learnedPage() {
  auto* page = new QWidget(this);
  auto* l = new QVBoxLayout(page);
  auto* where = new QHBoxLayout;
  where->addWidget(new QLabel(tr("Studio"), page));
  studio_ = new QComboBox(page);
  studio_->setObjectName("journalStudio");
  studio_->setAccessibleName(tr("Studio"));
  where->addWidget(studio_, 1);
  l->addLayout(where);
  learned_ = plainTable("journalLearned", tr("What was learned"),
                        {tr("What"), tr("Name"), tr("Gives"), tr("Within"), tr("Readings")}, page);
  l->addWidget(learned_, 1);
  learnedWords_ = new QLabel(page);
  learnedWords_->setWordWrap(true);
  learnedWords_->setObjectName("journalLearnedWords");
  l->addWidget(learnedWords_);
  auto* into = new QHBoxLayout;
  take_ = new QPushButton(tr("&Take it into the kit"), page);
  take_->setObjectName("journalTake");
  drop_ = new QPushButton(tr("Take it &out again"), page);
  drop_->setObjectName("journalDrop");
  into->addWidget(take_);
  into->addWidget(drop_);
  into->addStretch(1);
  l->addLayout(into);
  connect(take_, &QPushButton::clicked, this, [this] {
    emit takeWanted(corrections_);
    emit said(tr("What was learned in %1 is in the kit: predictions use it.").arg(studio_->currentText()), false);
  });
  connect(drop_, &QPushButton::clicked, this, [this] {
    emit dropWanted(studio_->currentData().toString());
    emit said(tr("Predictions use the catalogue's figures again."), false);
  });
  connect(studio_, &QComboBox::activated, this, &JournalDialog::showLearned);
  return page;
}

void JournalDialog::askToRemove() {
  const std::int64_t id = chosen();
  if (!id) return;
  auto* sure = new QMessageBox(
      QMessageBox::Warning, tr("Delete for good"),
      tr("The session, its readings and what was learned from them are deleted for good. This cannot be undone."),
      QMessageBox::Cancel, this);
  sure->setAttribute(Qt::WA_DeleteOnClose);
  const QAbstractButton* yes = sure->addButton(tr("Delete it"), QMessageBox::DestructiveRole);
  connect(sure, &QMessageBox::buttonClicked, this, [this, yes, id](QAbstractButton* pressed) {
    if (pressed != yes) return;
    withJournal([this, id](Journal& j) -> Then {
      j.remove(id);
      return [this] { refresh(); };
    });
  });
  sure->open();
}

void JournalDialog::withJournal(std::function<Then(Journal&)> work) {
  strand_.attempt(
      [work = std::move(work)] {
        Journal journal(journalFile());
        return work(journal);
      },
      [this](const QString& why) {
        emit said(why, true);
        setMarkup(head_, why.toHtmlEscaped());
      });
}

void JournalDialog::hideEvent(QHideEvent* e) {
  keepNotes();
  QDialog::hideEvent(e);
}

std::int64_t JournalDialog::chosen() const {
  const QListWidgetItem* item = list_->currentItem();
  return item ? item->data(Qt::UserRole).toLongLong() : 0;
}

void JournalDialog::refresh() {
  withJournal([this](Journal& j) -> Then {
    QStringList studios;
    for (const JournalSession& s : j.sessions())
      if (const QString name = QString::fromStdString(s.studio); !name.isEmpty() && !studios.contains(name))
        studios << name;
    return [this, studios] {
      const QString was = studio_->currentData().toString();
      studio_->clear();
      studio_->addItem(tr("all studios"), QString());
      for (const QString& name : studios) studio_->addItem(name, name);
      // One studio is what most people have.
      studio_->setCurrentIndex(was.isEmpty() && studios.size() == 1 ? 1 : std::max(0, studio_->findData(was)));
      showLearned();
    };
  });
  find();
}

void JournalDialog::find() {
  withJournal([this, words = search_->text().toStdString()](Journal& j) -> Then {
    auto sessions = j.sessions(words);
    return [this, sessions] {
      sessions_ = sessions;
      QTextCharFormat strong;
      strong.setFontWeight(QFont::Bold);
      strong.setFontUnderline(true);
      calendar_->setDateTextFormat({}, {});
      for (const JournalSession& s : sessions_) calendar_->setDateTextFormat(timeOf(s.begun).date(), strong);
      listSessions();
    };
  });
}

// Notes that were typed are kept before another session takes their place, or the window goes.
void JournalDialog::keepNotes() {
  if (!notesOf_ || notes_->toPlainText() == notesShown_) return;
  notesShown_ = notes_->toPlainText();
  const std::string notes = notesShown_.toStdString();
  for (JournalSession& s : sessions_)
    if (s.id == notesOf_) s.notes = notes;
  withJournal([id = notesOf_, notes](Journal& j) -> Then {
    j.setNotes(id, notes);
    return {};
  });
}

void JournalDialog::listSessions() {
  const std::int64_t was = chosen();
  const QSignalBlocker quiet(list_);
  list_->clear();
  int row = -1;
  for (const JournalSession& s : sessions_) {
    const QDateTime begun = timeOf(s.begun);
    if (!allDays_->isChecked() && begun.date() != calendar_->selectedDate()) continue;
    const QString stars(s.stars, QChar(0x2605));
    auto* item = new QListWidgetItem(
        QStringLiteral("%1\n%2").arg(QString::fromStdString(s.title),
                                     (s.ended.empty() ? tr("%1, readings: %2, not finished") : tr("%1, readings: %2"))
                                             .arg(QLocale().toString(begun, QStringLiteral("d MMM yyyy, HH:mm")))
                                             .arg(s.readings) +
                                         (stars.isEmpty() ? QString() : "  " + stars)),
        list_);
    item->setData(Qt::UserRole, qlonglong(s.id));
    if (s.id == was) row = list_->count() - 1;
  }
  list_->setCurrentRow(row >= 0 ? row : list_->count() ? 0 : -1);
  showSession();
}

void JournalDialog::showSession() {
  const std::int64_t id = chosen();
  if (id != notesOf_) keepNotes();
  for (QPushButton* b : {repeat_, export_, remove_}) b->setEnabled(id != 0);
  const auto at = std::find_if(sessions_.begin(), sessions_.end(), [&](const JournalSession& s) { return s.id == id; });
  if (at == sessions_.end()) {
    head_->setText(sessions_.empty() ? tr("No session yet. A metering run with the journal on writes one.")
                                     : tr("No session on that day."));
    course_->setReadings({});
    planned_->setReadings({});
    return;
  }
  const QDateTime begun = timeOf(at->begun), ended = at->ended.empty() ? QDateTime() : timeOf(at->ended);
  const qint64 minutes = ended.isValid() ? begun.secsTo(ended) / 60 : 0;
  setMarkup(head_, QStringLiteral("<b>%1</b><br>%2")
                       .arg(QString::fromStdString(at->title).toHtmlEscaped(),
                            tr("%1 in %2, %3")
                                .arg(QLocale().toString(begun, QStringLiteral("d MMM yyyy, HH:mm")),
                                     at->studio.empty() ? tr("a studio without a name")
                                                        : QString::fromStdString(at->studio).toHtmlEscaped(),
                                     ended.isValid() ? (minutes < 1   ? tr("under a minute")
                                                        : minutes < 2 ? tr("a minute")
                                                                      : tr("%1 minutes").arg(minutes))
                                                     : tr("not finished"))));
  if (id != notesOf_ || notes_->toPlainText() == notesShown_) {
    notesShown_ = QString::fromStdString(at->notes);
    notes_->setPlainText(notesShown_);
  }
  notesOf_ = id;
  stars_->setCurrentIndex(at->stars);
  withJournal([this, id](Journal& j) -> Then {
    auto readings = j.readings(id);
    auto events = j.events(id);
    return [this, id, readings, events] {
      if (chosen() != id) return;
      course_->setReadings(readings, events);
      planned_->setReadings(readings);
    };
  });
}

void JournalDialog::showLearned() {
  withJournal([this, studio = studio_->currentData().toString().toStdString()](Journal& j) -> Then {
    const auto readings = j.taught(studio);
    const Learned learned(readings);
    const auto drifting = drifts(readings, learned);
    // Of the gear that has been read, what next reading would teach most.
    std::vector<TaughtReading> kinds;
    for (const TaughtReading& r : readings)
      if (std::none_of(kinds.begin(), kinds.end(),
                       [&](const TaughtReading& k) { return k.head == r.head && k.modifier == r.modifier; }))
        kinds.push_back(r);
    const auto next = learned.teachesMost(kinds);
    const std::optional<TaughtReading> teach = next ? std::optional(kinds[*next]) : std::nullopt;
    const StudioCorrections corrections = correctionsFrom(learned, readings, studio);
    return [this, learned, drifting, teach, corrections] {
      corrections_ = corrections;
      const bool one = !corrections.studio.empty() && !learned.corrections().empty();
      take_->setEnabled(one);
      drop_->setEnabled(!corrections.studio.empty());
      take_->setToolTip(one ? QString() : tr("Choose a studio: what its readings teach holds there."));
      const auto nameOf = [](Correction::Of of, const std::string& id) {
        if (of == Correction::Of::Head)
          if (const Unit* u = findUnit(id)) return QString::fromStdString(u->name);
        if (of == Correction::Of::Modifier)
          if (const Modifier* m = findModifier(id)) return QString::fromStdString(m->name);
        return QString::fromStdString(id);
      };
      const auto& all = learned.corrections();
      const QString of[] = {tr("head"), tr("modifier"), tr("meter"), tr("studio")};
      std::vector<QStringList> rows;
      for (const Correction& c : all)
        rows.push_back({of[int(c.of)], nameOf(c.of, c.id), stopsText(c.stops),
                        tr("%1 stop").arg(c.uncertainty, 0, 'f', 2), QString::number(c.readings)});
      fillRows(learned_, rows, tr("nothing yet"));
      QStringList words;
      if (all.empty())
        words << tr("Nothing yet: readings of a light alone teach what gear gives.");
      else
        words << tr("Against what the catalogue predicts. Metering runs expect with it.");
      for (const Drift& d : drifting)
        words << tr("%1: the last readings lie %2 stops from the older ones. An ageing tube, or yellowed cloth?")
                     .arg(nameOf(d.of, d.id), shortStops(d.stops));
      if (teach)
        words << tr("%1 with %2, read once more, would teach most.")
                     .arg(nameOf(Correction::Of::Head, teach->head), nameOf(Correction::Of::Modifier, teach->modifier));
      if (!learned.doubted().empty())
        words << tr("Readings that lie far from the others and count less: %1.").arg(learned.doubted().size());
      learnedWords_->setText(words.join(" "));
    };
  });
}

void JournalDialog::exportSession() {
  const std::int64_t id = chosen();
  if (!id) return;
  // The ending says which: a table for a sheet, or all of it for another journal.
  const QString file = QFileDialog::getSaveFileName(this, tr("Export the session"), "session.json",
                                                    tr("Sessions (*.json);;Tables (*.csv)"));
  if (file.isEmpty()) return;
  withJournal(
      [this, id, csv = file.endsWith(".csv", Qt::CaseInsensitive), path = pathOf(file), file](Journal& j) -> Then {
        writeFileAtomically(path, csv ? j.csv(id) : j.json(id));
        return [this, file] { emit said(tr("The session is written to %1.").arg(file), false); };
      });
}

void JournalDialog::repeat() {
  const std::int64_t id = chosen();
  const auto at = std::find_if(sessions_.begin(), sessions_.end(), [&](const JournalSession& s) { return s.id == id; });
  if (at == sessions_.end()) return;
  try {
    emit repeatWanted(readPlanText(at->plan), QString::fromStdString(at->title));
  } catch (const std::exception& e) {
    emit said(tr("The plan of this session cannot be read: %1").arg(QString::fromUtf8(e.what())), true);
  }
}

}  // namespace easel::app
