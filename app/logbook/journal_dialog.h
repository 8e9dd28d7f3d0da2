// The journal: sessions by day and by word, the course of one as a time line, what was planned against what was read,
// and what all of them teach about this gear. Everything is read and written on another thread. Not modal.
#pragma once

#include <QDialog>
#include <QTabWidget>
#include <QTimer>
#include <functional>
#include <vector>

#include "document/strand.h"
#include "gear/inventory.h"
#include "journal/journal.h"
#include "logbook/session_views.h"
#include "plan/plan.h"

class QCalendarWidget;
class QComboBox;
class QLabel;
class QLineEdit;
class QListWidget;
class QPlainTextEdit;
class QPushButton;
class QTableWidget;
class QVBoxLayout;

namespace easel::app {

class JournalDialog : public QDialog {
  Q_OBJECT

 public:
  explicit JournalDialog(QWidget* parent = nullptr);
  /// Reads the journal anew.
  void refresh();
  bool working() const { return strand_.busy() || notesTimer_.isActive(); }
  std::int64_t chosen() const;
  /// "Session" or "Learned", whatever the tab says in which language.
  void showPage(const QString& id) { pages_->setCurrentIndex(id == QStringLiteral("Learned")); }

 signals:
  void said(const QString& sentence, bool problem);
  /// A session is to be repeated: its plan, with the powers as they ended.
  void repeatWanted(const easel::Plan& plan, const QString& title);
  /// What was learned in a studio is to be taken into the kit, or out of it again.
  void takeWanted(const easel::StudioCorrections& corrections);
  void dropWanted(const QString& studio);

 protected:
  void hideEvent(QHideEvent* e) override;

 private:
  QVBoxLayout* sessionsColumn();
  QWidget* sessionPage();
  QWidget* learnedPage();
  void askToRemove();
  /// One thing after the other with the journal open; `then` on the interface thread.
  using Then = std::function<void()>;
  void withJournal(std::function<Then(Journal&)> work);
  void find();
  void keepNotes();
  void listSessions();
  void showSession();
  void showLearned();
  void exportSession();
  void repeat();

  Strand strand_{this};
  QTimer notesTimer_;
  std::vector<JournalSession> sessions_;
  std::int64_t notesOf_ = 0;  ///< whose notes stand in the field
  QString notesShown_;        ///< as the journal has them; what differs was typed
  QLineEdit* search_;
  QCalendarWidget* calendar_;
  QPushButton *allDays_, *repeat_, *export_, *remove_, *take_, *drop_;
  QListWidget* list_;
  QTabWidget* pages_;
  CourseView* course_;
  PlannedView* planned_;
  QLabel *head_, *learnedWords_;
  QPlainTextEdit* notes_;
  QComboBox *stars_, *studio_;
  QTableWidget* learned_;
  StudioCorrections corrections_;  ///< of the studio that is chosen
};

}  // namespace easel::app
