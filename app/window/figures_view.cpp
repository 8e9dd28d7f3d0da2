#include "window/figures_view.h"

#include <algorithm>

#include "instruments/unit_painting.h"
#include "plan/placement.h"
#include "widgets/theme.h"
#include "widgets/wording.h"

namespace easel::app {

FiguresView::FiguresView(ViewedPlan* viewed, QWidget* parent)
    : Instrument(viewed, tr("Figures of the chosen light"), {}, parent) {}

void FiguresView::setAnswers(std::shared_ptr<const Answers> answers) {
  answers_ = std::move(answers);
  update();
}

void FiguresView::draw(QPainter& p) {
  const Theme& t = Theme::current();
  p.fillRect(area(), t.panel);
  const Light* l = shown().light(selected_.toStdString());
  if (!l) return;
  paintBadge(p, QPointF(20, down() / 2), selected_, true);
  const LightAnswer* a = answers_ ? answers_->light(l->id) : nullptr;
  QStringList parts{powerText(*l)};
  if (a) parts << apertureText(a->aperture);
  if (onLens(*l))
    parts << tr("on the lens");
  else
    parts << tr("at %1").arg(hourText(l->hour)) << lengthText(l->distance) << tr("up %1").arg(lengthText(l->height));
  if (l->pan != 0) parts << tr("feathered %1\u00b0").arg(l->pan, 0, 'f', 0);
  const QString words = parts.join(QStringLiteral("   "));
  const QRectF room(40, 0, across() - 48, down());
  QFont font = lettering(12, true);
  const double needs = QFontMetricsF(font).horizontalAdvance(words);
  if (needs > room.width()) font.setPointSizeF(std::max(7.0, 12 * room.width() / needs * 0.98));
  p.setFont(font);
  p.setPen(t.text);
  letter(p, room, Qt::AlignLeft | Qt::AlignVCenter, words);
}

}  // namespace easel::app
