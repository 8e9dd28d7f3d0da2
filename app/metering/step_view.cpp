#include "metering/step_view.h"

#include <QMouseEvent>
#include <algorithm>
#include <cmath>

#include "instruments/unit_painting.h"
#include "run/by_eye.h"
#include "widgets/theme.h"
#include "widgets/wording.h"

namespace easel::app {
namespace {

// As large as the box allows, between two sizes of type; words that are still too long break into lines.
void fit(QPainter& p, const QRectF& box, int flags, const QString& words, double least, double most, bool strong) {
  if (words.isEmpty() || box.width() <= 0 || box.height() <= 0) return;
  const bool lines = flags & Qt::TextWordWrap;
  const auto fits = [&](double size) {
    const QFontMetricsF m(lettering(size, strong));
    const QSizeF needs =
        lines ? m.boundingRect(box, flags, words).size() : QSizeF(m.horizontalAdvance(words), m.height());
    return needs.width() <= box.width() + 0.5 && needs.height() <= box.height() + 0.5;
  };
  double size = most;
  if (!fits(most)) {
    double small = least, large = most;
    while (large - small > 0.5) (fits((small + large) / 2) ? small : large) = (small + large) / 2;
    size = small;
  }
  p.setFont(lettering(size, strong));
  letter(p, box, flags, words);
}

}  // namespace

StepView::StepView(QWidget* parent) : Painted(parent) {
  setAccessibleName(tr("Step of the metering run"));
  setObjectName("runStep");
}

void StepView::setIdle(const QString& sentence) {
  idle_ = sentence;
  update();
}

void StepView::setCourse(const RunCourse* course, bool byEye, bool working, const QString& camera) {
  cells_.clear();
  causes_.clear();
  letter_ = on_ = setLabel_ = set_ = readLabel_ = reads_ = within_ = where_ = verdict_ = note_ = QString();
  mark_ = Cell::Mark::Open;
  working_ = working;
  at_ = -1;
  if (!course) {
    setAccessibleDescription(idle_);
    return update();
  }
  using K = RunStep::Kind;
  using V = Judgement::Verdict;
  const auto markOf = [&](size_t i) {
    const auto& r = course->reading(i);
    if (!r) return Cell::Mark::Open;
    if (r->unsettled) return Cell::Mark::Again;
    if (r->skipped) return Cell::Mark::Left;
    if (r->tries == 0) return Cell::Mark::Open;
    return r->judgement.verdict == V::OnTarget ? Cell::Mark::Fine
           : r->judgement.verdict == V::Off    ? Cell::Mark::Off
                                               : Cell::Mark::Doubt;
  };
  for (size_t i = 0; i < course->steps().size(); ++i) {
    const RunStep& s = course->steps()[i];
    Cell c;
    c.name = s.kind == K::AllOff     ? tr("all off")
             : s.kind == K::Together ? tr("all on")
             : s.kind == K::Picture  ? tr("picture")
                                     : QString::fromStdString(s.light);
    c.mark = markOf(i);
    const auto& r = course->reading(i);
    c.state = c.mark == Cell::Mark::Fine    ? tr("set")
              : c.mark == Cell::Mark::Off   ? (s.kind == K::AllOff ? tr("shows") : shortStops(r->judgement.off))
              : c.mark == Cell::Mark::Doubt ? tr("doubt")
              : c.mark == Cell::Mark::Again ? tr("again")
              : c.mark == Cell::Mark::Left  ? tr("skipped")
                                            : QString();
    cells_.push_back(std::move(c));
  }
  at_ = int(course->at());
  if (!course->over()) {
    const RunStep& s = course->step();
    const Light* l = course->plan().light(s.light);
    const auto& r = course->reading(course->at());
    letter_ = QString::fromStdString(s.light);
    on_ = s.kind == K::AllOff ? tr("All flashes off") : s.kind == K::Together ? tr("Everything on") : QString();
    if (l) on_ = s.kind == K::Picture ? tr("%1, alone").arg(lightText(*l)) : tr("%1, alone on").arg(lightText(*l));
    if (s.kind == K::Alone) {
      setLabel_ = tr("Set it to");
      set_ = QString::fromStdString(settingOf(s, course->plan(), Preferences::current().spelling()));
    } else if (s.kind == K::Picture) {
      setLabel_ = tr("Take");
      set_ = tr("a picture");
    } else {
      setLabel_ = tr("Camera");
      set_ = tr("%1, ISO %2")
                 .arg(apertureText(course->plan().camera.aperture))
                 .arg(std::lround(course->plan().camera.iso));
    }
    if (s.kind == K::Picture) {
      where_ = tr("Is the light's direction right? Put the picture beside the predicted one on the easel.");
    } else {
      readLabel_ = byEye ? tr("A card there comes out at") : tr("It should read");
      const bool shows = s.expected >= 0.7;
      reads_ = !shows  ? tr("nothing")
               : byEye ? QString::number(cardValue(course->plan().camera, s.expected))
                       : apertureText(s.expected);
      if (s.within > 0 && shows) within_ = tr("within %1 stop").arg(s.within, 0, 'f', 1);
      where_ = QString::fromStdString(whereToHold(s.meter));
    }
    if (r) {
      note_ = QString::fromStdString(r->note);
      mark_ = markOf(course->at());
      if (r->tries > 0 && mark_ == Cell::Mark::Again)
        verdict_ = *r->unsettled <= -20 ? tr("%1 before. Read it again.").arg(readingText(r->fNumber))
                                        : tr("%1 before. By what has changed since it moves by %2: read it again.")
                                              .arg(readingText(r->fNumber), shortStops(*r->unsettled));
      else if (r->tries > 0)
        verdict_ = QString::fromStdString(r->judgement.sentence);
      if (s.kind == K::Together && !camera.isEmpty()) verdict_ += " " + camera;
      if (mark_ == Cell::Mark::Doubt)
        for (const Cause& c : r->judgement.causes) causes_ << QString::fromStdString(c.sentence);
    }
  }
  setAccessibleDescription(spoken());
  update();
}

QString StepView::spoken() const {
  QStringList out;
  for (const QString& part : {on_, setLabel_ + " " + set_, where_, readLabel_ + " " + reads_, within_, verdict_})
    if (!part.trimmed().isEmpty()) out << part.trimmed();
  out += causes_;
  for (QString& part : out)
    if (!part.endsWith('.')) part += '.';
  return out.join(' ');
}

void StepView::drawCells(QPainter& p, const QRectF& box) {
  const Theme& t = Theme::current();
  const double w = box.width() / double(cells_.size());
  for (int i = 0; i < int(cells_.size()); ++i) {
    const Cell& c = cells_[size_t(i)];
    const QRectF r = QRectF(box.left() + i * w, box.top(), w, box.height()).adjusted(2, 0, -2, 0);
    p.setPen(QPen(i == at_ ? t.accent : t.line, i == at_ ? 2 : 1));
    p.setBrush(i == at_ ? t.accent : t.panel);
    p.drawRoundedRect(r, 4, 4);
    p.setPen(i == at_ ? t.onAccent : t.text);
    const bool said = !c.state.isEmpty();
    fit(p, QRectF(r.left() + 2, r.top() + 1, r.width() - 4, said ? r.height() * 0.52 : r.height() - 2), Qt::AlignCenter,
        c.name, 6, 12, true);
    if (!said) continue;
    if (i != at_) p.setPen(c.mark == Cell::Mark::Doubt || c.mark == Cell::Mark::Again ? t.warn : t.quiet);
    fit(p, QRectF(r.left() + 2, r.top() + r.height() * 0.5, r.width() - 4, r.height() * 0.46), Qt::AlignCenter, c.state,
        6, 9.5, c.mark == Cell::Mark::Doubt || c.mark == Cell::Mark::Again);
  }
}

void StepView::draw(QPainter& p) {
  const Theme& t = Theme::current();
  p.fillRect(area(), t.panel);
  const QRectF all = area().adjusted(6, 4, -6, -4);
  if (cells_.empty()) {
    p.setPen(t.text);
    fit(p, all, Qt::AlignCenter | Qt::TextWordWrap, idle_, 8, 20, false);
    return;
  }
  const double strip = std::clamp(all.height() * 0.11, 26.0, 44.0);
  drawCells(p, QRectF(all.left(), all.top(), all.width(), strip));
  QRectF rest(all.left(), all.top() + strip + 6, all.width(), all.height() - strip - 6);
  if (at_ >= int(cells_.size())) {
    p.setPen(t.text);
    fit(p, rest, Qt::AlignCenter | Qt::TextWordWrap, idle_, 8, 26, true);
    return;
  }
  // What is on, what to set, what it should read: three columns, the figures as large as they can be.
  const double top = rest.height() * 0.40, third = rest.width() / 3;
  const auto column = [&](int i) {
    return QRectF(rest.left() + i * third, rest.top(), third, top).adjusted(14, 2, -14, -2);
  };
  const QRectF first = column(0);
  const double disc = std::min(first.height() * 0.62, first.width() * 0.6);
  if (!letter_.isEmpty()) {
    p.setPen(QPen(t.text, 2));
    p.setBrush(t.accent);
    const QRectF at(first.left() + (first.width() - disc) / 2, first.top(), disc, disc);
    p.drawEllipse(at);
    p.setPen(t.onAccent);
    fit(p, at.adjusted(disc * 0.12, 0, -disc * 0.12, 0), Qt::AlignCenter, letter_, 10, 80, true);
    p.setPen(t.text);
    fit(p, QRectF(first.left(), at.bottom() + 2, first.width(), first.bottom() - at.bottom() - 2),
        Qt::AlignCenter | Qt::TextWordWrap, on_, 7, 16, false);
  } else {
    p.setPen(t.text);
    fit(p, first, Qt::AlignCenter | Qt::TextWordWrap, on_, 8, 30, true);
  }
  const auto figure = [&](const QRectF& box, const QString& label, const QString& words, const QString& under) {
    const double caption = box.height() * 0.2;
    p.setPen(t.quiet);
    fit(p, QRectF(box.left(), box.top(), box.width(), caption), Qt::AlignCenter, label, 7, 14, false);
    p.setPen(t.text);
    fit(p, QRectF(box.left(), box.top() + caption, box.width(), box.height() - 2 * caption), Qt::AlignCenter, words, 9,
        60, true);
    p.setPen(t.quiet);
    fit(p, QRectF(box.left(), box.bottom() - caption, box.width(), caption), Qt::AlignCenter, under, 7, 13, false);
  };
  p.setPen(QPen(t.line, 1));
  for (int i : {1, 2})
    p.drawLine(QPointF(rest.left() + i * third, rest.top() + 8),
               QPointF(rest.left() + i * third, rest.top() + top - 8));
  figure(column(1), setLabel_, set_, {});
  figure(column(2), readLabel_, reads_, within_);
  p.setPen(QPen(t.line, 1));
  p.drawLine(QPointF(rest.left(), rest.top() + top + 2), QPointF(rest.right(), rest.top() + top + 2));
  // Where the meter goes.
  const double place = rest.height() * 0.15;
  p.setPen(t.text);
  fit(p, QRectF(rest.left() + 8, rest.top() + top + 4, rest.width() - 16, place), Qt::AlignCenter | Qt::TextWordWrap,
      where_, 8, 22, false);
  QRectF said(rest.left() + 8, rest.top() + top + place + 8, rest.width() - 16, rest.height() - top - place - 8);
  if (working_ || !verdict_.isEmpty()) {
    const bool doubt = mark_ == Cell::Mark::Doubt;
    const QRectF frame = said.adjusted(-6, 0, 6, 0);
    p.setPen(QPen(mark_ == Cell::Mark::Fine ? t.accent : doubt ? t.warn : t.border, mark_ == Cell::Mark::Open ? 1 : 2));
    p.setBrush(Qt::NoBrush);
    p.drawRoundedRect(frame, 5, 5);
    said.adjust(0, 3, 0, -3);
    p.setPen(t.text);
    if (working_ && verdict_.isEmpty()) {
      fit(p, said, Qt::AlignCenter, tr("Reading..."), 8, 18, false);
    } else if (causes_.isEmpty()) {
      fit(p, said, Qt::AlignCenter | Qt::TextWordWrap, verdict_, 8, 26, mark_ == Cell::Mark::Fine);
    } else {
      const int shown = std::min<int>(3, int(causes_.size()));
      const double head = said.height() * 0.24, each = (said.height() - head) / shown;
      p.setPen(t.warn);
      fit(p, QRectF(said.left(), said.top(), said.width(), head), Qt::AlignCenter, verdict_, 8, 18, true);
      p.setPen(t.text);
      for (int i = 0; i < shown; ++i)
        fit(p, QRectF(said.left(), said.top() + head + i * each, said.width(), each),
            Qt::AlignHCenter | (i == 0 ? Qt::AlignTop : Qt::AlignVCenter) | Qt::TextWordWrap,
            shown > 1 ? tr("%1. %2").arg(i + 1).arg(causes_[i]) : causes_[i], 7, i == 0 ? 20 : 13, i == 0);
    }
  } else if (!note_.isEmpty()) {
    p.setPen(t.quiet);
    fit(p, said, Qt::AlignCenter | Qt::TextWordWrap, note_, 8, 14, false);
  }
}

void StepView::mousePressEvent(QMouseEvent* e) {
  const QRectF all = area().adjusted(6, 4, -6, -4);
  const double strip = std::clamp(all.height() * 0.11, 26.0, 44.0);
  if (cells_.empty() || e->position().y() > all.top() + strip) return e->ignore();
  const int i = int((e->position().x() - all.left()) / (all.width() / double(cells_.size())));
  if (i >= 0 && i < int(cells_.size())) emit stepChosen(i);
}

}  // namespace easel::app
