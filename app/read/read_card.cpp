#include "read/read_card.h"

#include <QCheckBox>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QListWidget>
#include <QPainter>
#include <QProgressBar>
#include <QPushButton>
#include <QScrollArea>
#include <QTabWidget>
#include <QVBoxLayout>
#include <array>
#include <cmath>

#include "analysis/eye_pictures.h"
#include "plan/pose.h"
#include "plan/subject.h"
#include "render/picture_image.h"
#include "rendering/progressive_render.h"
#include "spoken/clock.h"
#include "widgets/markup.h"
#include "widgets/theme.h"
#include "widgets/wording.h"

namespace easel::app {
namespace {

// In the order in which they are made.
constexpr int kEyesPage = 2, kFaultsPage = 3;

QLabel* wrapped(QWidget* parent, const char* name) {
  auto* l = new QLabel(parent);
  l->setWordWrap(true);
  l->setObjectName(name);
  l->setTextInteractionFlags(Qt::TextSelectableByMouse);
  return l;
}

}  // namespace

ReadCard::ReadCard(ViewedPlan* viewed, QWidget* parent) : Card(viewed, parent) {
  startTabs();
  pattern_ = new PatternPage(viewed);
  addPage("Pattern", pattern_, tr("Lighting pattern"));
  connect(pattern_, &PatternPage::tryOut, this, &Card::tryOut);
  connect(pattern_, &PatternPage::taken, this, &ReadCard::taken);
  connect(pattern_, &PatternPage::refused, this, &Card::refused);
  startPage("Measures", tr("Measures"));
  words_ = wrapped(this, "measures");
  words_->setAlignment(Qt::AlignTop | Qt::AlignLeft);
  words_->setText(tr("Reading the picture..."));
  measures_ = new MeasuresView(this);
  grid_->addWidget(measures_, 0, 0);
  grid_->addWidget(words_, 0, 1);
  grid_->setColumnStretch(0, 3);
  grid_->setColumnStretch(1, 2);
  startPage("Eyes", tr("Eyes"));
  eyesPage();
  startPage("Faults", tr("Faults"));
  faultsPage();
  connect(pages_, &QTabWidget::currentChanged, this, [this](int page) {
    if (page == kEyesPage) askEyes();
    chooseWorst();
    emit evidenceChanged();
  });
  for (BackgroundTask* e : {&eyesTask_, &remedyTask_})
    connect(e, &BackgroundTask::failed, this, [this](const QString& why) { emit refused(why); });
  connect(&eyesTask_, &BackgroundTask::failed, this, [this] { eyesPlan_.reset(); });
}

void ReadCard::eyesPage() {
  eyes_ = new EyesView(this);
  eyes_->setObjectName("eyes");
  eyesText_ = wrapped(this, "eyesText");
  eyesText_->setAlignment(Qt::AlignTop | Qt::AlignLeft);
  grid_->addWidget(eyes_, 0, 0);
  grid_->addWidget(eyesText_, 0, 1);
  grid_->setColumnStretch(0, 5);
  grid_->setColumnStretch(1, 4);
}

void ReadCard::showEvent(QShowEvent* e) {
  Card::showEvent(e);
  askEyes();
  chooseWorst();
}

void ReadCard::askEyes() {
  if (!reading_ || !isVisible() || pages_->currentIndex() != kEyesPage) return;
  // A plan is read twice, early and when its picture is finished: its eyes are the same.
  if (eyesPlan_ == viewed_->plan()) return;
  eyesPlan_ = viewed_->plan();
  eyesTask_.start([this, plan = *eyesPlan_, reading = reading_](const BackgroundTask::Go& go) -> BackgroundTask::Done {
    const auto eyes = renderEyes(plan, [&go] { return go(0); });
    return [this, eyes, reading] { eyes_->show(eyes, reading->catchlights); };
  });
}

void ReadCard::faultsPage() {
  faults_ = new QListWidget(this);
  faults_->setObjectName("faults");
  faults_->setAccessibleName(tr("Faults"));
  faults_->setMinimumWidth(190);
  faults_->setMaximumWidth(250);
  faults_->setMinimumHeight(90);
  faults_->setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Preferred);
  faults_->hide();
  connect(faults_, &QListWidget::currentRowChanged, this, [this] { chooseFault(); });
  faultText_ = wrapped(this, "faultText");
  faultText_->setAlignment(Qt::AlignTop | Qt::AlignLeft);
  wantedBox_ = new QCheckBox(tr("I &want this: do not report it in this plan"), this);
  wantedBox_->setObjectName("wanted");
  connect(wantedBox_, &QCheckBox::clicked, this, [this](bool on) {
    std::vector<std::string> wanted = viewed_->plan().wanted;
    const std::string id = fault_.toStdString();
    std::erase(wanted, id);
    if (on) wanted.push_back(id);
    viewed_->endMerge();
    viewed_->perform(SetWanted{wanted}, on ? tr("Accept a fault as wanted") : tr("Report a fault again"));
  });
  remedyState_ = wrapped(this, "remedyState");
  progress_ = new QProgressBar(this);
  progress_->setRange(0, 100);
  progress_->setTextVisible(false);
  progress_->setMaximumHeight(6);
  progress_->hide();
  // In a box of its own: with its rows hidden a bare layout gives its width away to the list.
  auto* rightBox = new QWidget(this);
  rightBox->setMinimumWidth(280);
  rightBox->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Preferred);
  auto* right = new QVBoxLayout(rightBox);
  right->setContentsMargins(0, 0, 0, 0);
  right->setSpacing(3);
  right->addWidget(faultText_);
  right->addWidget(remedyState_);
  right->addWidget(progress_);
  cures_ = new Gallery(this);
  cures_->setObjectName("cures");
  cures_->setAccessibleName(tr("Cures"));
  cures_->hide();
  right->addWidget(cures_, 1);
  const auto cure = [this](const QString& id) {
    bool number = false;
    const int at = id.toInt(&number);
    return number && at < int(remedies_.size()) && viewed_->plan() == askedPlan_ ? &remedies_[size_t(at)] : nullptr;
  };
  connect(cures_, &Gallery::rested, this, [this, cure](const QString& id) {
    if (const Remedied* c = cure(id))
      emit tryOut(c->plan, c->label);
    else
      emit tryOut(viewed_->plan(), {});
  });
  connect(cures_, &Gallery::left, this, [this] { emit tryOut(viewed_->plan(), {}); });
  connect(cures_, &Gallery::taken, this, [this, cure](const QString& id) {
    if (const Remedied* c = cure(id)) emit taken(Plan(c->plan), QString(c->label));
  });
  connect(&prints_, &Prints::made, cures_, &Gallery::setPicture);
  right->addWidget(wantedBox_);
  right->addStretch(0);
  auto* both = new QHBoxLayout;
  both->setSpacing(10);
  both->addWidget(faults_, 2, Qt::AlignTop);
  both->addWidget(rightBox, 5);
  grid_->addLayout(both, 0, 0);
  grid_->setRowStretch(0, 1);
  grid_->setColumnStretch(0, 1);
  connect(&remedyTask_, &BackgroundTask::progressed, this, [this](double share) {
    progress_->setVisible(true);
    progress_->setValue(int(100 * share));
  });
  connect(&remedyTask_, &BackgroundTask::ended, this, [this] { progress_->hide(); });
}

// The first is the worst: what a page has found it shows.
void ReadCard::chooseWorst() {
  if (pages_->currentIndex() == kFaultsPage && isVisible() && faults_->currentRow() < 0 && faults_->count() > 0)
    faults_->setCurrentRow(0);
}

void ReadCard::chooseFault() {
  const QListWidgetItem* item = faults_->currentItem();
  fault_ = item ? item->data(Qt::UserRole).toString() : QString();
  where_ = item ? item->data(Qt::UserRole + 1).toString() : QString();
  const Fault* f =
      reading_ && !fault_.isEmpty() ? reading_->fault(fault_.toStdString(), where_.toStdString()) : nullptr;
  const bool asked = f && fault_ + where_ == askedFault_ && viewed_->plan() == askedPlan_;
  if (!asked) {
    clearCures();
    remedyTask_.cancel();
    remedyState_->clear();
    askedFault_.clear();
  }
  wantedBox_->setVisible(f != nullptr);
  if (!f) {
    faultText_->setText(!reading_ ? tr("Reading the picture...")
                        : reading_->faults.empty()
                            ? tr("No faults found. The rest is taste.")
                            : tr("Choose one: it is shown on the picture, with what would cure it."));
  } else {
    setMarkup(faultText_, QStringLiteral("<b>%1</b>: %2<br>%3")
                              .arg(QString::fromStdString(f->title).toHtmlEscaped(),
                                   QString::fromStdString(f->sentence).toHtmlEscaped(),
                                   QString::fromStdString(f->why).toHtmlEscaped()));
    wantedBox_->setChecked(f->wanted);
    if (!asked && !f->wanted && !f->caution) askRemedies();
  }
  emit evidenceChanged();
}

void ReadCard::askRemedies() {
  askedFault_ = fault_ + where_;
  askedPlan_ = viewed_->plan();
  remedyState_->setText(tr("Trying what usually helps..."));
  remedyTask_.start(
      [this, plan = viewed_->plan(), id = fault_.toStdString(), where = where_.toStdString(),
       spelling = Preferences::current().spelling()](const BackgroundTask::Go& go) -> BackgroundTask::Done {
        PlanReader reader;
        RemedySearch search;
        search.where = where;
        search.spelling = spelling;
        search.progress = go;
        const auto found = findRemedies(reader, plan, id, search);
        return [this, found] { showRemedies(found); };
      });
}

void ReadCard::showRemedies(const std::vector<Remedy>& found) {
  remedyState_->setText(
      found.empty() ? tr("None of the usual cures works here. Change the set by hand.")
      : found.front().clears
          ? tr("Tried: these cure it and cause no other fault. Rest on one to see it, click to apply it.")
          : tr("This cures it but causes another fault: %1. Cure one after the other.")
                .arg(QString::fromStdString(found.front().brings)));
  clearCures();
  if (found.empty()) return;
  // Before and after, side by side.
  std::vector<Gallery::Item> items{{QStringLiteral("now"), tr("As it is"), {}}};
  std::vector<ChoiceToPrint> choices{{"now", askedPlan_}};
  for (const Remedy& r : found) {
    const std::string id = std::to_string(remedies_.size());
    remedies_.push_back({r.plan, QString::fromStdString(r.text)});
    items.push_back({QString::fromStdString(id), remedies_.back().label, {}});
    choices.push_back({id, r.plan});
  }
  cures_->forgetPictures();
  cures_->setItems(items);
  cures_->setChosen(QStringLiteral("now"));
  cures_->show();
  prints_.ask(choices, PrintShows::Picture, {}, cures_->printPixels());
}

void ReadCard::clearCures() {
  prints_.stop();
  remedies_.clear();
  cures_->hide();
}

void ReadCard::setReading(std::shared_ptr<const FaceAnalysis> reading) {
  reading_ = std::move(reading);
  if (!reading_) return;
  pattern_->setReading(reading_->lighting);
  QString words;
  for (const std::string& w : reading_->measures.words) words += QString::fromStdString(w) + QStringLiteral("\n");
  words_->setText(words.trimmed());
  measures_->setMeasures(reading_->measures);
  QString eyes;
  for (int k : {1, 0}) {
    eyes += (k == 1 ? tr("<b>Right eye.</b> ") : tr("<b>Left eye.</b> "));
    if (!reading_->catchlights.seesEye[k]) {
      eyes += tr("Not seen by the camera.") + "<br>";
      continue;
    }
    QStringList living, hidden;
    for (const Catchlight& c : reading_->catchlights.all) {
      if (c.eye != k) continue;
      const Light* l = viewed_->plan().light(c.light);
      const QString id = escaped(calledSource(c.light, viewed_->plan().panels));
      if (c.lives)
        living +=
            (c.onIris ? tr("%1 at %2 o'clock, %3, %4 x %5 mm") : tr("%1 at %2 o'clock, %3, %4 x %5 mm, on the white"))
                .arg(id)
                .arg(wholeHour(c.hour))
                .arg(escaped(c.shape))
                .arg(c.width, 0, 'f', 1)
                .arg(c.height, 0, 'f', 1);
      else if (l && (l->role == Role::Key || l->role == Role::Fill))
        hidden +=
            c.lowerTo > 0
                ? tr("%1 is kept out by %2; at %3 it would show").arg(id, escaped(c.hiddenBy), lengthText(c.lowerTo))
                : tr("%1 is kept out by %2").arg(id, escaped(c.hiddenBy));
    }
    eyes += (living.isEmpty() ? tr("No catchlight") : living.join("; ")) + ". ";
    if (!hidden.isEmpty()) eyes += hidden.join("; ") + ".";
    eyes += "<br>";
  }
  setMarkup(eyesText_, eyes);
  const QString kept = fault_ + where_;
  readOf_ = viewed_->plan();
  {
    const QSignalBlocker quiet(faults_);
    faults_->clear();
    int row = -1;
    for (const Fault& f : reading_->faults) {
      auto* item = new QListWidgetItem(
          (f.wanted    ? tr("wanted: ")
           : f.caution ? tr("caution: ")
                       : QString()) +
          QString::fromStdString(f.title) +
          (lightOf(f.where) ? QStringLiteral(": %1").arg(QString::fromStdString(*lightOf(f.where))) : QString()));
      item->setData(Qt::UserRole, QString::fromStdString(f.id));
      item->setData(Qt::UserRole + 1, QString::fromStdString(f.where));
      item->setToolTip(QString::fromStdString(f.sentence));
      if (f.wanted) item->setForeground(Theme::current().quiet);
      if (kept == item->data(Qt::UserRole).toString() + item->data(Qt::UserRole + 1).toString() && row < 0)
        row = faults_->count();
      faults_->addItem(item);
    }
    faults_->setCurrentRow(row);
    faults_->setVisible(faults_->count() > 0);
    // As tall as what it lists, not a white page.
    faults_->setMaximumHeight((faults_->sizeHintForRow(0) + 1) * std::max(4, faults_->count()) + 6);
  }
  const int n = reading_->count();
  pages_->setTabText(kFaultsPage, n ? tr("Faults (%1)").arg(n) : tr("Faults"));
  // The sentences may have changed; remedies are asked for again.
  chooseFault();
  chooseWorst();
  askEyes();
}

void ReadCard::refresh() {
  Card::refresh();
  if (!cures_) return;  // while it is being made
  pattern_->planChanged();
  // What stands there is of the plan before, until this one has been read: a fault that was cured is none to choose.
  const bool stale = reading_ && readOf_ && !(*readOf_ == viewed_->plan());
  if (stale) {
    // Greyed, not disabled: the keys stay where they are.
    for (int i = 0; i < faults_->count(); ++i) faults_->item(i)->setForeground(Theme::current().quiet);
    faultText_->setText(tr("Reading the picture..."));
    pages_->setTabText(kFaultsPage, tr("Faults (...)"));
  }
  // Cures are whole plans: those of the plan before would take back what has been changed since.
  if (!askedFault_.isEmpty() && !(viewed_->plan() == askedPlan_)) {
    remedyTask_.cancel();
    askedFault_.clear();
    clearCures();
    remedyState_->setText(tr("Reading the picture..."));
  }
}

}  // namespace easel::app
