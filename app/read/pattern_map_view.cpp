#include "read/pattern_map_view.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <algorithm>
#include <cmath>

#include "analysis/ways.h"
#include "formats/pattern_sheet.h"
#include "plan/placement.h"
#include "widgets/theme.h"
#include "widgets/wording.h"

namespace easel::app {
namespace {

QColor toneOf(const PatternAnalysis& a) {
  const PatternSign first = signOf(a.pattern), second = a.next == FacePattern::None ? first : signOf(a.next);
  const auto mean = [](double x, double y) { return float((x + y) / 2); };
  return QColor::fromRgbF(mean(first.red, second.red), mean(first.green, second.green), mean(first.blue, second.blue));
}

}  // namespace

PatternMapView::PatternMapView(ViewedPlan* viewed, QWidget* parent)
    : Instrument(viewed, tr("Map of lighting patterns"),
                 tr("Where the key makes which pattern on this face, at the distance that it has. Drag the key: the "
                    "light in the plan goes with it.\nKeys: arrows move the key by a degree, with Shift by five."),
                 parent) {
  setObjectName("patternMap");
  setMouseTracking(true);
  setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
}

void PatternMapView::setMap(std::shared_ptr<const KeyMap> map) {
  map_ = std::move(map);
  ++maps_;
  tones_ = {};
  fields_.clear();
  if (map_) {
    const PatternMap& m = map_->map;
    tones_ = QImage(m.columns, m.rows, QImage::Format_RGB32);
    for (int r = 0; r < m.rows; ++r)
      for (int c = 0; c < m.columns; ++c) tones_.setPixelColor(c, r, toneOf(m.at(c, r)));
    fields_ = fields();
  }
  repaintSoon();
}

QRectF PatternMapView::plot() const { return area().adjusted(30, 6, -12, -34); }

QPointF PatternMapView::pointOf(FaceDirection place) const {
  if (!map_) return {};
  const PatternMap& m = map_->map;
  const QRectF r = plot();
  return {r.left() + (place.azimuth - m.azimuthLeast) / (m.azimuthMost - m.azimuthLeast) * r.width(),
          r.top() + (m.elevationMost - place.elevation) / (m.elevationMost - m.elevationLeast) * r.height()};
}

FaceDirection PatternMapView::placeAt(QPointF at) const {
  const PatternMap& m = map_->map;
  const QRectF r = plot();
  const double across = std::clamp((at.x() - r.left()) / r.width(), 0.0, 1.0),
               down = std::clamp((at.y() - r.top()) / r.height(), 0.0, 1.0);
  return {m.azimuthLeast + across * (m.azimuthMost - m.azimuthLeast),
          m.elevationMost - down * (m.elevationMost - m.elevationLeast)};
}

std::optional<FaceDirection> PatternMapView::keyPlace() const {
  if (!map_) return {};
  for (const auto& [letter, at] : seenFromFace(*map_->scene, shown()).lights)
    if (letter == map_->key) return at;
  return {};
}

// Where the name of a field finds most room: along a row or a column of it that is long and near its middle, on each
// side of the nose, or once across it.
std::vector<PatternMapView::Field> PatternMapView::fields() const {
  const PatternMap& m = map_->map;
  const auto is = [&](int c, int r, int p) {
    return m.at(c, r).pattern == FacePattern(p) && m.at(c, r).next == FacePattern::None &&
           map_->hasRoom[size_t(r) * size_t(m.columns) + size_t(c)];
  };
  const auto placeOf = [&](double c, double r) {
    return FaceDirection{m.azimuthLeast + m.step * c, m.elevationMost - m.step * r};
  };
  const auto longest = [&](int p, int first, int last) {
    double column = 0, row = 0;
    int all = 0;
    for (int r = 0; r < m.rows; ++r)
      for (int c = first; c <= last; ++c)
        if (is(c, r, p)) {
          column += c;
          row += r;
          ++all;
        }
    Field best{FacePattern(p), {}, 0, 0};
    double score = -1e9;
    const auto offer = [&](const Field& f, double off) {
      // A name stands in a row where it can, and clear of the edge.
      const double s = std::max(f.wide * 1.4, f.tall) - off * m.step;
      if (s > score) {
        score = s;
        best = f;
      }
    };
    for (int r = 2; r < m.rows - 2; ++r)
      for (int c = first, run = 0; c <= last + 1; ++c) {
        if (c <= last && is(c, r, p)) {
          ++run;
          continue;
        }
        if (run) offer({FacePattern(p), placeOf(c - (run + 1) / 2.0, r), run * m.step, 0}, std::abs(r - row / all));
        run = 0;
      }
    for (int c = std::max(2, first); c <= std::min(last, m.columns - 3); ++c)
      for (int r = 0, run = 0; r <= m.rows; ++r) {
        if (r < m.rows && is(c, r, p)) {
          ++run;
          continue;
        }
        if (run) offer({FacePattern(p), placeOf(c, r - (run + 1) / 2.0), 0, run * m.step}, std::abs(c - column / all));
        run = 0;
      }
    return best;
  };
  std::vector<Field> out;
  const int middle = (m.columns - 1) / 2;
  for (int p = int(FacePattern::Flat); p <= int(FacePattern::Top); ++p) {
    const Field whole = longest(p, 0, m.columns - 1);
    if (whole.wide > 0 && std::abs(whole.middle.azimuth) < whole.wide / 2) {
      out.push_back(whole);
      continue;
    }
    for (const Field& f : {longest(p, 0, middle), longest(p, middle, m.columns - 1)})
      if (f.wide + f.tall > 0) out.push_back(f);
  }
  return out;
}

void PatternMapView::drawFields(QPainter& p) {
  const PatternMap& m = map_->map;
  const QRectF r = plot();
  p.save();
  p.setClipRect(r);
  const QSizeF cell(r.width() / (m.columns - 1), r.height() / (m.rows - 1));
  p.setRenderHint(QPainter::SmoothPixmapTransform);
  p.drawImage(r.adjusted(-cell.width() / 2, -cell.height() / 2, cell.width() / 2, cell.height() / 2), tones_);
  p.setPen(Qt::NoPen);
  for (int row = 0; row < m.rows; ++row)
    for (int col = 0; col < m.columns; ++col) {
      if (map_->hasRoom[size_t(row) * size_t(m.columns) + size_t(col)]) continue;
      const QPointF c(r.left() + col * cell.width(), r.top() + row * cell.height());
      const QRectF box(c - QPointF(cell.width(), cell.height()) / 2, cell);
      p.fillRect(box, QColor(128, 128, 128, 120));
      p.fillRect(box, QBrush(QColor(0, 0, 0, 150), Qt::BDiagPattern));
    }
  p.setFont(lettering(9, true));
  const QFontMetricsF metrics(p.font());
  const double perDegree = r.width() / (m.azimuthMost - m.azimuthLeast),
               perUp = r.height() / (m.elevationMost - m.elevationLeast);
  for (const Field& f : fields_) {
    const QString name = QString::fromStdString(patternName(f.pattern));
    const double wide = metrics.horizontalAdvance(name);
    if (wide > std::max(f.wide * perDegree + 4, f.tall * perUp)) continue;
    const PatternSign s = signOf(f.pattern);
    p.setPen(s.red + s.green + s.blue < 1.5 ? Qt::white : Qt::black);
    p.save();
    p.translate(pointOf(f.middle));
    if (f.tall > 0) p.rotate(f.middle.azimuth > 0 ? 90 : -90);
    p.drawText(QRectF(-wide / 2 - 2, -8, wide + 4, 16), Qt::AlignCenter, name);
    p.restore();
  }
  p.restore();
}

void PatternMapView::drawScales(QPainter& p) {
  const Theme& t = Theme::current();
  const QRectF r = plot();
  p.setPen(QPen(t.line, 1));
  p.drawRect(r);
  p.setFont(lettering(8));
  for (int a = -90; a <= 90; a += 30) {
    const double x = pointOf({double(a), 0}).x();
    p.setPen(QPen(t.quiet, 1));
    p.drawLine(QPointF(x, r.bottom()), QPointF(x, r.bottom() + 3));
    letter(p, {x - 20, r.bottom() + 3, 40, 12}, Qt::AlignHCenter | Qt::AlignTop,
           QStringLiteral("%1\u00b0").arg(std::abs(a)));
  }
  for (int e : {0, 30, 60}) {
    const double y = pointOf({0, double(e)}).y();
    p.setPen(QPen(t.quiet, 1));
    p.drawLine(QPointF(r.left() - 3, y), QPointF(r.left(), y));
    letter(p, {0, y - 7, r.left() - 4, 14}, Qt::AlignRight | Qt::AlignVCenter, QStringLiteral("%1\u00b0").arg(e));
  }
  // The nose, and the height of the face.
  p.setPen(QPen(QColor(0, 0, 0, 90), 1, Qt::DotLine));
  p.drawLine(QPointF(pointOf({0, 0}).x(), r.top()), QPointF(pointOf({0, 0}).x(), r.bottom()));
  p.drawLine(QPointF(r.left(), pointOf({0, 0}).y()), QPointF(r.right(), pointOf({0, 0}).y()));
}

void PatternMapView::drawLights(QPainter& p) {
  const QRectF r = plot();
  const SeenFromFace seen = seenFromFace(*map_->scene, shown());
  const auto on = [&](FaceDirection d) {
    const QPointF at = pointOf(d);
    return QPointF(std::clamp(at.x(), r.left() + 3, r.right() - 1), std::clamp(at.y(), r.top() + 6, r.bottom() - 8));
  };
  // The lens: a body with its barrel, seen from the front.
  const QPointF lens = on(seen.lens);
  p.setPen(QPen(Qt::white, 1));
  p.setBrush(Qt::black);
  p.drawRect(QRectF(lens.x() - 7, lens.y() - 5, 14, 10));
  p.drawEllipse(lens, 3.5, 3.5);
  for (int pass : {0, 1})
    for (const auto& [id, at] : seen.lights)
      if ((id == map_->key) == (pass == 1)) paintBadge(p, on(at), QString::fromStdString(id), pass == 1);
}

void PatternMapView::draw(QPainter& p) {
  const Theme& t = Theme::current();
  if (!map_) {
    p.fillRect(area(), t.window);
    p.setPen(t.quiet);
    p.setFont(lettering(10));
    p.drawText(area(), Qt::AlignCenter, tr("Trying places for the key on this face..."));
    return;
  }
  paintStill(ground_, p, *this, {double(maps_)}, [&](QPainter& still) {
    still.fillRect(area(), t.window);
    drawFields(still);
    drawScales(still);
  });
  drawLights(p);
  p.setPen(t.text);
  p.setFont(lettering(9));
  letter(p, {2, down() - 17, across() - 4, 16}, Qt::AlignLeft | Qt::AlignVCenter, foot(), true);
  if (hasFocus()) paintFocus(p, *this);
}

QString PatternMapView::patternAt(FaceDirection place) const {
  const PatternMap& m = map_->map;
  const int col = std::clamp(int(std::lround((place.azimuth - m.azimuthLeast) / m.step)), 0, m.columns - 1),
            row = std::clamp(int(std::lround((m.elevationMost - place.elevation) / m.step)), 0, m.rows - 1);
  if (!map_->hasRoom[size_t(row) * size_t(m.columns) + size_t(col)]) return tr("no room");
  const PatternAnalysis& a = m.at(col, row);
  const QString name = QString::fromStdString(patternName(a.pattern));
  return a.next == FacePattern::None ? name
                                     : tr("between %1 and %2").arg(name, QString::fromStdString(patternName(a.next)));
}

QString PatternMapView::said(FaceDirection place) const {
  const QString round = QString::number(std::lround(std::abs(place.azimuth))),
                up = QString::number(std::lround(std::abs(place.elevation))), pattern = patternAt(place);
  const bool left = place.azimuth >= 0;
  if (place.elevation < -0.5)
    return (left ? tr("%1° to the sitter's left, %2° down: %3") : tr("%1° to the sitter's right, %2° down: %3"))
        .arg(round, up, pattern);
  return (left ? tr("%1° to the sitter's left, %2° up: %3") : tr("%1° to the sitter's right, %2° up: %3"))
      .arg(round, up, pattern);
}

QString PatternMapView::foot() const {
  if (under_ && !dragging_) {
    const Light* key = shown().light(map_->key);
    if (!key) return said(*under_);
    const Light there = lightAt(bareSet(shown()), *map_->scene, *key, *under_, map_->distance);
    return tr("%1. %2, %3 high").arg(said(*under_), hourText(there.hour), lengthText(there.height));
  }
  const auto key = keyPlace();
  return key ? tr("%1 is %2").arg(QString::fromStdString(map_->key), said(*key)) : QString();
}

void PatternMapView::moveKey(FaceDirection to) {
  const Light* key = map_ ? shown().light(map_->key) : nullptr;
  if (!key) return;
  const PlacedSet set = bareSet(shown());
  const Light there = lightAt(set, *map_->scene, *key, to, map_->distance);
  if (hasRoom(set, there))
    viewed_->perform(SetLight{there}, tr("Move %1 on the map").arg(QString::fromStdString(map_->key)),
                     "map-" + QString::fromStdString(map_->key));
}

void PatternMapView::mousePressEvent(QMouseEvent* e) {
  const auto key = keyPlace();
  if (e->button() != Qt::LeftButton || !key) return;
  dragging_ = QLineF(pointOf(*key), e->position()).length() < 16;
  if (dragging_) emit selected(QString::fromStdString(map_->key));
}

void PatternMapView::mouseMoveEvent(QMouseEvent* e) {
  if (!map_) return;
  under_ = plot().contains(e->position()) || dragging_ ? std::optional(placeAt(e->position())) : std::nullopt;
  if (dragging_) moveKey(*under_);
  repaintSoon();
}

void PatternMapView::mouseReleaseEvent(QMouseEvent*) {
  dragging_ = false;
  viewed_->endMerge();
}

void PatternMapView::leaveEvent(QEvent*) {
  under_.reset();
  repaintSoon();
}

void PatternMapView::keyPressEvent(QKeyEvent* e) {
  const double by = e->modifiers() & Qt::ShiftModifier ? 5 : 1;
  const auto key = keyPlace();
  if (!key) return e->ignore();
  switch (e->key()) {
    case Qt::Key_Left:
      return moveKey({key->azimuth - by, key->elevation});
    case Qt::Key_Right:
      return moveKey({key->azimuth + by, key->elevation});
    case Qt::Key_Up:
      return moveKey({key->azimuth, key->elevation + by});
    case Qt::Key_Down:
      return moveKey({key->azimuth, key->elevation - by});
    default:
      e->ignore();
  }
}

}  // namespace easel::app
