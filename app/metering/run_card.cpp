#include "metering/run_card.h"

#include <QCheckBox>
#include <QComboBox>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QInputDialog>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QSettings>
#include <QTabWidget>
#include <QTableWidget>
#include <QTimer>

#include "run/by_eye.h"
#include "run/said_reading.h"
#include "widgets/plain_table.h"
#include "widgets/theme.h"
#include "widgets/wording.h"

namespace easel::app {
namespace {

QString nameOf(const RunStep& s) {
  return s.kind == RunStep::Kind::Together  ? RunCard::tr("everything")
         : s.kind == RunStep::Kind::Picture ? RunCard::tr("a picture")
         : s.kind == RunStep::Kind::AllOff  ? RunCard::tr("all off")
                                            : QString::fromStdString(s.light);
}

}  // namespace

RunCard::RunCard(ViewedPlan* viewed, MeteringRun* run, QWidget* parent) : Card(viewed, parent), run_(run) {
  startPage("Before", tr("Before"));
  beforePage();
  startPage("Step", tr("Step"));
  stepPage();
  startPage("So far", tr("So far"));
  soFarPage();
  startPage("Spot meter", tr("Spot meter"));
  auto* words =
      new QLabel(tr("Everything on, from the camera. A reflected meter takes what it looks at for mid grey of 18 %: "
                    "white reads over, black under, though the light is the same. Open up for white, close "
                    "down for black, or read a grey card."),
                 this);
  words->setWordWrap(true);
  words->setObjectName("quiet");
  grid_->addWidget(words, 0, 0);
  reflected_ = plainTable("runReflected", tr("Spot meter"),
                          {tr("Surface"), tr("Gives back"), tr("Incident"), tr("Spot meter"), tr("Off by")}, this);
  grid_->addWidget(reflected_, 1, 0);
  pages_->setObjectName("runPages");
  connect(run_, &MeteringRun::changed, this, &RunCard::runChanged);
  tell();
}

void RunCard::beforePage() {
  const MeteringRun::Wishes kept = MeteringRun::Wishes::kept();
  auto* cautions = new QLabel(
      tr("<b>Before the first flash:</b> booms counterweighted, on a safety line, the stand sandbagged. Cables taped "
         "down, nothing overloaded, no damaged plug. Modelling lamps and continuous lights are hot: air above them, "
         "cloth away. No flash close to open eyes; ask whoever sits or stands by about photosensitivity. Local rules "
         "and licensed trades decide."),
      this);
  cautions->setTextFormat(Qt::RichText);
  cautions->setWordWrap(true);
  cautions->setObjectName("runCautions");
  grid_->addWidget(cautions, 0, 0, 1, 4);
  studio_ = new QLineEdit(kept.studio, this);
  studio_->setObjectName("runStudio");
  studio_->setPlaceholderText(tr("its name"));
  addLabel(1, 0, tr("&Studio"), studio_);
  meter_ = new QLineEdit(kept.meter, this);
  meter_->setObjectName("runMeter");
  meter_->setPlaceholderText(tr("its name"));
  addLabel(1, 1, tr("&Meter"), meter_);
  tolerance_ = numberField(0.05, 1, 0.05, 2, tr(" stop"), this);
  tolerance_->setObjectName("runTolerance");
  tolerance_->setShown(kept.tolerance);
  addLabel(2, 0, tr("&Tolerance"), tolerance_);
  school_ = new QComboBox(this);
  school_->setObjectName("runSchool");
  // In the order of CameraSchool.
  for (const QString& name : {tr("to the key alone"), tr("to everything on"), tr("stays; all lights go down")})
    school_->addItem(name);
  school_->setCurrentIndex(int(kept.school));
  addLabel(2, 1, tr("The &camera"), school_);
  eye_ = new QCheckBox(tr("By &eye: a grey card in a test picture instead of a meter"), this);
  eye_->setObjectName("runByEye");
  eye_->setChecked(QSettings().value("run/byEye", false).toBool());
  grid_->addWidget(eye_, 3, 0, 1, 4);
  auto* devices = new QPushButton(tr("De&vices..."), this);
  devices->setObjectName("runDevices");
  connect(devices, &QPushButton::clicked, this, &RunCard::devicesWanted);
  grid_->addWidget(devices, 4, 3);
  journal_ = new QCheckBox(tr("Write every reading to the &journal"), this);
  journal_->setObjectName("runJournal");
  journal_->setChecked(kept.journal);
  grid_->addWidget(journal_, 4, 0, 1, 3);
  auto* words = new QLabel(
      tr("First with everything off, what the room gives. Then the key, and a picture of it for its direction. Then "
         "each light alone, the others off at the trigger; then all together, and the camera is set. Read aloud or "
         "type what the meter shows: \"five six and a half\", f/8 + 0.3, \"nothing\". A meter that is joined in "
         "Devices speaks for itself."),
      this);
  words->setWordWrap(true);
  words->setObjectName("quiet");
  grid_->addWidget(words, 5, 0, 1, 4);
  order_ = new QLabel(this);
  order_->setWordWrap(true);
  order_->setObjectName("readAloud");
  order_->setTextFormat(Qt::RichText);
  grid_->addWidget(order_, 6, 0, 1, 4);
  begin_ = new QPushButton(this);
  begin_->setObjectName("runBegin");
  begin_->setProperty("large", true);
  grid_->addWidget(begin_, 8, 0, 1, 4);
  grid_->setColumnStretch(1, 1);
  grid_->setColumnStretch(3, 1);
  grid_->setRowStretch(7, 1);
  connect(begin_, &QPushButton::clicked, this, &RunCard::begin);
}

void RunCard::stepPage() {
  step_ = new StepView(this);
  grid_->addWidget(step_, 0, 0);
  auto* row = new QHBoxLayout;
  said_ = new QLineEdit(this);
  said_->setObjectName("runSaid");
  said_->setAccessibleName(tr("What the meter shows"));
  said_->installEventFilter(this);
  key_ = new QPushButton(this);
  key_->setObjectName("runKey");
  key_->setProperty("large", true);
  said_->setProperty("large", true);
  row->addWidget(said_, 2);
  row->addWidget(key_, 3);
  grid_->addLayout(row, 1, 0);
  auto* small = new QHBoxLayout;
  back_ = new QPushButton(tr("&Back"), this);
  skip_ = new QPushButton(tr("&Skip"), this);
  note_ = new QPushButton(tr("&Note..."), this);
  end_ = new QPushButton(tr("En&d the run"), this);
  back_->setObjectName("runBack");
  skip_->setObjectName("runSkip");
  note_->setObjectName("runNote");
  end_->setObjectName("runEnd");
  for (QPushButton* b : {back_, skip_, note_}) small->addWidget(b);
  small->addStretch(1);
  small->addWidget(end_);
  grid_->addLayout(small, 2, 0);
  grid_->setRowStretch(0, 1);
  connect(key_, &QPushButton::clicked, this, &RunCard::pressKey);
  connect(said_, &QLineEdit::returnPressed, this, &RunCard::pressKey);
  connect(back_, &QPushButton::clicked, run_, &MeteringRun::back);
  connect(skip_, &QPushButton::clicked, run_, &MeteringRun::skip);
  connect(note_, &QPushButton::clicked, this, &RunCard::askNote);
  connect(end_, &QPushButton::clicked, run_, &MeteringRun::end);
  connect(step_, &StepView::stepChosen, run_, &MeteringRun::goTo);
}

void RunCard::soFarPage() {
  table_ = plainTable("runTable", tr("Read so far"),
                      {tr("Light"), tr("Set to"), tr("Expected"), tr("Read"), tr("Off"), tr("What it means")}, this);
  grid_->addWidget(table_, 0, 0);
  connect(table_, &QTableWidget::cellActivated, this, [this](int row, int) {
    run_->goTo(row);
    showPage("Step");
  });
}

void RunCard::setReflected(const std::vector<ReflectedReading>& readings) {
  std::vector<QStringList> rows;
  for (const ReflectedReading& r : readings)
    rows.push_back({QString::fromStdString(r.name), tr("%1 %").arg(std::lround(100 * r.reflectance)),
                    apertureText(r.incident), apertureText(r.reflected), shortStops(r.stops)});
  fillRows(reflected_, rows);
}

void RunCard::begin() {
  MeteringRun::Wishes w;
  w.studio = studio_->text().trimmed();
  w.meter = meter_->text().trimmed();
  w.tolerance = tolerance_->value();
  w.journal = journal_->isChecked();
  w.school = CameraSchool(school_->currentIndex());
  byEye_ = eye_->isChecked();
  QSettings().setValue("run/byEye", byEye_);
  emit byEyeChanged(byEye_);
  run_->begin(w);
  showPage("Step");
  said_->setFocus();
}

void RunCard::askNote() {
  if (!run_->on() || run_->course()->over()) return;
  const auto& r = run_->course()->reading(run_->course()->at());
  auto* ask = new QInputDialog(this);
  ask->setAttribute(Qt::WA_DeleteOnClose);
  ask->setLabelText(tr("A note to this step:"));
  ask->setTextValue(r ? QString::fromStdString(r->note) : QString());
  connect(ask, &QInputDialog::textValueSelected, run_, &MeteringRun::note);
  ask->open();
}

void RunCard::say(const QString& words) {
  said_->setText(words);
  pressKey();
}

void RunCard::setTrigger(std::function<void()> trigger) {
  trigger_ = std::move(trigger);
  runChanged();
}

void RunCard::setCamera(std::function<void()> camera) {
  camera_ = std::move(camera);
  runChanged();
}

void RunCard::pictureTaken() {
  pictured_ = true;
  runChanged();
}

void RunCard::pressKey() {
  if (run_->working()) return;  // a second press while it is judged would answer what nobody has seen
  const QString words = said_->text().trimmed();
  if (!words.isEmpty() && run_->on() && !run_->course()->over() &&
      run_->course()->step().kind != RunStep::Kind::Picture) {
    try {
      const Plan& plan = run_->course()->plan();
      const std::string text = words.toStdString();
      const bool card = byEye_ || words.startsWith(tr("card"), Qt::CaseInsensitive);
      const double f = card ? apertureOfCard(plan.camera, text) : saidAperture(text);
      said_->clear();
      run_->read(f);
    } catch (const std::exception& e) {
      emit refused(QString::fromUtf8(e.what()));
      said_->selectAll();
    }
    return;
  }
  switch (does_) {
    case KeyDoes::Begin:
      begin();
      break;
    case KeyDoes::Read:
      if (trigger_)
        trigger_();
      else
        emit refused(byEye_ ? tr("Type the card's value in the picture, then Enter.")
                            : tr("Type or say what the meter shows, then Enter. \"Nothing\" when it shows none."));
      said_->setFocus();
      break;
    case KeyDoes::Take:
      if (camera_) camera_();
      break;
    case KeyDoes::SetAsTold:
      run_->setAsTold();
      break;
    case KeyDoes::SetCamera:
      run_->setCamera();
      break;
    case KeyDoes::GoOn:
      if (run_->course()->over())
        run_->goTo(int(run_->course()->open().front()));
      else
        run_->next();
      break;
    case KeyDoes::End:
      run_->end();
      break;
  }
}

// Space goes on too, as long as nothing is being typed: readings are spoken in several words.
bool RunCard::eventFilter(QObject* of, QEvent* e) {
  if (of == said_ && e->type() == QEvent::KeyPress && said_->text().isEmpty() &&
      static_cast<QKeyEvent*>(e)->key() == Qt::Key_Space) {
    pressKey();
    return true;
  }
  return Card::eventFilter(of, e);
}

void RunCard::showEvent(QShowEvent* e) {
  Card::showEvent(e);
  tell();
  if (run_->on()) said_->setFocus();
}

void RunCard::changeEvent(QEvent* e) {
  Card::changeEvent(e);
  if (e->type() == QEvent::FontChange || e->type() == QEvent::StyleChange) fillTable();
}

QWidget* RunCard::begins() const {
  if (run_->on()) return said_;
  return begin_;
}

void RunCard::refresh() {
  Card::refresh();
  runChanged();
}

// Not while another stage is on: the plan changes with every move of a hand there.
void RunCard::runChanged() {
  if (isVisible()) tell();
}

void RunCard::tell() {
  const RunCourse* c = run_->course();
  const QString prevents = run_->prevents();
  begin_->setText(c ? tr("Start again") : tr("Start metering"));
  begin_->setEnabled(prevents.isEmpty());
  QStringList order;
  for (const RunStep& s : runOrder(viewed_->plan().lights))
    order << (s.kind == RunStep::Kind::AllOff     ? tr("everything off")
              : s.kind == RunStep::Kind::Together ? tr("everything on")
              : s.kind == RunStep::Kind::Picture  ? tr("a picture of <b>%1</b>").arg(QString::fromStdString(s.light))
                                                  : QStringLiteral("<b>%1</b>").arg(QString::fromStdString(s.light)));
  order_->setText(prevents.isEmpty() ? tr("%1 steps: %2.").arg(order.size()).arg(order.join(", ")) : prevents);
  const bool on = c && !c->over();
  if (!on || c->step().kind != RunStep::Kind::Picture) pictured_ = false;
  using K = RunStep::Kind;
  using V = Judgement::Verdict;
  const auto camera = c ? c->cameraBy(run_->wishes().school) : std::nullopt;
  QString words;
  if (!c) {
    does_ = KeyDoes::Begin;
    words = tr("Start metering");
    step_->setIdle(prevents.isEmpty()
                       ? tr("Lights off, meter in hand. The run takes one light at a time, the key first.")
                       : prevents);
  } else if (c->over()) {
    const std::vector<size_t> left = c->open();
    const size_t open = left.size();
    does_ = open ? KeyDoes::GoOn : KeyDoes::End;
    words = !open ? tr("End the run") : tr("Read %1").arg(nameOf(c->steps()[left.front()]));
    step_->setIdle(open ? tr("Steps still to read: %1. Choose them above.").arg(open) : tr("All set. Shoot."));
  } else {
    const auto& r = c->reading(c->at());
    const bool read = r && r->tries > 0 && !r->unsettled && !r->skipped;
    QString after;
    for (size_t i = c->at() + 1; i < c->steps().size() && after.isEmpty(); ++i)
      if (const auto& o = c->reading(i); !o || o->unsettled) after = nameOf(c->steps()[i]);
    const QString goOn = after.isEmpty() ? tr("Done") : tr("On to %1").arg(after);
    if (c->step().kind == K::Picture) {
      does_ = camera_ && !pictured_ ? KeyDoes::Take : KeyDoes::GoOn;
      words = does_ == KeyDoes::Take ? tr("Take the picture") : goOn;
    } else if (!read || r->judgement.verdict == V::Implausible) {
      does_ = KeyDoes::Read;
      words = trigger_ ? (read ? tr("Read it again") : tr("Fire and read"))
                       : (byEye_ ? tr("Take the card's value") : tr("Take the reading"));
    } else if (r->judgement.power) {
      does_ = KeyDoes::SetAsTold;
      const Light* l = c->plan().light(c->step().light);
      words = tr("Set %1 to %2")
                  .arg(QString::fromStdString(c->step().light), l ? powerText(*l, *r->judgement.power) : QString());
    } else {
      const bool set = c->step().kind == K::Together && camera && !camera->standing;
      does_ = set ? KeyDoes::SetCamera : KeyDoes::GoOn;
      words = does_ == KeyDoes::GoOn ? goOn : QString::fromStdString(camera->sentence);
      if (does_ == KeyDoes::SetCamera && camera->lowerBy != 0)
        words = tr("Lower all by %1").arg(shortStops(camera->lowerBy));
    }
  }
  key_->setText(words);
  key_->setEnabled(prevents.isEmpty() || c);
  // Never disabled: it has the keys, and Enter on it goes on.
  said_->setPlaceholderText(does_ != KeyDoes::Read ? tr("Enter: on") : byEye_ ? tr("card, 0 to 255") : tr("reading"));
  for (QPushButton* b : {skip_, note_}) b->setEnabled(on);
  back_->setEnabled(c && c->at() > 0);
  end_->setEnabled(c);
  step_->setCourse(c, byEye_, run_->working(), camera ? QString::fromStdString(camera->sentence) : QString());
  fillTable();
  const bool over = c && c->over();
  if (on && isVisible() && !said_->hasFocus() && over_) said_->setFocus();
  over_ = over;
}

void RunCard::fillTable() {
  const RunCourse* c = run_->course();
  // Before a run: what it will be.
  const std::vector<RunStep> steps = c ? c->steps() : runOrder(viewed_->plan().lights);
  std::vector<QStringList> rows;
  for (size_t i = 0; i < steps.size(); ++i) {
    const RunStep& s = steps[i];
    const std::optional<StepReading> r = c ? c->reading(i) : std::nullopt;
    using K = RunStep::Kind;
    const bool read = r && r->tries > 0;
    QString means = !r             ? QString()
                    : r->unsettled ? tr("read it again: it should have moved")
                    : r->skipped   ? tr("skipped")
                    : read         ? QString::fromStdString(r->judgement.sentence)
                                   : QString();
    if (r && !r->note.empty())
      means += (means.isEmpty() ? QString() : QStringLiteral(" ")) + "(" + QString::fromStdString(r->note) + ")";
    rows.push_back(
        {s.kind == K::AllOff     ? tr("all off")
         : s.kind == K::Together ? tr("everything")
         : s.kind == K::Picture  ? tr("%1, picture").arg(QString::fromStdString(s.light))
                                 : QString::fromStdString(s.light),
         s.kind == K::Alone
             ? QString::fromStdString(settingOf(s, c ? c->plan() : viewed_->plan(), Preferences::current().spelling()))
             : QString(),
         s.kind == K::Picture || !c ? QString() : readingText(s.expected), read ? readingText(r->fNumber) : QString(),
         read && s.kind != K::AllOff ? shortStops(r->judgement.off) : QString(), means});
  }
  fillRows(table_, rows);
}

}  // namespace easel::app
