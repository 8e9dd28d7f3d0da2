#include "dialogs/series_dialog.h"

#include <QCheckBox>
#include <QComboBox>
#include <QFileDialog>
#include <QFileInfo>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QProgressBar>
#include <QPushButton>
#include <QSpinBox>
#include <QThread>
#include <QVBoxLayout>

#include "dialogs/ask_save_name.h"
#include "document/state_folder.h"
#include "formats/contact_sheet.h"
#include "formats/picture_file.h"
#include "plan/ranges.h"
#include "spoken/say.h"
#include "widgets/fields.h"
#include "widgets/mnemonics.h"
#include "widgets/wording.h"

namespace easel::app {

namespace {
const Range& rangeOfVaried(const Varied& v) {
  return rangeOf(v.path.rfind("light.", 0) == 0 ? "light." + v.path.substr(v.path.rfind('.') + 1) : v.path);
}
}  // namespace

SeriesDialog::SeriesDialog(ViewedPlan* viewed, QWidget* parent) : QDialog(parent), viewed_(viewed) {
  setWindowTitle(tr("Series: one thing varied"));
  setObjectName("series");
  auto* box = new QVBoxLayout(this);
  auto* form = new QFormLayout;
  thing_ = new QComboBox;
  thing_->setObjectName("seriesThing");
  form->addRow(tr("&Vary"), thing_);
  auto number = [&](const char* name) {
    auto* f = new NumberField(0, 1, {});
    f->setObjectName(name);
    connect(f, &NumberField::refused, this, [this](const QString& why) { state_->setText(why); });
    return f;
  };
  from_ = number("seriesFrom");
  to_ = number("seriesTo");
  form->addRow(tr("&From"), from_);
  form->addRow(tr("&To"), to_);
  count_ = new QSpinBox;
  count_->setObjectName("seriesCount");
  count_->setRange(2, 12);
  count_->setValue(5);
  form->addRow(tr("&Pictures"), count_);
  hold_ = new QCheckBox(tr("&Keep the light on its target (set its power again each time)"));
  hold_->setObjectName("seriesHold");
  hold_->setChecked(true);
  form->addRow(hold_);
  box->addLayout(form);
  progress_ = new QProgressBar;
  progress_->setRange(0, 1000);
  box->addWidget(progress_);
  state_ = new QLabel(tr("The pictures appear on the ledge."));
  state_->setWordWrap(true);
  box->addWidget(state_);
  auto* buttons = new QHBoxLayout;
  make_ = new QPushButton(tr("&Make the series"));
  make_->setObjectName("seriesMake");
  make_->setDefault(true);
  cancel_ = new QPushButton(tr("&Stop"));
  cancel_->setEnabled(false);
  save_ = new QPushButton(tr("Save contact &sheet..."));
  save_->setEnabled(false);
  for (auto* b : {make_, cancel_, save_}) buttons->addWidget(b);
  box->addLayout(buttons);
  connect(make_, &QPushButton::clicked, this, &SeriesDialog::make);
  connect(cancel_, &QPushButton::clicked, this, &SeriesDialog::cancel);
  connect(save_, &QPushButton::clicked, this, &SeriesDialog::saveSheet);
  connect(thing_, &QComboBox::currentIndexChanged, this, &SeriesDialog::thingChosen);
  spreadMnemonics(this);
  fillThings();
}

SeriesDialog::~SeriesDialog() {
  cancel();
  if (job_) job_->wait();
}

void SeriesDialog::setLight(const QString& id) {
  if (id.isEmpty() || id == light_) return;
  light_ = id;
  const int at = thing_->currentIndex();
  fillThings();
  thing_->setCurrentIndex(std::max(0, at));
}

void SeriesDialog::fillThings() {
  const QSignalBlocker quiet(thing_);
  thing_->clear();
  for (const Varied& v : variedThings()) {
    QString path = QString::fromStdString(v.path);
    if (path.startsWith("light.")) path[6] = light_[0];
    QString text = QString::fromStdString(variedName(path.toStdString()));
    // A field that writes its own unit needs none in the list.
    if (!v.unit.empty() && wordsOf(rangeOfVaried(v)).plain)
      text += QStringLiteral(" (%1)").arg(QString::fromStdString(translated(v.unit)));
    thing_->addItem(text, path);
  }
  thingChosen();
}

void SeriesDialog::thingChosen() {
  const int i = std::max(0, thing_->currentIndex());
  const Varied& v = variedThings()[size_t(i)];
  const Range& range = rangeOfVaried(v);
  for (auto [field, value] : {std::pair{from_, v.from}, {to_, v.to}}) {
    field->setWords(wordsOf(range), range.least, range.most);
    field->setShown(value);
  }
  hold_->setEnabled(v.path.rfind("light.", 0) == 0 && v.path != "light.A.power");
}

void SeriesDialog::make() {
  if (running()) return;
  Variation variation;
  try {
    variation = readVariation(QStringLiteral("%1=%2:%3:%4")
                                  .arg(thing_->currentData().toString())
                                  .arg(from_->value(), 0, 'f', 6)
                                  .arg(to_->value(), 0, 'f', 6)
                                  .arg(count_->value())
                                  .toStdString());
    for (double v : variation.values) varied(viewed_->plan(), variation.path, v);  // refuses before any work is done
  } catch (const std::exception& e) {
    state_->setText(QString::fromUtf8(e.what()));
    return;
  }
  const bool hold = hold_->isEnabled() && hold_->isChecked();
  title_ = QString::fromStdString(variedName(variation.path)) + (hold ? tr(", its reading kept") : QString());
  cancelled_->store(false);
  make_->setEnabled(false);
  cancel_->setEnabled(true);
  state_->setText(tr("Working..."));
  // The dialogue waits for its job when it goes, so that `this` outlives the calls.
  job_ = QThread::create([this, plan = viewed_->plan(), variation, hold, cancelled = cancelled_,
                          spelling = Preferences::current().spelling(), printSize = printSize_, passes = passes_] {
    std::vector<SeriesPicture> out;
    QString problem;
    try {
      out = renderSeries(
          plan, variation, hold, printSize.width(), printSize.height(), passes,
          [&](double share) {
            QMetaObject::invokeMethod(
                this, [this, share] { progress_->setValue(int(share * 1000)); }, Qt::QueuedConnection);
            return !cancelled->load();
          },
          spelling);
    } catch (const std::exception& e) {
      problem = QString::fromUtf8(e.what());
    }
    QMetaObject::invokeMethod(
        this,
        [this, out = std::move(out), problem, stopped = cancelled->load()] {
          series_ = out;
          make_->setEnabled(true);
          cancel_->setEnabled(false);
          save_->setEnabled(!series_.empty());
          progress_->setValue(problem.isEmpty() && !stopped ? 1000 : 0);
          const int n = int(series_.size());
          if (!problem.isEmpty())
            state_->setText(problem);
          else if (stopped)
            state_->setText(n == 1 ? tr("Stopped after 1 picture.") : tr("Stopped after %n pictures.", nullptr, n));
          else
            state_->setText(n == 1 ? tr("1 picture on the ledge.") : tr("%n pictures on the ledge.", nullptr, n));
          if (!series_.empty()) emit made(series_, title_);
        },
        Qt::QueuedConnection);
  });
  connect(job_, &QThread::finished, job_, &QObject::deleteLater);
  job_->start();
}

void SeriesDialog::saveSheet() {
  const QString f = askSaveName(this, tr("Save the contact sheet"), viewed_->displayName() + tr("-series.png"),
                                tr("PNG pictures (*.png)"), QStringLiteral(".png"));
  if (!f.isEmpty()) saveSheetTo(f);
}

void SeriesDialog::saveSheetTo(const QString& file) {
  if (running()) return;
  // Drawing and packing a large sheet takes longer than a frame.
  job_ = QThread::create([this, file, series = series_, text = SheetText{viewed_->plan().title, title_.toStdString()}] {
    QString words = tr("The contact sheet is in %1.").arg(QFileInfo(file).fileName());
    bool problem = false;
    try {
      const Picture sheet = contactSheet(series, text);
      writePng(pathOf(file), sheet.width, sheet.height, sheet.rgba);
    } catch (const std::exception& e) {
      words = QString::fromUtf8(e.what());
      problem = true;
    }
    QMetaObject::invokeMethod(
        this,
        [this, words, problem] {
          state_->setText(words);
          emit said(words, problem);
        },
        Qt::QueuedConnection);
  });
  connect(job_, &QThread::finished, job_, &QObject::deleteLater);
  job_->start();
}

}  // namespace easel::app
