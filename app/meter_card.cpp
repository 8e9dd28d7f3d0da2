#include <QComboBox>
#include <QGridLayout>
#include <QLabel>

#include "cards.h"
#include "exposure/shutter.h"
#include "theme.h"
#include "wording.h"

namespace easel::app {

MeterCard::MeterCard(Document* document, QWidget* parent) : Card(document, parent) {
  addChoice(
      0, 0, tr("&Receptor"),
      {{"flat", tr("Flat, towards the light (one at a time)")}, {"dome", tr("Dome out, towards the camera")}},
      [this] { return document_->plan().receptor == Receptor::Flat ? QString("flat") : QString("dome"); },
      [this](const QString& id) {
        document_->perform(SetReceptor{id == "flat" ? Receptor::Flat : Receptor::Dome, id == "flat" ? MeterAim::Light : MeterAim::Camera}, tr("Receptor"));
      })
      ->setObjectName("receptor");
  text_ = new QLabel(this);
  text_->setWordWrap(true);
  text_->setFont(lettering(13));  // read standing, with the meter in the other hand
  text_->setAlignment(Qt::AlignTop | Qt::AlignLeft);
  text_->setTextFormat(Qt::RichText);
  grid_->addWidget(text_, 1, 0, 1, 4);
  grid_->setColumnStretch(1, 1);
  grid_->setColumnStretch(2, 1);
  grid_->setRowStretch(2, 1);
}

void MeterCard::setAnswers(std::shared_ptr<const Answers> answers) {
  answers_ = std::move(answers);
  refresh();
}

void MeterCard::refresh() {
  Card::refresh();
  if (!answers_) {
    text_->clear();
    return;
  }
  const Plan& plan = document_->plan();
  QString rows;
  for (const LightAnswer& r : answers_->lights) {
    const Light* l = plan.light(r.id);
    if (!l) continue;
    rows += tr("<tr><td><b>%1 %2</b> alone&nbsp;&nbsp;</td><td><b>%3</b>&nbsp;&nbsp;</td><td>%4</td></tr>")
                .arg(QString::fromStdString(r.id), roleText(l->role).toHtmlEscaped(), apertureText(r.aperture),
                     stopsText(r.stopsFromWorking));
  }
  rows +=
      tr("<tr><td><b>Everything on</b></td><td><b>%1</b></td><td>flash %2 %, ambient %3 stops from working</td></tr>")
          .arg(apertureText(answers_->aperture))
          .arg(std::lround(100 * answers_->face.flashShare()))
          .arg(shortStops(answers_->ambientStops));
  rows += tr("<tr><td><b>Backdrop</b></td><td><b>%1</b></td><td>%2 stops from the face</td></tr>")
              .arg(QString::fromStdString(answers_->backdropTone), shortStops(answers_->backdropStops));
  QString how =
      plan.receptor == Receptor::Flat
          ? tr("Hold the meter at the nose, close to the skin, flat receptor towards the light; the other lights off.")
          : tr("Hold the meter at the nose, close to the skin, dome towards the camera.");
  text_->setText("<p>" + how + "</p><table cellspacing='3'>" + rows + "</table>");
}

}  // namespace easel::app
