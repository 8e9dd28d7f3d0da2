// What a stage lays over the picture: lines, marks and ringed places that show what is spoken of, the pins, and the
// meter as it is held. Interface thread.
#pragma once

#include <QObject>
#include <QPainterPath>
#include <memory>
#include <optional>
#include <vector>

#include "rendering/renderer.h"

class QPainter;
class QTransform;

namespace easel::app {

class EaselEvidence : public QObject {
  Q_OBJECT

 public:
  explicit EaselEvidence(QObject* parent = nullptr) : QObject(parent) {}

  /// What a reading shows. `dashes`: 0 strong, 1 coloured, 2 quiet.
  struct Trace {
    std::vector<std::pair<Vec3, Vec3>> lines;
    int dashes = 0;
    QString label;
  };
  struct Mark {
    QPointF pixel;  ///< of the layers
    QString label;
  };
  /// A place in the studio, ringed where it shows; strong: a ring that is seen first.
  struct Spot {
    Vec3 at;
    QString label;
    bool strong = false;
  };
  struct Laid {
    std::vector<Trace> traces;
    std::vector<Mark> marks;
    std::vector<Spot> spots;
  };
  /// A meter as it is held: where, which way its receptor looks, whether the dome is out.
  struct Meter {
    Vec3 at, looks;
    bool dome = false;
    QString words;
  };

  /// The picture that it lies on.
  void setResult(std::shared_ptr<const Result> result) { result_ = std::move(result); }
  void lay(const Laid& laid);
  bool any() const { return !drawn_.empty() || !marks_.empty() || !ringed_.empty(); }
  void setMeter(const std::optional<Meter>& meter) {
    meter_ = meter;
    emit changed();
  }
  const std::optional<Meter>& meter() const { return meter_; }
  void setPinsShown(bool on) {
    pins_ = on;
    emit changed();
  }

  /// `picture`: where all of it stands; `seen`: the part that is not hidden; `plain`: the picture is shown as it is,
  /// not compared and not as a map.
  void paint(QPainter& painter, const QRectF& picture, const QRectF& seen, bool plain) const;

 signals:
  void changed();

 private:
  /// Of the layers; empty when it is not in the picture.
  std::optional<QPointF> pixelAt(Vec3 point) const;
  void paintLaid(QPainter& painter, const QTransform& onto, const QRectF& picture, const QRectF& seen) const;
  void paintPins(QPainter& painter, const QTransform& onto) const;
  void paintMeter(QPainter& painter, const QTransform& onto, const QRectF& picture, const QRectF& shown) const;

  std::shared_ptr<const Result> result_;
  struct Drawn {
    QPainterPath path;  ///< in pixels of the layers, as all of these
    int dashes;
    QString label;
    QPointF leftmost, rightmost;
  };
  std::vector<Drawn> drawn_;
  std::vector<Mark> marks_;
  struct Ringed {
    QPointF at;
    QString label;
    bool strong;
  };
  std::vector<Ringed> ringed_;
  std::optional<Meter> meter_;
  bool pins_ = false;
};

}  // namespace easel::app
