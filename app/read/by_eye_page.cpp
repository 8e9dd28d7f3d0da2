#include "read/by_eye_page.h"

#include <QCheckBox>
#include <QGridLayout>
#include <QLabel>
#include <QPushButton>
#include <QSpinBox>

namespace easel::app {

ByEyePage::ByEyePage(QWidget* parent) : QWidget(parent) {
  auto* grid = new QGridLayout(this);
  grid->setContentsMargins(8, 5, 8, 2);
  grid->setVerticalSpacing(4);
  auto row = [&](int at, QCheckBox* box, const char* name, const QString& what) {
    box->setObjectName(name);
    auto* words = new QLabel(what, this);
    words->setObjectName("quiet");
    words->setWordWrap(true);
    words->setMinimumWidth(140);
    words->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    grid->addWidget(box, at, 0);
    grid->addWidget(words, at, 2);
  };
  histogram_ = new QCheckBox(tr("&Histogram"), this);
  clipping_ = new QCheckBox(tr("&Clipping"), this);
  zebra_ = new QCheckBox(tr("&Zebra over"), this);
  greyCard_ = new QCheckBox(tr("&Grey card at the pointer"), this);
  level_ = new QSpinBox(this);
  level_->setObjectName("zebraLevel");
  level_->setRange(50, 100);
  level_->setValue(90);
  level_->setSuffix(tr(" %"));
  level_->setAccessibleName(tr("Zebra level"));
  row(0, histogram_, "byEyeHistogram",
      tr("Skin of the lit cheek should lie right of the mid-grey mark, short of the end."));
  row(1, clipping_, "byEyeClipping", tr("Stripes one way: burnt out. The other way: lost in black."));
  row(2, zebra_, "byEyeZebra",
      tr("Stripes over what is lighter than this. Fair skin: just gone at 90 %; dark skin: at 60 to 70 %."));
  grid->addWidget(level_, 2, 1);
  row(3, greyCard_, "byEyeCard", tr("What a grey card there would come out as; 118 is mid grey."));
  auto* beside = new QPushButton(tr("&Picture of your own beside the easel..."), this);
  beside->setObjectName("beside");
  auto* away = new QPushButton(tr("Re&move it"), this);
  away->setObjectName("besideAway");
  grid->addWidget(beside, 4, 0, 1, 2);
  grid->addWidget(away, 4, 2, Qt::AlignLeft);
  grid->setColumnStretch(2, 1);
  grid->setRowStretch(5, 1);
  for (QCheckBox* box : {histogram_, clipping_, zebra_, greyCard_})
    connect(box, &QCheckBox::clicked, this, &ByEyePage::take);
  connect(level_, &QSpinBox::valueChanged, this, &ByEyePage::take);
  connect(beside, &QPushButton::clicked, this, &ByEyePage::besideWanted);
  connect(away, &QPushButton::clicked, this, &ByEyePage::besideAway);
}

void ByEyePage::take() {
  tools_.histogram = histogram_->isChecked();
  tools_.clipping = clipping_->isChecked();
  tools_.zebra = zebra_->isChecked();
  tools_.greyCard = greyCard_->isChecked();
  tools_.zebraLevel = level_->value() / 100.0;
  emit changed(tools_);
}

void ByEyePage::setShown(const EaselTools& tools) {
  tools_ = tools;
  histogram_->setChecked(tools.histogram);
  clipping_->setChecked(tools.clipping);
  zebra_->setChecked(tools.zebra);
  greyCard_->setChecked(tools.greyCard);
}

}  // namespace easel::app
