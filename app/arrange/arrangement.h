// Where views stand: a tree of rows and columns with views at its ends, and the geometry that follows from it. Views
// are known by name only. Pixels of the widget; any thread.
#pragma once

#include <QHash>
#include <QRect>
#include <QString>
#include <functional>
#include <vector>

namespace easel::app {

struct Arrangement {
  enum class Kind { View, Row, Column };
  Kind kind = Kind::View;
  QString view;                    ///< of a Kind::View
  std::vector<Arrangement> parts;  ///< of a row or a column, from left or top
  /// What it gets of the room that is left over when all have their least; 0: it takes what it wants and no more.
  double share = 1;
  bool glance = false;  ///< small, to be looked at and clicked, not worked in

  QStringList views() const;  ///< from left to right, from top to bottom
};

Arrangement shown(const QString& view, double share = 1);
/// Takes the height (in a column) or width (in a row) that it wants.
Arrangement exactly(const QString& view);
Arrangement glance(const QString& view, double share = 1);
Arrangement inRow(std::vector<Arrangement> parts, double share = 1);
Arrangement inColumn(std::vector<Arrangement> parts, double share = 1);

/// What a view needs at least, and what it would like.
struct Wants {
  QSize least, likes;
};

/// A gap between two neighbours that can be dragged.
struct Gap {
  QString path;    ///< of the row or column in the tree: "", "1", "1.0"
  int before = 0;  ///< the gap stands behind this part
  QRect rect;
  bool upright = false;  ///< between two columns
  int length = 0;        ///< of the whole row or column, in pixels
};

struct Placed {
  QHash<QString, QRect> views;
  std::vector<Gap> gaps;
};

constexpr int kGap = 5;

/// What the whole needs at least.
QSize leastOf(const Arrangement& a, const std::function<Wants(const QString&)>& wants);

/// `moved`: what the user made of the parts of a row or column, as fractions of its length, by path; a path that is
/// missing or has another count of parts is placed by the shares. Never smaller than what is needed as long as there is
/// room for it; where there is not, all give way alike.
Placed place(const Arrangement& a, const QRect& room, const std::function<Wants(const QString&)>& wants,
             const QHash<QString, std::vector<double>>& moved = {});

}  // namespace easel::app
