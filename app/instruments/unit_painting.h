// How a unit is drawn, from above on the dial and from the side on the rail: one look for both.
#pragma once

#include <QPainter>
#include <QPixmap>
#include <functional>
#include <vector>

#include "gear/kit.h"
#include "gear/panel_kinds.h"
#include "widgets/painted.h"

namespace easel::app {

/// (across the modifier's face, along its axis) in metres -> widget.
using Placing = std::function<QPointF(double across, double along)>;

/// The beam, out to where intensity has fallen to half, fading over `reach` metres.
void paintBeam(QPainter& p, const Placing& at, double extent, double reach, const Modifier* modifier);
/// The modifier in outline, its light-giving face strong.
void paintBody(QPainter& p, const Placing& at, double extent, double depth, bool on, bool chosen);
/// The letter on the head.
void paintBadge(QPainter& p, QPointF centre, const QString& letter, bool chosen);
/// A panel's leaf as a polygon in the widget, filled by what its nearer side does with light: white, black, silver and
/// gold hatched, cloth that lets light through dotted.
void paintLeaf(QPainter& p, const QPolygonF& outline, const Finish& finish, bool chosen);
/// The number of a panel, on a tag.
void paintTag(QPainter& p, QPointF centre, const QString& number, bool chosen);
/// A ground for the line of words at an instrument's foot, so that what is drawn there does not run into it.
void paintFootGround(QPainter& p, const Painted& instrument);
/// Words beside a line, on a ground of their own where a line would run through them. `at`: left end of the baseline.
void paintLabel(QPainter& p, QPointF at, const QString& words);
/// The frame of the instrument that has the keys.
void paintFocus(QPainter& p, const Painted& instrument);

/// What is painted once and kept until something that it shows changes.
struct Still {
  std::vector<double> shows;
  QPixmap picture;
};
/// `shows`: all that `paint` depends on but the size, theme and units, which are looked at here.
void paintStill(Still& still, QPainter& to, const Painted& widget, std::vector<double> shows,
                const std::function<void(QPainter&)>& paint);

}  // namespace easel::app
